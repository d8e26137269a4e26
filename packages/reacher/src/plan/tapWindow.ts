/** The window that fits a hand: what a tap test and statistics over recordings propose alike. In: the slowest of some double taps. Pure. */

/** From so few double taps a window is proposed. */
export const FEWEST_PAIRS = 5;

/** Room above the slowest pair, so that a tired hand is not shut out. */
const ROOM = 1.2;
const ROUND_TO = 10;

/** The window for a hand whose slowest pair took this long, in ms from the first press to the second. */
export function roomyWindow(slowestMs: number): number {
  return Math.ceil((Math.ceil(slowestMs) * ROOM) / ROUND_TO) * ROUND_TO;
}
