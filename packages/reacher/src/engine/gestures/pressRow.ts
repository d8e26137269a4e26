/**
 * What taps and series share: presses in a row, counted, each within a gap of the one before; and what they may have in common besides. In: the
 * count, which each of them raises by its own rule. Out: what of it still counts now, and until when.
 */
import type { RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Switch } from "../switches/switch.js";
import { Gesture } from "./gesture.js";
import type { Together } from "./together.js";

export abstract class PressRow extends Gesture {
  readonly count = this.cells.byte("count");
  readonly lastAt = this.cells.float("lastAt", -Infinity);
  readonly until = this.cells.float("until", -Infinity);
  /** The longest time from one press to the next, in ms. */
  readonly gapMs: number;
  abstract readonly together: Together | null;

  constructor(
    cells: RuleCells,
    owner: Switch,
    of: readonly Signal[],
    hiddenAt: number,
    { gapMs, withinMs = Infinity }: { readonly gapMs: number; readonly withinMs: number | undefined },
    /** How many presses it takes. */
    private readonly length: number,
    /** Of a series: by members matched, how many still match without the oldest; of taps one fewer. */
    protected readonly fallback: readonly number[] | null = null,
  ) {
    super(cells, owner, of, hiddenAt);
    this.gapMs = Math.min(gapMs, withinMs);
  }

  /** How many presses count before this one. */
  protected before(s: SeatState): number {
    const { together } = this;
    const count = this.isOver(s) ? 0 : s.b[this.count]!;
    return together === null ? count : together.dropOld(s, count);
  }

  /** Notes the moment of a press. */
  protected note({ f, clock }: SeatState): void {
    f[this.lastAt] = clock[Clock.Now]!;
    f[this.until] = clock[Clock.Now]! + this.gapMs;
  }

  /** Whether it sees this press, and all that is to be held is down. */
  protected counts(s: SeatState, signal: Signal): boolean {
    return this.sees(s, signal) && (this.together === null || this.together.isHeld(s));
  }

  /** Whether something else has interrupted it. */
  isBroken(_: SeatState): boolean {
    return false;
  }

  private isOver(s: SeatState): boolean {
    return s.clock[Clock.Now]! > s.f[this.until]! || this.isBroken(s);
  }

  protected clear({ b }: SeatState): void {
    b[this.count] = 0;
  }

  forgetCount(s: SeatState): void {
    this.clear(s);
    this.dropClaim(s);
  }

  override pending(s: SeatState): number {
    const count = this.isOver(s) ? 0 : s.b[this.count]!;
    return this.together === null ? count : this.together.stillCounting(s, count);
  }

  override windowEnd(s: SeatState, pending: number): number {
    const end = this.together === null ? Infinity : this.together.endOf(s, s.b[this.count]!, pending);
    return Math.min(s.f[this.until]!, end);
  }

  protected override review(s: SeatState): void {
    if (this.together !== null && !this.together.isHeld(s)) this.clear(s);
  }

  /** Until when the next press may come, whatever is too old by then. */
  protected nextBy({ f }: SeatState): number {
    return f[this.until]!;
  }

  /** Of so many presses in a row, how many count without the oldest. */
  shorter(count: number): number {
    return this.fallback === null ? count - 1 : this.fallback[count]!;
  }

  /** How many of so many presses in a row are this signal's. */
  private ofSignal(count: number, signal: Signal): number {
    const { signals } = this;
    // Of another signal on the same control any may be.
    if (signals.length === 1 || !signals.includes(signal)) return count;
    let own = 0;
    for (let n = 0; n < count; n++) if (signals[n] === signal) own++;
    return own;
  }

  claimEnd(s: SeatState, signal: Signal, newer: number): number {
    const count = s.b[this.count]!;
    if (newer >= this.ofSignal(count, signal) || this.isBroken(s)) return -Infinity;
    let left = count;
    for (let less = count; less > 0 && newer < this.ofSignal(less, signal); less = this.shorter(less))
      left = less;
    const end = this.together === null ? Infinity : this.together.endOf(s, count, left);
    return Math.min(this.nextBy(s), end);
  }

  /** The press that fires it waits nowhere. */
  protected override claimed(signal: Signal, by: Signal): number {
    return this.ofSignal(this.length, signal) - (signal === by || !this.signals.includes(signal) ? 1 : 0);
  }

  lapse(s: SeatState, signal: Signal, newer: number): void {
    const count = s.b[this.count]!;
    let left = count;
    while (left > 0 && newer < this.ofSignal(left, signal)) left = this.shorter(left);
    s.b[this.count] = this.together === null ? left : this.together.keepLast(s, count, left);
  }
}
