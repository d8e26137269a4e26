/**
 * A player's own tap window. In: a few double taps, made slowly and at ease. Out: how long they took, and the window that
 * fits the hand. May change: the taps counted so far.
 */
import { mustBeLayer, mustBeList, mustBeNumber, mustBeObject } from "../plan/arguments.js";
import { findControl } from "../controls/catalogue.js";
import type { InputLayer } from "../layer/types.js";
import type { Kinds, Range } from "../plan/types.js";
import { FEWEST_PAIRS, roomyWindow } from "../plan/tapWindow.js";
import { CANCEL_WITH } from "./capture.js";

/** Two presses farther apart than this are not one pair, in ms. */
const LONGEST_GAP = 1000;
const PRESSED = 0.5;

/** One double tap. All in ms. */
export interface TapPair {
  /** From the first press to the second: what a window has to reach. */
  readonly gapMs: number;
  /** How long the first press was held. */
  readonly heldMs: number;
}

/** What a test has shown. */
export interface TapTestResult {
  readonly pairs: readonly TapPair[];
  /** The window that fits, within what the plan allows, in ms; `undefined` until there are enough pairs. */
  readonly gapMs: number | undefined;
  /** Why that one, or what to do next; for the player. */
  readonly reason: string;
}

/** A tap test at work. */
export interface TapTest {
  /** Pairs needed. */
  readonly of: number;
  readonly result: TapTestResult;
  /** The control went down, at `t` ms; a repeat of a held key is none. */
  press(t: number): void;
  release(t: number): void;
  /** From the beginning. */
  restart(): void;
}

/** How a tap test listens. */
export interface TapTestOptions {
  /** Whose devices are listened to. @default the first seat */
  readonly seat?: string;
  /** What the plan lets a player set, in ms. */
  readonly range: Range;
  /** Double taps asked for. @default 5 */
  readonly pairs?: number;
  /** Controls that give up. @default Escape, PadCenterLeft */
  readonly cancelWith?: readonly string[];
  /** Called after each press and release, and when it is over. */
  readonly onProgress?: (result: TapTestResult) => void;
}

/** A tap test that listens to a layer. */
export interface RunningTapTest {
  readonly test: TapTest;
  /** Resolves when all pairs are there (true), or when it was given up. */
  readonly done: Promise<boolean>;
  cancel(): void;
}

/**
 * Lets a player double-tap while the game's actions hear nothing. The first key or button pressed is the one that counts.
 * @throws ReacherError if there is no such seat
 */
export function runTapTest<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  options: TapTestOptions,
): RunningTapTest {
  mustBeLayer(input);
  mustBeObject(options, "object of options; a range is the least");
  const { seat = input.seats[0]!, range, pairs, cancelWith = CANCEL_WITH, onProgress } = options;
  const test = tapTest(range, pairs);
  let used: string | undefined;
  let end: () => void = () => {};
  let resolve: (whole: boolean) => void = () => {};
  const done = new Promise<boolean>((fn) => (resolve = fn));
  const finish = (whole: boolean) => {
    end();
    resolve(whole);
  };
  end = input.intercept(seat, {
    feed: ({ control, value, t }) => {
      const { family } = findControl(control) ?? {};
      if (family !== "key" && family !== "button") return true;
      if (value >= PRESSED && cancelWith.includes(control)) finish(false);
      else if (value >= PRESSED && (used ??= control) === control) test.press(t);
      else if (value < PRESSED && used === control) test.release(t);
      onProgress?.(test.result);
      if (test.result.gapMs !== undefined && value < PRESSED) finish(true);
      return true;
    },
    passed: () => undefined,
    lost: () => finish(false),
    replaced: () => finish(false),
  });
  return { test, done, cancel: () => finish(false) };
}

/** Begins a test of `pairs` double taps. `range` is what the plan lets a player set. */
export function tapTest(range: Range, pairs = FEWEST_PAIRS): TapTest {
  mustBeList(range, "two numbers, the least and the most");
  for (const end of [range[0], range[1]]) mustBeNumber(end, "end of a range in ms");
  mustBeNumber(pairs, "count of pairs");
  return new Test(range, pairs);
}

class Test implements TapTest {
  private pairs: TapPair[] = [];
  private first: number | undefined;
  private held: number | undefined;
  private isDown = false;

  constructor(
    private readonly range: Range,
    readonly of: number,
  ) {}

  press(t: number): void {
    if (this.isDown || this.pairs.length === this.of) return;
    this.isDown = true;
    const gapMs = this.first === undefined ? Infinity : t - this.first;
    if (gapMs > LONGEST_GAP) {
      this.first = t;
      this.held = undefined;
      return;
    }
    this.pairs = [...this.pairs, { gapMs, heldMs: this.held ?? gapMs }];
    this.first = undefined;
  }

  release(t: number): void {
    this.isDown = false;
    if (this.first !== undefined) this.held ??= t - this.first;
  }

  restart(): void {
    this.pairs = [];
    this.first = this.held = undefined;
    this.isDown = false;
  }

  get result(): TapTestResult {
    const { pairs, of } = this;
    if (pairs.length < of) {
      const left = of - pairs.length;
      const reason = `${left} more double ${left === 1 ? "tap" : "taps"}, slowly and at ease.`;
      return { pairs, gapMs: undefined, reason };
    }
    const slowest = Math.max(...pairs.map(({ gapMs }) => gapMs));
    const wanted = roomyWindow(slowest);
    const [least, most] = this.range;
    const gapMs = Math.min(most, Math.max(least, wanted));
    const why = `The slowest of your ${of} took ${Math.round(slowest)} ms; with room for a tired hand that is ${wanted} ms.`;
    const kept =
      wanted > most
        ? ` This game allows ${most} ms at most: a key or a button of its own will serve you better.`
        : wanted < least
          ? ` This game allows no less than ${least} ms.`
          : "";
    return { pairs, gapMs, reason: why + kept };
  }
}
