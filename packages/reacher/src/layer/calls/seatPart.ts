/**
 * A group of calls of a seat. Each group is a class without fields of its own, whose methods are given to the seats that bring it: a game that was
 * made for its plan alone brings only the groups that it calls.
 */
import type { CheckedPlan } from "../../plan/checked.js";
import { shown } from "../../plan/depth.js";
import { ReacherError } from "../../plan/errors.js";
import { Bits, EventField, type EventKind } from "../../engine/queue.js";
import type { Reading } from "../../engine/readings.js";
import type { Scheduler } from "../../engine/scheduler.js";
import type { SeatEngine } from "../../engine/seat.js";
import type { WatchedCommand } from "../command.js";

/** What every seat has. */
export abstract class SeatPart {
  declare readonly name: string;
  /** The plan with this player's changes, as it was read. */
  declare checked: CheckedPlan;
  declare readonly engine: SeatEngine;
  declare readonly now: Reading;
  declare readonly scheduler: Scheduler;
  declare readonly counters: { late: number };

  /** Tells watchers what was done at once, or at a moment that is known. */
  abstract notifyCommand(command: WatchedCommand, t?: number): void;
}

/** Gives a class the calls of these groups. */
export function bring(
  seat: { readonly prototype: object },
  groups: readonly { readonly prototype: object }[],
): void {
  for (const { prototype } of groups) {
    const { constructor: _, ...calls } = Object.getOwnPropertyDescriptors(prototype) as Record<
      string,
      PropertyDescriptor
    >;
    Object.defineProperties(seat.prototype, calls);
  }
}

/** Puts a command into a seat's queue: at its moment, or at once. */
export function command(
  { engine, scheduler, counters }: Pick<SeatPart, "engine" | "scheduler" | "counters">,
  kind: EventKind,
  index: number,
  value: number,
  t: number | undefined,
  other = NaN,
): void {
  if (t === undefined) {
    engine.command(kind, index, value, other);
    return;
  }
  scheduler.scratchEvent[EventField.T] = t;
  scheduler.scratchEvent[EventField.Value] = value;
  scheduler.scratchEvent[EventField.Other] = other;
  if (scheduler.addEvent(engine.number, (index << Bits.Kind) | kind)) counters.late++;
}

/** @throws ReacherError if the game was built without this call */
export function mustBeMade({ engine }: Pick<SeatPart, "engine">, kind: EventKind, call: string): void {
  if (engine.tables.commands[kind] === undefined) throw notMade(call);
}

export function notMade(call: string): ReacherError {
  return new ReacherError(
    `this game was built without ${call}; build it with --calls ${call} (in Vite: reacher({ calls }) with all that it calls), or without --calls`,
  );
}

/** The place of a thing of the plan in its list. @throws ReacherError if the plan has none of this name */
export function indexIn(what: string, name: string, known: readonly { readonly name: string }[]): number {
  for (let n = 0; n < known.length; n++) if (known[n]!.name === name) return n;
  throw unknownName(what, name, known);
}

export function unknownName(
  what: string,
  name: string,
  known: readonly { readonly name: string }[],
): ReacherError {
  return new ReacherError(
    `the plan has no ${what} ${shown(name)}; it has ${known.map((one) => one.name).join(", ") || "none"}`,
  );
}

/** A switch of the plan. @throws ReacherError if it has none of this name */
export function switchOf({ engine }: Pick<SeatPart, "engine">, action: string) {
  const { switches } = engine.tables;
  const one = switches.find(({ name }) => name === action);
  if (one === undefined) throw unknownName("switch", action, switches);
  return one;
}
