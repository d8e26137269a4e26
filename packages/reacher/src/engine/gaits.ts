/** Named bands of a length. In: a mover's length. Out: its gait. A gait once reached is kept until a margin below its beginning. */

import { MoverFloat, MoverInt } from "./layout.js";
import type { SeatState } from "./state.js";
import type { MoverTable } from "./tables.js";

export function updateGait(state: SeatState, mover: MoverTable): void {
  const length = state.f[mover.f + MoverFloat.Length]!;
  const { gaitFrom, gaitKept } = mover;
  let gait = length === 0 ? -1 : state.i[mover.i + MoverInt.Gait]!;
  while (gait >= 0 && length < gaitKept[gait]!) gait--;
  while (gait + 1 < gaitFrom.length && length >= gaitFrom[gait + 1]!) gait++;
  state.i[mover.i + MoverInt.Gait] = gait;
}
