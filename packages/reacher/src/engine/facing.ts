/**
 * The direction last moved in. In: the movement before ease. Out: the facing, which stays when the movement ends.
 *
 * Two keys of a diagonal are never let go at one moment. So from a diagonal to one of its two neighbours the facing
 * changes only once that movement has gone on for `settleMs`.
 */
import { Clock, MoverFloat, MoverInt } from "./layout.js";
import { clearDeadline, setDeadline } from "./deadlines.js";

import type { SeatState } from "./state.js";
import { type MoverTable } from "./tables.js";

/** Follows the movement. `free`: it comes from a stick that has no set directions. `sector`: else, which of the eight it is, or -1. */
export function faceMovement(state: SeatState, mover: MoverTable, free: boolean, sector: number): void {
  const { f, i } = state;
  const length = f[mover.f + MoverFloat.Length]!;
  if (i[mover.i + MoverInt.Settling] === -1) {
    if (length === 0) return;
    if (free) {
      faceFreely(state, mover, length);
      return;
    }
  }
  if (sector >= 0 && needsSettling(i[mover.i + MoverInt.Face]!, sector)) {
    if (i[mover.i + MoverInt.Settling] === sector) return;
    i[mover.i + MoverInt.Settling] = sector;
    setDeadline(state, mover.settle, state.clock[Clock.Now]! + mover.settleMs);
    return;
  }
  if (i[mover.i + MoverInt.Settling] !== -1) {
    i[mover.i + MoverInt.Settling] = -1;
    clearDeadline(state, mover.settle);
  }
  if (sector >= 0) i[mover.i + MoverInt.Face] = sector;
  else faceFreely(state, mover, length);
}

/** Turns to wherever a stick points. Whoever reads it divides by its length: a stick moves far more often than anybody asks. */
function faceFreely({ f, i }: SeatState, mover: MoverTable, length: number): void {
  if (length === 0 || length < mover.facingFrom) return;
  i[mover.i + MoverInt.Face] = -1;
  f[mover.f + MoverFloat.FaceX] = f[mover.f + MoverFloat.X]!;
  f[mover.f + MoverFloat.FaceY] = f[mover.f + MoverFloat.Y]!;
}

/** The movement has gone on long enough. */
export function settleFacing(state: SeatState, id: number): void {
  const mover = state.tables.mover[id]!;
  const sector = state.i[mover.i + MoverInt.Settling]!;
  state.i[mover.i + MoverInt.Settling] = -1;
  state.i[mover.i + MoverInt.Face] = sector;
  state.markMoved(id);
}

/** True from a diagonal (an odd sector) to one of the two beside it. */
function needsSettling(from: number, to: number): boolean {
  return (from & 1) === 1 && from > 0 && (((from + 1) & 7) === to || from - 1 === to);
}
