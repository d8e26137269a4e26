/** The reading of a seat: one object for each action, made once. */
import type { Kind, Kinds } from "../plan/types.js";
import type { AxisReading, FacingReading, MovementReading, VectorReading } from "./movement/readings.js";
import type { EndedBy, SwitchReading } from "./switches/reading.js";
import type { TurnReading } from "./turns/reading.js";
import type { ActionReading, ReadSeat } from "./reading.js";
import type { Tables } from "./tables.js";

export type {
  ActionReading,
  AxisReading,
  EndedBy,
  FacingReading,
  MovementReading,
  SwitchReading,
  TurnReading,
  VectorReading,
};

/** The reading of an action of this kind. */
export type ReadingOf<T extends Kind> = T extends "switch"
  ? SwitchReading
  : T extends "axis"
    ? AxisReading
    : T extends "turn"
      ? TurnReading
      : VectorReading;

/** With the names of its gaits, if the plan's type knows them. */
export type WithGaits<R, G> = R extends MovementReading
  ? string extends G
    ? R
    : R & { readonly gait: G | null }
  : R;

/** The reading of each action, typed by its kind, and its gait by the plan's names. */
export type Reading<K extends Kinds = Kinds, G = Readonly<Record<string, string>>> = {
  readonly [A in keyof K]: WithGaits<ReadingOf<K[A]>, A extends keyof G ? G[A] : string>;
};

/** Made in one go, in the plan's order: an object that grows key by key becomes slow to read. */
export function makeReading(s: ReadSeat, { actions, readings }: Tables): Reading {
  return readingOf(actions.map(({ name }, n) => [name, readings[n]!(s, n)]));
}

/** The reading for another plan. Actions that it still has, of the same kind, keep their objects. */
export function readingAnew(now: Reading, s: ReadSeat, before: Tables, after: Tables): Reading {
  const kinds = new Map(before.actions.map(({ name, kind }) => [name, kind]));
  for (const { name } of before.actions) (now[name] as ActionReading).moveTo(-1);
  return readingOf(
    after.actions.map(({ name, kind }, n) => {
      if (kinds.get(name) !== kind) return [name, after.readings[n]!(s, n)];
      (now[name] as ActionReading).moveTo(n);
      return [name, now[name]];
    }),
  );
}

function readingOf(all: [string, unknown][]): Reading {
  return Object.freeze(Object.fromEntries(all)) as Reading;
}
