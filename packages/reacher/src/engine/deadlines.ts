/** Things that fall due by themselves. May change: the deadlines of one seat, all of which stand in its state. */
import { HeadInt } from "./layout.js";
import type { SeatState } from "./state.js";

/** Sets a deadline, or moves it. */
export function setDeadline(state: SeatState, id: number, at: number): void {
  const { f, i, tables } = state;
  const place = tables.deadlinesAt + id;
  if (f[place] === Infinity) i[tables.runningAt + i[HeadInt.Running]!++] = id;
  f[place] = at;
}

/** Takes a deadline away, if it is set. */
export function clearDeadline(state: SeatState, id: number): void {
  const { f, i, tables } = state;
  const place = tables.deadlinesAt + id;
  if (f[place] === Infinity) return;
  f[place] = Infinity;
  const last = --i[HeadInt.Running]!;
  let k = tables.runningAt;
  while (i[k] !== id) k++;
  i[k] = i[tables.runningAt + last]!;
}

/** The deadline that falls due first, or -1. At one moment the lowest comes first, which is the plan's order. */
export function firstDeadline(state: SeatState): number {
  const { f, i, tables } = state;
  const end = tables.runningAt + i[HeadInt.Running]!;
  let first = -1;
  let when = Infinity;
  for (let k = tables.runningAt; k < end; k++) {
    const id = i[k]!;
    const at = f[tables.deadlinesAt + id]!;
    if (at < when || (at === when && id < first)) {
      first = id;
      when = at;
    }
  }
  return first;
}
