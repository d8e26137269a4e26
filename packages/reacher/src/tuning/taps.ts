/**
 * How fast hands tap. In: entries of traces, in order. Out: press-to-press times by control, what each window would catch,
 * and the window that suits. Memory does not grow with the traces.
 *
 * Two presses of one control within `PAIR_MS` are a pair. A quick pair is one that looks meant: the first press was a tap,
 * nothing else was pressed between, and it was not one of a row of presses, as stepping and firing make. The others were
 * plain movement, or plain firing; a window catches them too, and does then what nobody wanted.
 */
import type { TraceEntry } from "../trace/entry.js";
import { mustBeList, mustBeObject } from "../plan/arguments.js";
import { ReacherError } from "../plan/errors.js";
import { FEWEST_PAIRS, roomyWindow } from "../plan/tapWindow.js";
import { Histogram } from "./histogram.js";
import { PressReader } from "./presses.js";

/** Presses further apart than this, in ms, are no pair. */
const PAIR_MS = 600;
/** A press held longer than this, in ms, was no tap. */
export const TAP_MS = 200;
/** From this many presses on, each within `PAIR_MS` of the one before, it is a row. */
export const ROW = 4;

/** The windows that are compared, in ms. */
export const WINDOWS = { least: 100, most: 400, each: 10 } as const;
/** A window is not proposed from fewer quick pairs. */
export const LEAST_PAIRS = FEWEST_PAIRS;
/** Nor shorter than most hands can meet, in ms. */
const LEAST_WINDOW = 160;

/** Press-to-press times of one control, or of all. */
export interface TapTimes {
  /** The control, or `all`. */
  readonly control: string;
  readonly presses: number;
  /** Pairs that look meant, and pairs that do not, by press-to-press time in ms, up to `PAIR_MS`. */
  readonly quick: Histogram;
  readonly plain: Histogram;
}

/** What a window would catch. */
export interface TapWindow {
  readonly gapMs: number;
  /** How many quick pairs, and how many that were plain movement. */
  readonly quick: number;
  readonly plain: number;
}

/** A window that suits the hands, and why; without `gapMs` where there is too little to go by. */
export interface TapProposal {
  readonly gapMs?: number;
  readonly reason: string;
}

/** Gathers tap times. May change: the counts. */
export class TapCounter {
  private readonly controls = new Map<string, Counted>();
  private readonly rows = new Map<object, Row>();
  private readonly reader = new PressReader({
    pressed: (control, button, t) => this.pressed(control, button, t),
    released: (_, button, t) => {
      const row = this.rows.get(button);
      if (row !== undefined) row.heldMs = t - row.pressedAt;
    },
    lost: () => this.endRows(),
  });
  /** What was pressed last, of all. */
  private newest: object | undefined;

  /** Counts only this control, where one is named; others still come between its presses. */
  constructor(private readonly only?: string) {}

  push(entry: TraceEntry): void {
    mustBeObject(entry, "entry of a trace");
    this.reader.push(entry);
  }

  /** Ends a trace: the first press of the next one is not near the last of this one. */
  endTrace(): void {
    this.endRows();
    this.reader.rest();
  }

  /** What was counted so far, by control, most pairs first. */
  times(): TapTimes[] {
    for (const row of this.rows.values()) row.settle();
    return [...this.controls.values()].sort(
      (a, b) => b.quick.total + b.plain.total - a.quick.total - a.plain.total,
    );
  }

  private pressed(control: string, button: object, t: number): void {
    const alone = this.newest === button;
    this.newest = button;
    if (this.only !== undefined && control !== this.only) return;
    let counted = this.controls.get(control);
    if (counted === undefined) {
      counted = { control, presses: 0, quick: new Histogram(PAIR_MS), plain: new Histogram(PAIR_MS) };
      this.controls.set(control, counted);
    }
    counted.presses++;
    let row = this.rows.get(button);
    if (row === undefined) this.rows.set(button, (row = new Row(counted)));
    const gap = t - row.pressedAt;
    if (gap > PAIR_MS) row.begin(t);
    else row.next(t, gap, alone && row.heldMs <= TAP_MS);
  }

  private endRows(): void {
    for (const row of this.rows.values()) row.begin(-Infinity);
    this.newest = undefined;
  }
}

interface Counted extends TapTimes {
  presses: number;
}

/** Presses of one control that follow each other; whether they are a row is known only later. May change: itself and its counts. */
class Row {
  pressedAt = -Infinity;
  heldMs = Infinity;
  private presses = 0;
  private waiting: { gap: number; meant: boolean }[] = [];

  constructor(private readonly counted: Counted) {}

  begin(t: number): void {
    this.settle();
    this.presses = 1;
    this.pressedAt = t;
    this.heldMs = Infinity;
  }

  next(t: number, gap: number, meant: boolean): void {
    this.presses++;
    this.pressedAt = t;
    this.heldMs = Infinity;
    if (this.presses < ROW) this.waiting.push({ gap, meant });
    else {
      for (const one of this.waiting) this.counted.plain.add(one.gap);
      this.waiting = [];
      this.counted.plain.add(gap);
    }
  }

  settle(): void {
    for (const { gap, meant } of this.waiting) (meant ? this.counted.quick : this.counted.plain).add(gap);
    this.waiting = [];
  }
}

/** @throws ReacherError if these are none */
function mustBeTimes(times: unknown): void {
  mustBeObject(times, "measure of taps; TapCounter gives some");
  const { quick, plain } = times as { quick?: unknown; plain?: unknown };
  if (!(quick instanceof Histogram && plain instanceof Histogram))
    throw new ReacherError("this is no measure of taps; TapCounter gives some");
}

/** The times of all controls that have any quick pair: a key that only fires needs no window. */
export function allTimes(times: readonly TapTimes[]): TapTimes {
  const all = {
    control: "all",
    presses: 0,
    quick: new Histogram(PAIR_MS),
    plain: new Histogram(PAIR_MS),
  };
  mustBeList(times, "times; TapCounter gives some");
  for (const one of times) {
    mustBeTimes(one);
    if (one.quick.total === 0) continue;
    all.presses += one.presses;
    all.quick.addAll(one.quick);
    all.plain.addAll(one.plain);
  }
  return all;
}

/** What each window would catch, from the shortest to the longest. */
export function tapWindows(times: TapTimes): TapWindow[] {
  mustBeTimes(times);
  const { quick, plain } = times;
  const windows: TapWindow[] = [];
  for (let gapMs: number = WINDOWS.least; gapMs <= WINDOWS.most; gapMs += WINDOWS.each)
    windows.push({ gapMs, quick: quick.upTo(gapMs), plain: plain.upTo(gapMs) });
  return windows;
}

/**
 * The window that best separates quick pairs from plain movement: the share of quick pairs that it catches, minus the share of
 * plain ones. Of windows as good, the shortest.
 */
export function proposeTapWindow(times: TapTimes): TapProposal {
  mustBeTimes(times);
  const { quick, plain } = times;
  if (quick.total < LEAST_PAIRS) {
    return { reason: `quick pairs are too few to go by, ${quick.total} where ${LEAST_PAIRS} would do` };
  }
  if (plain.total === 0) {
    // Nothing to keep apart from: the same window as a tap test gives.
    const slowest = quick.quantile(1);
    const gapMs = Math.max(LEAST_WINDOW, roomyWindow(slowest));
    return {
      gapMs,
      reason: `the slowest of ${quick.total} quick pairs took ${slowest} ms; that is with room for a tired hand`,
    };
  }
  const windows = tapWindows(times).filter(({ gapMs }) => gapMs >= LEAST_WINDOW);
  const worth = (window: TapWindow) => window.quick / quick.total - window.plain / plain.total;
  const best = windows.reduce((one, other) => (worth(other) > worth(one) + 1e-9 ? other : one));
  const next = windows.find(({ gapMs }) => gapMs === best.gapMs + 2 * WINDOWS.each);
  const beyond =
    next === undefined
      ? "it is the longest that plain movement seldom sets off"
      : `${2 * WINDOWS.each} ms more would catch ${next.quick - best.quick} more of them and ${next.plain - best.plain} more of plain movement`;
  return {
    gapMs: best.gapMs,
    reason:
      `it catches ${best.quick} of ${quick.total} quick pairs` +
      `, and ${best.plain} of ${plain.total} that were plain movement` +
      `; ${beyond}`,
  };
}
