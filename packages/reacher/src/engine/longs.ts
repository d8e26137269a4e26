/** How far long presses have come. Pure but for reading the state. */
import { GestureFloat, GestureInt, Clock } from "./layout.js";
import type { SeatState } from "./state.js";
import type { GestureTable } from "./tables.js";

/** How far a long press has come, 0..1; 0 where none is waited for. */
export function longProgress(state: SeatState, gesture: GestureTable): number {
  if (state.i[gesture.i + GestureInt.Count] === 0) return 0;
  return Math.min(1, (state.clock[Clock.Now]! - state.f[gesture.f + GestureFloat.LastAt]!) / gesture.ms);
}
