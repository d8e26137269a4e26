/** What a plan may add to a switch: each hook is filled by a rule in a file of its own. */
import type { Signal } from "../signals.js";
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
  /** It has begun by a press: what others keep is too late. */
  began(s: SeatState): void;
  beat(s: SeatState): void;
}

/** What goes on while it is on. */
export interface Rhythm {
  begin(s: SeatState): void;
  end(s: SeatState, isRelease: boolean): void;
  /** What is put off comes no more. */
  drop(s: SeatState): void;
  reset(s: SeatState): void;
  /** Whether it pulsed when it last began. */
  readonly isPulsing: boolean;
  pulsesNow(s: SeatState): number;
}

/** Keeps a press that cannot begin yet, and what has begun until the game takes it. */
export interface Keeper {
  /** Keeps the press at hand: of a key, or of the game. */
  keep(s: SeatState, isDriven: boolean): void;
  /** Forgets the press; and what waits to be taken. */
  drop(s: SeatState): void;
  dropAll(s: SeatState): void;
  /** A device is lost: what it pressed is forgotten. */
  lose(s: SeatState, isLost: (signal: Signal) => boolean): void;
  /** Whether something has begun that nobody was told of. */
  takeNews(): boolean;
  isGranted(s: SeatState): boolean;
  take(s: SeatState): boolean;
}

/** The game presses it itself. */
export interface Driver {
  /** The reasons for which it does, one bit each (int), and what has come of the press (byte): 0 both where it does not. */
  readonly reasons: number;
  readonly press: number;
  drive(s: SeatState, reason: number, isOn: boolean): void;
  isDown(s: SeatState): boolean;
  /** Whether it keeps the switch on, whatever hands do. */
  keepsOn(s: SeatState): boolean;
  /** Whether the switch is on with what the game presses, beside what hands want. `isBlip`: it rises and falls at this moment. */
  add(s: SeatState, byHands: number, needsHold: boolean, isBlip: boolean): number;
  /** Its press counts no more. */
  spend(s: SeatState): void;
  /** Its press counts as a new one. */
  renew(s: SeatState): void;
  reset(s: SeatState): void;
}
