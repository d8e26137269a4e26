/**
 * What rules report about an event: each has its explanation as a function beside it. Only `explain` imports these, so a game
 * that never explains neither runs nor ships them.
 */
import { Clock } from "./clock.js";
import type { Signal } from "./signals.js";
import type { SeatState } from "./state.js";
import type { Tables } from "./tables.js";
import type { Timer } from "./timers.js";

/** A seat's cells before an event, and the seat after it. */
export interface Change {
  readonly before: Pick<SeatState, "f" | "i" | "b">;
  readonly after: Pick<SeatState, "f" | "i" | "b" | "clock">;
  readonly tables: Tables;
  /** The timer that was due, if the event was a timer. */
  readonly due: Timer | undefined;
  /** The signals that the event made rise. */
  readonly risen: readonly Signal[];
}

/** The outcome of an event for an action. */
export interface Because {
  /** `counts`: a press that is part of something. `nothing`: a press that did nothing. */
  readonly outcome: "on" | "off" | "counts" | "nothing";
  /** The rule that decided. */
  readonly rule: string;
  /** One sentence without its full stop. */
  readonly text: string;
}

/** How a gesture explains a press, a release, and a timer of its own. */
export interface GestureWhy<G> {
  pressed(gesture: G, signal: Signal, change: Change): Because;
  released?(gesture: G, signal: Signal, change: Change): Because | undefined;
  due?(gesture: G, change: Change): Because | undefined;
}

/** A press this long after another is taken as unrelated, in ms. */
export const LATE_MS = 1000;

export function because(outcome: Because["outcome"], rule: string, text: string): Because {
  return { outcome, rule, text };
}

export function ms(value: number): string {
  return `${Math.round(value * 10) / 10} ms`;
}

export function nowOf({ after }: Change): number {
  return after.clock[Clock.Now]!;
}

/** The length of a window in progress, in ms, which keeps what it began with; one that has lapsed has its rule's own. */
export function windowOf({ f }: Pick<SeatState, "f">, begin: number, end: number, own: number): number {
  return f[end] === -Infinity ? own : f[end]! - f[begin]!;
}

/** Whether it was pressed: what comes out may be there without a press. */
export function hasRisen({ up, isResult, pressedAt }: Signal, change: Change): boolean {
  const { before, after } = change;
  const isPress = !isResult || after.f[pressedAt] === nowOf(change);
  return before.b[up] === 0 && after.b[up] === 1 && isPress;
}

export function hasFallen({ up }: Signal, { before, after }: Change): boolean {
  return before.b[up] === 1 && after.b[up] === 0;
}
