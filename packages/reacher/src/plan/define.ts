/** A plan written in TypeScript: every name in it is known to the compiler, and completed by the editor. */
import type {
  AxisControlName,
  PressName,
  TurnControlName,
  VectorControlName,
} from "../controls/controlNames.js";
import type { OwnKind } from "../controls/ownControls.js";
import type { Action, Flag, Kinds, Mode, OwnControlFields, Plan, SeatFields, Slot, Style } from "./types.js";

/** Directions as conditions and switches may name them: `swim.right`, `swim.upLeft`, `walk.left`. */
export type DirectionName<K extends Kinds, D> = {
  [A in keyof K & string]: K[A] extends "vector"
    ? `${A}.${"up" | "left" | "down" | "right" | "upLeft" | "upRight" | "downLeft" | "downRight"}`
    : K[A] extends "axis"
      ? `${A}.${A extends keyof D ? (string extends D[A] ? "minus" | "plus" : D[A] & string) : "minus" | "plus"}`
      : never;
}[keyof K & string];

/** What a plan's own controls are called where they are used for this. */
export type OwnName<C, Use extends "press" | "axis" | "vector" | "turn"> = {
  [A in keyof C & string]: {
    press: {
      button: A;
      trigger: A;
      axis: A;
      stick: `${A}${"Up" | "Down" | "Left" | "Right"}`;
      amount: never;
    };
    axis: { button: never; trigger: A; axis: A; stick: `${A}${"X" | "Y"}`; amount: never };
    vector: { button: never; trigger: never; axis: never; stick: A; amount: never };
    turn: { button: never; trigger: never; axis: never; stick: A; amount: A };
  }[Use][(C[A] extends { readonly kind: infer Named } ? Named : C[A]) & OwnKind];
}[keyof C & string];

/** The conditions of a plan. */
export type ConditionName<K extends Kinds> = {
  [A in keyof K & string]: K[A] extends "turn" ? never : A;
}[keyof K & string];

/** The names that the fields of this plan may have. They are inferred elsewhere, but for the slots of a plan that names none. */
export interface NamesIn<
  K extends Kinds,
  F extends string,
  N extends string,
  S extends string,
  M extends string,
  D,
  U extends string,
  C = Record<never, never>,
  P extends string = string,
> {
  readonly source: NoInfer<
    | PressName
    | DirectionName<K, D>
    // An axis or a vector itself; and all its directions, for taps.
    | keyof { [A in keyof K & string as K[A] extends "axis" | "vector" ? A | `${A}.each` : never]: 0 }
    | OwnName<C, "press">
  >;
  readonly end: PressName | NoInfer<OwnName<C, "press">>;
  readonly axis: AxisControlName | NoInfer<OwnName<C, "axis">>;
  readonly vector: VectorControlName | NoInfer<OwnName<C, "vector">>;
  readonly turn: TurnControlName | NoInfer<OwnName<C, "turn">>;
  readonly slot: NoInfer<S>;
  readonly used: U;
  readonly mode: NoInfer<M>;
  readonly word: NoInfer<`${"" | "not "}${F | ConditionName<K> | DirectionName<K, D>}`>;
  readonly flag: NoInfer<F>;
  readonly number: NoInfer<N>;
  readonly spot: NoInfer<P>;
}

/**
 * Here the compiler finds the slots of a plan that names none: those that its actions use. Any other field is open, since what a field
 * may be stands in `Action`.
 */
export interface UsesSlots<S extends string, U extends string> {
  readonly from: string extends S ? { readonly [slot in U]?: unknown } : unknown;
  readonly [field: string]: unknown;
}

/** A plan whose names are all checked against the plan itself. */
export interface TypedPlan<
  K extends Kinds,
  F extends string,
  N extends string,
  S extends string,
  M extends string,
  E extends string,
  G extends object,
  D extends object,
  U extends string,
  C extends Readonly<Record<string, OwnKind | OwnControlFields>>,
  T extends object,
  P extends string,
> extends Omit<
  Plan,
  "controls" | "slots" | "flags" | "numbers" | "spots" | "modes" | "start" | "seats" | "protected" | "actions"
> {
  readonly controls?: C;
  readonly slots?: Readonly<Record<S, Slot>>;
  readonly flags?: Readonly<Record<F, boolean | Flag>>;
  readonly numbers?: Readonly<Record<N, number>>;
  readonly spots?: Readonly<Record<P, readonly [x: number, y: number]>>;
  readonly modes?: Readonly<Record<M, Mode>>;
  readonly start?: readonly NoInfer<M>[];
  readonly seats?: Readonly<Record<E, SeatFields & { readonly slots: readonly NoInfer<S>[] }>>;
  readonly protected?: readonly (PressName | NoInfer<OwnName<C, "press">>)[];
  readonly actions: {
    readonly [A in keyof K]: Action<K[A], NamesIn<K, F, N, S, M, D, U, C, P>>;
  } & {
    readonly [A in keyof G]:
      // Discriminated by kind, so that other kinds do not have it.
      { readonly kind: "switch" | "turn" } | { readonly kind: "axis" | "vector"; readonly gaits?: G[A] };
  } & {
    readonly [A in keyof D]:
      | { readonly kind: "switch" | "turn" | "vector" }
      | { readonly kind: "axis"; readonly ends?: readonly [D[A], D[A]] };
  } & {
    readonly [A in keyof T]:
      | { readonly kind: "axis" | "vector" | "turn" }
      | { readonly kind: "switch"; readonly style?: T[A] extends Style ? T[A] : Style };
  } & Readonly<Record<string, UsesSlots<S, U>>>;
}

/**
 * Returns the plan unchanged, typed: readings have its fields, and names that it does not have fail to compile: a control, a
 * slot, a mode, a direction, a condition. The plan itself is checked when a layer is made from it.
 */
export function definePlan<
  const K extends Kinds,
  const F extends string = never,
  const N extends string = never,
  const S extends string = string,
  const M extends string = never,
  const E extends string = "solo",
  const G extends object = Record<never, never>,
  const D extends object = Record<never, never>,
  const U extends string = string,
  const C extends Readonly<Record<string, OwnKind | OwnControlFields>> = Record<never, never>,
  const T extends object = Record<never, never>,
  const P extends string = never,
>(
  plan: TypedPlan<K, F, N, S, M, E, G, D, U, C, T, P>,
): Plan<
  K,
  F,
  N,
  {
    slots: string extends S ? U : S;
    modes: M;
    seats: E;
    gaits: { [A in keyof G & string]: G[A] extends object ? keyof G[A] & string : string };
    ends: { [A in keyof D & string]: D[A] & string };
    spots: P;
    // Those whose style is not known are taken for holds.
    toggles: {
      [A in keyof T & string]: T[A] extends "toggle" | "either" ? A : never;
    }[keyof T & string];
  }
> {
  return plan as never;
}
