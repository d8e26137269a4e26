/** The speed that goes with a vector. In: the facts that its rules name. Out: the pace, moving in a straight line to its value. */

import { Clock, MoverFloat } from "./layout.js";
import type { SeatState } from "./state.js";
import { type MoverTable, type PaceTable, type WordTable } from "./tables.js";

/** Works the rules out anew. Numbers stay in the state: handed from function to function they would be allocated. */
export function updatePace(state: SeatState, id: number): void {
  const { f } = state;
  const mover = state.tables.mover[id]!;
  const at = mover.f;
  const before = f[at + MoverFloat.PaceTo]!;
  let now = before;
  if (mover.easeMs > 0) now = paceNow(state, mover);
  rulePace(state, mover, mover.pace!);
  if (f[at + MoverFloat.PaceTo] === before) return;
  if (mover.easeMs > 0) {
    f[at + MoverFloat.PaceFrom] = now;
    f[at + MoverFloat.PaceAt] = state.clock[Clock.Now]!;
  }
  state.markMoved(id);
}

/** The pace of the start: there at once. */
export function startPace(state: SeatState, mover: MoverTable): void {
  const at = mover.f;
  // A vector without a pace moves at its own length: 1 a second, in whatever the game measures.
  if (mover.pace === undefined) state.f[at + MoverFloat.PaceTo] = 1;
  else rulePace(state, mover, mover.pace);
  if (mover.easeMs === 0) return;
  state.f[at + MoverFloat.PaceFrom] = state.f[at + MoverFloat.PaceTo]!;
  state.f[at + MoverFloat.PaceAt] = -Infinity;
}

/** The pace at this moment: a function of time, not of the number of steps. */
export function paceNow(state: SeatState, mover: MoverTable): number {
  const { f } = state;
  const to = f[mover.f + MoverFloat.PaceTo]!;
  const { easeMs } = mover;
  if (easeMs === 0) return to;
  const since = state.clock[Clock.Now]! - f[mover.f + MoverFloat.PaceAt]!;
  if (since >= easeMs) return to;
  const from = f[mover.f + MoverFloat.PaceFrom]!;
  return from + ((to - from) * since) / easeMs;
}

/** Writes what the rules give now into the pace that the mover moves to. */
function rulePace(state: SeatState, mover: MoverTable, pace: PaceTable): void {
  let value = pace.base;
  for (let n = 0; n < pace.rules.length; n++) {
    const rule = pace.rules[n]!;
    if (wordsHold(state, rule.words)) value = rule.set ? rule.by : value * rule.by;
  }
  state.f[mover.f + MoverFloat.PaceTo] = value;
}

/** Whether all that the words ask for is so. */
export function wordsHold({ i }: SeatState, words: readonly WordTable[]): boolean {
  for (let n = 0; n < words.length; n++) {
    const word = words[n]!;
    if (i[word.at] !== word.truth) return false;
  }
  return true;
}
