/** The speed of a movement. In: the conditions that its rules name. Out: the pace, ramping linearly to its target. */
import type { Amount } from "../situations/numbers.js";
import { Rule, type RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { Conditions } from "../conditions.js";
import type { SeatState } from "../state.js";

/** However many factors there are, a pace stays finite. */
const MOST = 1e12;

interface PaceRule {
  readonly conditions: Conditions;
  readonly sets: boolean;
  readonly by: Amount;
}

export class Pace extends Rule {
  /** The target pace; with a ramp, its start value and start time. */
  readonly to: number;
  private readonly from: number;
  private readonly since: number;
  readonly easeMs: number;
  private readonly base: Amount;
  rules: readonly PaceRule[] = [];

  constructor(cells: RuleCells, base: Amount, easeMs: number, start: number) {
    super(cells);
    this.base = base;
    this.easeMs = easeMs;
    this.to = cells.float("pace", start);
    const isEased = easeMs > 0;
    this.from = isEased ? cells.float("paceFrom", start) : this.to;
    this.since = isEased ? cells.float("paceSince", -Infinity) : -1;
  }

  /** Evaluates the rules; true if they give another pace. `isStart`: without a ramp. */
  update(s: SeatState, isStart: boolean): boolean {
    const { f } = s;
    const before = f[this.to]!;
    const isEased = this.easeMs > 0;
    const now = isEased && !isStart ? this.now(s) : 0;
    this.work(s);
    if (isStart && isEased) {
      f[this.from] = f[this.to]!;
      f[this.since] = -Infinity;
    }
    if (isStart || f[this.to] === before) return false;
    if (isEased) {
      f[this.from] = now;
      f[this.since] = s.clock[Clock.Now]!;
    }
    return true;
  }

  /** What the rules give now. Numbers stay in the cells: passed between functions, floats could be boxed on the heap. */
  private work(s: SeatState): void {
    const { f } = s;
    const { rules, to } = this;
    const { base } = this;
    f[to] = base.at < 0 ? base.own[0]! : f[base.at]!;
    for (let n = 0; n < rules.length; n++) {
      const { conditions, sets, by } = rules[n]!;
      if (!conditions.hold(s)) continue;
      if (!sets) {
        const product: number = f[to]! * (by.at < 0 ? by.own[0]! : f[by.at]!);
        f[to] = product > MOST ? MOST : product < -MOST ? -MOST : product;
      } else f[to] = by.at < 0 ? by.own[0]! : f[by.at]!;
    }
  }

  /** How long the ramp still takes, in ms; 0 if it is over. */
  leftMs({ f, clock }: SeatState): number {
    if (this.easeMs === 0 || f[this.from] === f[this.to]) return 0;
    const left = f[this.since]! + this.easeMs - clock[Clock.Now]!;
    return left > 0 ? left : 0;
  }

  /** Its slope during the ramp, per ms. */
  slope({ f }: SeatState): number {
    return (f[this.to]! - f[this.from]!) / this.easeMs;
  }

  /** The pace at this moment: a function of time, independent of the step rate. */
  now({ f, clock }: SeatState): number {
    const to = f[this.to]!;
    if (this.easeMs === 0) return to;
    const left = f[this.since]! + this.easeMs - clock[Clock.Now]!;
    // Before the first step there is no time.
    if (!(left > 0)) return to;
    const from = f[this.from]!;
    return from + ((to - from) * (clock[Clock.Now]! - f[this.since]!)) / this.easeMs;
  }
}
