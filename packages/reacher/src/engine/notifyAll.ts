/** Calls all that listen to a signal. */
import type { SeatState } from "./state.js";

interface Hearing<Signal> {
  press(s: SeatState, signal: Signal): void;
  release(s: SeatState, signal: Signal): void;
}

export function notifyAll<Signal>(
  s: SeatState,
  signal: Signal,
  all: readonly Hearing<Signal>[],
  isPress: boolean,
): void {
  for (let n = 0; n < all.length; n++) {
    if (isPress) all[n]!.press(s, signal);
    else all[n]!.release(s, signal);
  }
}
