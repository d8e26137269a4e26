/** The speed that goes with a vector. In: the facts that its rules name. Out: the pace, moving in a straight line to its value. */

import { Head, MoverFloat } from "./layout.js";
import type { SeatState } from "./state.js";
import { type MoverTable, type PaceTable, type WordTable } from "./tables.js";

/** Works the rules out anew. */
export function updatePace(state: SeatState, id: number): void {
  const { f } = state;
  const mover = state.tables.mover[id]!;
  const pace = mover.pace!;
  const to = ruledPace(state, pace);
  if (f[mover.f + MoverFloat.PaceTo] === to) return;
  f[mover.f + MoverFloat.PaceFrom] = paceNow(state, mover);
  f[mover.f + MoverFloat.PaceTo] = to;
  f[mover.f + MoverFloat.PaceAt] = f[Head.Now]!;
  state.markMoved(id);
}

/** The pace of the start: there at once. */
export function startPace(state: SeatState, mover: MoverTable): void {
  const at = mover.f;
  // A vector without a pace moves at its own length: 1 a second, in whatever the game measures.
  const pace = mover.pace === undefined ? 1 : ruledPace(state, mover.pace);
  state.f[at + MoverFloat.PaceFrom] = state.f[at + MoverFloat.PaceTo] = pace;
  state.f[at + MoverFloat.PaceAt] = -Infinity;
}

/** The pace at this moment: a function of time, not of the number of steps. */
export function paceNow(state: SeatState, mover: MoverTable): number {
  const { f } = state;
  const to = f[mover.f + MoverFloat.PaceTo]!;
  const { easeMs } = mover;
  if (easeMs === 0) return to;
  const since = f[Head.Now]! - f[mover.f + MoverFloat.PaceAt]!;
  if (since >= easeMs) return to;
  const from = f[mover.f + MoverFloat.PaceFrom]!;
  return from + ((to - from) * since) / easeMs;
}

function ruledPace(state: SeatState, pace: PaceTable): number {
  let value = pace.base;
  for (let n = 0; n < pace.rules.length; n++) {
    const rule = pace.rules[n]!;
    if (wordsHold(state, rule.words)) value = rule.set ? rule.by : value * rule.by;
  }
  return value;
}

/** Whether all that the words ask for is so. */
export function wordsHold(state: SeatState, words: readonly WordTable[]): boolean {
  for (let n = 0; n < words.length; n++) {
    if (state.fact(words[n]!.fact) !== words[n]!.truth) return false;
  }
  return true;
}
