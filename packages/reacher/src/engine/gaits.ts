/** Named bands of a length. In: a mover's length. Out: its gait. A gait once reached is kept until a margin below its beginning. */

import { MoverFloat, MoverInt } from "./layout.js";
import { easedNow, Part } from "./ease.js";
import type { SeatState } from "./state.js";
import type { MoverTable } from "./tables.js";

const ROUNDING = 1e-9;

export function updateGait(state: SeatState, mover: MoverTable): void {
  const eased = mover.ease !== undefined;
  const length = eased ? easedNow(state, mover, Part.Length) : state.f[mover.f + MoverFloat.Length]!;
  const { gaitFrom, gaitKept } = mover;
  // The moment at which a ramp reaches a gait is worked out, and rounded.
  const near = eased ? ROUNDING : 0;
  let gait = length === 0 ? -1 : state.i[mover.i + MoverInt.Gait]!;
  while (gait >= 0 && length < gaitKept[gait]! + near) gait--;
  while (gait + 1 < gaitFrom.length && length + near >= gaitFrom[gait + 1]!) gait++;
  state.i[mover.i + MoverInt.Gait] = gait;
}
