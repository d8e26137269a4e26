/** A player's changes as a file has them. In: anything. Out: overrides, or an error that names the place. */
import { isTooDeep, shownShort } from "../depth.js";
import { ReacherError } from "../errors.js";
import type { Plan, PlanPlayerFields } from "../types.js";

/** A player's changes: only what differs from the plan. */
export interface Overrides<A extends string = string, S extends string = string> {
  readonly reacherOverrides: 1;
  /** The name and the version of the plan that they were made for. */
  readonly plan?: string;
  readonly planVersion?: number;
  /**
   * By address (`swim.main.up`, `kick.spare`, `flash.main.1`): a control in place of the one there, a whole entry, or `null`
   * where the player cleared it. Of a chord or a series, `flash.pad.first` is its first member, `flash.pad` its last.
   */
  readonly controls?: AddressedBy<`${A}.${S}` | `${A}.${S}.${string}`, A>;
  /**
   * By address (`kick.style`, `surge.gapMs`, `swim.deadZone.inner`): what the player chose. How a stick or the mouse feels may be
   * set for a slot alone: `look.main.gain`, which multiplies `look.gain`. Without an action, for the whole plan:
   * `bounceMs` in ms, `swapSticks: true`, `holds: "toggle"`.
   */
  readonly settings?: AddressedBy<`${A}.${string}` | keyof PlanPlayerFields, A>;
}

/** Changes by address. Of a plan that the compiler knows, an address of another action or slot does not compile. */
export type AddressedBy<Address extends string, A extends string> = string extends A
  ? Readonly<Record<string, unknown>>
  : { readonly [address in Address]?: unknown };

/** Something in a player's overrides that was not applied as it is. */
export interface OverrideFault {
  /** `controls.swim.main.up`, `settings.surge.gapMs`; empty for all of them. */
  readonly place: string;
  readonly message: string;
  /** `rejected`: not applied, and kept. `clamped`: the nearest allowed value is applied. `warned`: applied, and something suffers. */
  readonly what: "rejected" | "clamped" | "warned";
}

/** The plan as a player has it, and what did not fit. */
export interface OverriddenPlan {
  /** As the author would have written it. */
  readonly plan: Plan;
  readonly faults: readonly OverrideFault[];
}

/** Reads overrides from outside. @throws ReacherError naming the place, if they are not overrides */
export function parseOverrides(raw: unknown): Overrides {
  if (!isObject(raw)) throw new ReacherError("overrides are an object that begins with reacherOverrides");
  if (raw["reacherOverrides"] !== 1) {
    const version = shownShort(raw["reacherOverrides"], 40);
    throw new ReacherError(
      version === undefined
        ? `these are no overrides: reacherOverrides is missing${"reacherPlan" in raw ? "; this is a plan" : ""}`
        : `reacherOverrides: ${version.slice(0, 40)} is not known; this version reads 1`,
    );
  }
  for (const field of ["controls", "settings"])
    if (raw[field] !== undefined && !isObject(raw[field]))
      throw new ReacherError(`${field}: it is an object, with an address for each change`);
  mustBeFlat(raw as unknown as Overrides);
  return raw as unknown as Overrides;
}

/** @throws ReacherError naming a change that is nested too deep */
function mustBeFlat({ controls = {}, settings = {} }: Overrides): void {
  for (const [field, changes] of Object.entries({ controls, settings }))
    for (const [address, value] of Object.entries(changes))
      if (isTooDeep(value))
        throw new ReacherError(
          `${field}.${address.slice(0, 80)}: it is nested deeper than any entry; take it out of the file`,
        );
}

function isObject(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
