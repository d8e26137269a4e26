/** The reading of a seat: one object for each action, made once. */
import type { Kind, Kinds } from "../plan/types.js";
import type { AxisReading, FacingReading, VectorReading } from "./movement/readings.js";
import type { EndedBy, SwitchReading } from "./switches/reading.js";
import type { TurnReading } from "./turns/reading.js";
import type { ActionReading, ReadSeat } from "./reading.js";
import type { Tables } from "./tables.js";

export type { ActionReading, AxisReading, EndedBy, FacingReading, SwitchReading, TurnReading, VectorReading };

/** The reading of an action of this kind. */
export type ReadingOf<T extends Kind> = T extends "switch"
  ? SwitchReading
  : T extends "axis"
    ? AxisReading
    : T extends "turn"
      ? TurnReading
      : VectorReading;

/** The reading of each action, typed by its kind. */
export type Reading<K extends Kinds = Kinds> = { readonly [A in keyof K]: ReadingOf<K[A]> };

/** Made in one go, in the plan's order: an object that grows key by key turns slow to read. */
export function makeReading(s: ReadSeat, { actions, readings }: Tables): Reading {
  const all = actions.map(({ name }, n) => [name, readings[n]!(s, n)]);
  return Object.freeze(Object.fromEntries(all)) as Reading;
}
