/** Whether hands work an action now: a mode of it is on and not covered, and nothing mutes it. For readings. */
import type { SeatState } from "./state.js";
import { Live, type Action } from "./tables.js";

export function isLive({ b }: SeatState, rule: object): boolean {
  return b[(rule as Action).liveAt] === Live.Yes;
}
