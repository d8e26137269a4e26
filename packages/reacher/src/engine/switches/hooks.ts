/** What a plan may add to a switch: each hook is filled by a rule in a file of its own. */
import type { SeatState } from "../state.js";

/** What a press makes of it: toggle, either. Its state stands in the switch's latch. */
export interface Style {
  isOff(s: SeatState): boolean;
  press(s: SeatState, needsHold: boolean): void;
  release(s: SeatState, isAble: boolean): void;
  /** A need has failed. */
  fail(s: SeatState): void;
  /** Its press is over without a release that counts. */
  cancel(s: SeatState): void;
  wants(s: SeatState, up: number): number;
  start(s: SeatState): void;
}

/** What must be so while it is on. */
export interface Requirement {
  readonly resumes: boolean;
  hold(s: SeatState): boolean;
}

/** What is asked, and noted, when a press turns it on. */
export interface Beginning {
  refuses(s: SeatState): boolean;
  begin(s: SeatState): void;
}

/** Who else is concerned when it turns on. */
export interface Rivals {
  pressed(s: SeatState): void;
  beat(s: SeatState): void;
}

/** What goes on while it is on. */
export interface Rhythm {
  begin(s: SeatState): void;
  end(s: SeatState): void;
  pulsesNow(s: SeatState): number;
}

/** Keeps a press for `take`. */
export interface Keeper {
  press(s: SeatState): void;
  drop(s: SeatState): void;
  take(s: SeatState): boolean;
}
