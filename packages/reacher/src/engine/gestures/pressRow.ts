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

  claimEnd(s: SeatState): number {
    return s.b[this.count] === 0 || this.isBroken(s) ? -Infinity : s.f[this.until]!;
  }

  lapse({ f }: SeatState): void {
    f[this.until] = -Infinity;
  }
}
