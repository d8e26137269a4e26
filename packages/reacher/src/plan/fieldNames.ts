/** The names that a plan's type carries, and those that its fields may have: any of a plan that comes as JSON, else the plan's own. */

/** Names of a plan beside its actions, flags and numbers, carried in its type: slots, modes and seats; gaits and ends by action; which switches stay on by themselves; spots. */
export interface OtherNames {
  readonly slots: string;
  readonly modes: string;
  readonly seats: string;
  readonly gaits: Readonly<Record<string, string>>;
  readonly ends: Readonly<Record<string, string>>;
  readonly toggles: string;
  readonly spots: string;
}

/** Any names: of a plan that comes as JSON. */
export type AnyOtherNames = OtherNames;

/** What the fields of an action may name, each for its use. */
export interface FieldNames {
  /** What a switch is driven by: a control, or a direction such as `swim.right`. */
  readonly source: string;
  /** Controls: for an end of a movement, an axis, a vector, a turn. */
  readonly end: string;
  readonly axis: string;
  readonly vector: string;
  readonly turn: string;
  readonly slot: string;
  /** Where a plan names no slots: those that its actions use. */
  readonly used: string;
  readonly mode: string;
  /** A flag or an action, with or without `not `. */
  readonly word: string;
  readonly flag: string;
  readonly number: string;
  readonly spot: string;
}

/** Any names: of a plan that comes as JSON, which is looked at when it is read. */
export type AnyNames = FieldNames;

/** By slot: one entry, or a list of them. */
export type InSlots<N extends FieldNames, Entry> = string extends N["slot"]
  ? string extends N["used"]
    ? Readonly<Record<string, Entry | readonly Entry[]>>
    : { readonly [slot in N["used"]]?: Entry | readonly Entry[] }
  : { readonly [slot in N["slot"]]?: Entry | readonly Entry[] };
