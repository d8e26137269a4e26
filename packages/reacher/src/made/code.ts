/** What made code gives for one seat: functions over its cells, in lists by what the loop asks. What does nothing is left out. Types alone. */
import type { ActionReading } from "../engine/reading.js";
import type { ReadSeat } from "../engine/reading.js";
import type { SeatState } from "../engine/state.js";
import type { TimerList } from "../engine/timers.js";

type Act = () => void;
type Ask = () => boolean;
type List<F> = readonly (F | undefined)[] | undefined;

export interface MadeCode {
  readonly moves?: List<(at: number) => void>;
  readonly pairs?: List<(at: number) => void>;
  readonly sticks?: List<Act>;
  readonly movements?: List<Act>;
  readonly turns?: List<Act>;
  readonly paces?: List<Act>;
  readonly updates?: List<Act>;
  readonly instants?: List<Ask>;
  readonly settles?: List<Ask>;
  readonly pulses?: List<Ask>;
  readonly news?: List<Ask>;
  readonly takes?: List<Ask>;
  readonly due?: List<Act>;
  readonly reset?: List<Act>;
  /** Of a seat whose slots change. */
  readonly recount?: List<Act>;
  /** After a change of settings. */
  readonly adjust?: List<Act>;
  readonly refresh?: List<Act>;
  readonly mayBegin?: List<Ask>;
  readonly begin?: List<Act>;
  readonly review?: List<Act>;
  readonly judge?: List<(changes: Int32Array, count: number) => void>;
  readonly returnPresses?: List<(changes: Int32Array, count: number) => void>;
  readonly gesturesFall?: List<Act>;
  readonly gesturesRise?: List<Act>;
  readonly entriesFall?: List<Act>;
  readonly entriesRise?: List<Act>;
  readonly flags?: List<(value: number) => void>;
  readonly numbers?: List<(value: number) => void>;
  readonly spots?: List<(x: number, y: number) => void>;
  readonly enter?: List<Act>;
  readonly leave?: List<Act>;
  readonly mute?: List<(reasons: number) => void>;
  readonly unmute?: List<(reasons: number) => void>;
  readonly setSwitch?: List<(on: number) => void>;
  readonly blend?: List<(ms: number) => void>;
  readonly drive?: List<(reason: number, way: number, x: number, y: number) => void>;
  readonly drivenBy?: List<() => number>;
  readonly nextBlend?: List<() => number>;
  readonly lose?: List<Act>;
  /** Of what may be latched, whether it is. */
  readonly latches?: List<Ask>;
  /** The same with the style that the plan does not give it. */
  readonly toggles?: List<Ask>;
  readonly readings: readonly (new (s: ReadSeat, action: number) => ActionReading)[];
}

/** Makes it for a seat whose buffer is laid out. `open`: numbers that follow from a player's settings, which may change. */
export type Create = (
  s: SeatState,
  timers: TimerList,
  Reading: typeof ActionReading,
  open: readonly number[],
) => MadeCode;
