/**
 * Turns of the view. In: pixels of the mouse, which are amounts, and sticks, which are rates. Out: the amount of
 * each step.
 *
 * The cells hold the whole amount since the start, as a function of time; a step's amount is the difference between its end and
 * the end of the step before. So the amounts of all steps add up to the same at any step rate.
 */
import type { CheckedTurn } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { Pace } from "../movement/pace.js";
import type { Stick, StickOwner } from "../movement/stick.js";
import type { SeatState } from "../state.js";
import { Live, type Action, type PacedRule, type Component, type Updatable } from "../tables.js";

export class Turn extends Rule implements Action, Updatable, PacedRule, StickOwner {
  readonly kind = "turn";
  readonly name: string;
  readonly in: readonly string[];
  readonly parts: Component[] = [];
  readonly directions = 0;
  readonly hasDirections = false;
  /** Its sticks, each with the amount per ms at full tilt. */
  readonly sticks: { readonly stick: Stick; readonly perMs: number }[] = [];
  /** A factor that rules set: a slower look while aiming. */
  pace: Pace | null = null;
  pacedId = -1;
  /** The total since the start, up to the last change (x and y), and what sticks add per ms since then. */
  readonly total = this.cells.float("total", 0, 2);
  private readonly rate = this.cells.float("rate", 0, 2);
  /** The total when the step of the last change began, and the number of that step. */
  private readonly saved = this.cells.float("saved", 0, 2);
  private readonly savedStep = this.cells.int("savedStep");
  /** When it last changed. */
  private readonly at = this.cells.float("at");

  constructor(
    cells: RuleCells,
    readonly id: number,
    readonly number: number,
    action: CheckedTurn,
    readonly up: number,
    readonly liveAt: number,
  ) {
    super(cells);
    this.name = action.name;
    this.in = action.in;
  }

  /** The mouse moved by the pixels in this slot of the queue, along one axis (0: x, 1: y). */
  addPixels(s: SeatState, slot: number, way: number, perPixel: number): void {
    if (s.b[this.liveAt] !== Live.Yes) return;
    this.bringUp(s);
    s.f[this.total + way]! += s.slots[slot]! * perPixel * this.factor(s);
    s.noteTurned(this.name);
  }

  /** Its sticks, or whether it is live, have changed: the stick tilted furthest sets the rate. */
  update(s: SeatState): void {
    const { f } = s;
    const { sticks, rate } = this;
    let x = 0;
    let y = 0;
    let longest = 0;
    for (let n = 0; s.b[this.liveAt] === Live.Yes && n < sticks.length; n++) {
      const { stick, perMs } = sticks[n]!;
      const length = f[stick.length]!;
      if (length <= longest) continue;
      longest = length;
      x = f[stick.x]! * perMs;
      y = f[stick.y]! * perMs;
    }
    if (this.pace !== null) {
      x *= this.factor(s);
      y *= this.factor(s);
    }
    if (f[rate] === x && f[rate + 1] === y) return;
    this.bringUp(s);
    f[rate] = x;
    f[rate + 1] = y;
    s.noteTurned(this.name);
  }

  private factor({ f }: SeatState): number {
    return this.pace === null ? 1 : f[this.pace.to]!;
  }

  updatePace(s: SeatState): void {
    const { pace } = this;
    const before = s.f[pace!.to]!;
    pace!.update(s, false);
    if (s.f[pace!.to] !== before) this.update(s);
  }

  reset(s: SeatState): void {
    if (this.pacedId >= 0) s.markPace(this.pacedId);
  }

  /** Advances the total to this moment, and remembers what it was when the current step began. */
  private bringUp(s: SeatState): void {
    const { f, i, clock } = s;
    const { total, saved, rate, at } = this;
    if (i[this.savedStep] !== clock[Clock.Step]) {
      i[this.savedStep] = clock[Clock.Step]!;
      for (let way = 0; way < 2; way++)
        f[saved + way] =
          f[total + way]! + (f[rate + way] === 0 ? 0 : f[rate + way]! * (clock[Clock.Before]! - f[at]!));
    }
    for (let way = 0; way < 2; way++)
      if (f[rate + way] !== 0) f[total + way]! += f[rate + way]! * (clock[Clock.Now]! - f[at]!);
    f[at] = clock[Clock.Now]!;
  }

  /** The amount of this step along one axis. */
  inStep({ f, i, clock }: SeatState, way: number): number {
    const total = f[this.total + way]!;
    const rate = f[this.rate + way]!;
    const since = f[this.at]!;
    const now = rate === 0 ? total : total + rate * (clock[Clock.Now]! - since);
    if (i[this.savedStep] === clock[Clock.Step]) return now - f[this.saved + way]! + 0;
    return now - (rate === 0 ? total : total + rate * (clock[Clock.Before]! - since)) + 0;
  }

  stickMoved(s: SeatState): void {
    s.markTurn(this.id);
  }
  addSource(): void {}
  dropSource(): void {}

  liveChanged(s: SeatState): void {
    s.markTurn(this.id);
  }
}
