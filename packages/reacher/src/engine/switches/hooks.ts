/** Hooks for what a plan may add to a switch: each is implemented by a rule in a file of its own. */
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { SourceRule } from "../tables.js";

/** How presses latch it: toggle, either. Its state is the switch's latch. */
export interface Style {
  isOff(s: SeatState): boolean;
  /** Whether a press turns it on: one that a mode hides may be held, and another of its keys is pressed. */
  turnsOn(s: SeatState): boolean;
  press(s: SeatState, needsHold: boolean): void;
  release(s: SeatState, isAble: boolean): void;
  /** A need has failed. */
  fail(s: SeatState): void;
  /** Its press ends without a release that counts. */
  cancel(s: SeatState): void;
  wants(s: SeatState, up: number): number;
  start(s: SeatState): void;
}

/** What must be true while it is on. */
export interface Requirement {
  hold(s: SeatState): boolean;
  /** Whether what is held comes back from what fails now. */
  resumes(s: SeatState): boolean;
  /** Whether a press waits for what fails now, as long as it is held, even where presses are kept for a time. */
  readonly waits: boolean;
}

/** What is checked, and recorded, when a press turns it on. */
export interface StartGuard {
  refuses(s: SeatState): boolean;
  /** Until when it refuses for sure. */
  refusesUntil?(s: SeatState): number;
  begin(s: SeatState): void;
}

/** Each press of any of its keys is one of its own. Sources are told by their place among the switch's. */
export interface Renewal {
  /** Whether it began anew in this event, and whether a press at this moment alone is not evaluated yet (bytes). */
  readonly begins: number;
  readonly instant: number;
  press(s: SeatState, source: SourceRule, isNew: boolean): void;
  /** Whether the press of a source has not been evaluated yet. */
  isNew(s: SeatState, source: SourceRule): boolean;
  /** Whether anything that is down holds the switch on; and what was pressed last of it, -1 for nothing. */
  holds(s: SeatState): boolean;
  newest(s: SeatState): number;
  /** The next press that has not been evaluated yet, which counts until it is refused; -1 if there is none. */
  take(s: SeatState): number;
  refuse(s: SeatState, source: number): void;
  /** What is down must be pressed again. */
  spendAll(s: SeatState): void;
  /** A press that was kept is to be evaluated now; false if its key is up. */
  renew(s: SeatState, signal: Signal): boolean;
}

/** Other switches that are affected when it turns on. */
export interface ExclusiveGroup {
  pressed(s: SeatState): void;
  /** Whether one that was pressed later keeps it off: it is on, or about to begin in this event. */
  isBeaten(s: SeatState): boolean;
  turnOthersOff(s: SeatState): void;
}

/** What repeats while it is on. */
export interface Repeater {
  begin(s: SeatState): void;
  end(s: SeatState, isRelease: boolean): void;
  /** Drops a delayed pulse. */
  drop(s: SeatState): void;
  reset(s: SeatState): void;
  /** Whether it pulsed when it last began. */
  readonly isPulsing: boolean;
  pulsesNow(s: SeatState): number;
}

/** Keeps a press that cannot begin yet, and what has begun until the game takes it. */
export interface Keeper {
  /** Keeps the current press: of a key, or of the game. */
  keep(s: SeatState, isDriven: boolean): void;
  /** Forgets the press; and what waits to be taken. */
  drop(s: SeatState): void;
  dropAll(s: SeatState): void;
  /** A device is lost: what it pressed is forgotten. */
  lose(s: SeatState, isLost: (signal: Signal) => boolean): void;
  /** Whether it has begun and that was not announced yet. */
  consumeNews(): boolean;
  /** Until when a press is kept; `-Infinity` if none is. */
  keptUntil(s: SeatState): number;
  isGranted(s: SeatState): boolean;
  take(s: SeatState): boolean;
}

/** The game presses it itself. */
export interface Driver {
  /** The reasons for which it is driven, one bit each (int), and the state of the press (byte): both 0 if it is not. */
  readonly reasons: number;
  readonly press: number;
  drive(s: SeatState, reason: number, isOn: boolean): void;
  isDown(s: SeatState): boolean;
  /** Whether it keeps the switch on regardless of keys. */
  keepsOn(s: SeatState): boolean;
  /** Whether the switch is on, given the game's press and what keys want. `isBlip`: the press rises and falls at this moment. */
  add(s: SeatState, byHands: number, needsHold: boolean, isBlip: boolean): number;
  /** Spends its press. */
  spend(s: SeatState): void;
  /** Makes its press count as a new one. */
  renew(s: SeatState): void;
  reset(s: SeatState): void;
}
