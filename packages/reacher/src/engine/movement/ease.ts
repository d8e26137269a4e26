/**
 * Ramps that make a key rise and fall like a stick. In: the target that the keys of a movement give, whenever it changes. Out: the
 * eased value at a moment, and the moments that matter: a gait begins or ends, the ramp is over.
 *
 * A ramp is a function of the time since the keys last changed, so it does not depend on the step rate.
 */
import type { CheckedMovement } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import { Cause, type SeatState } from "../state.js";
import type { Timed, Timer, Timers } from "../timers.js";
import type { Amounts } from "./amounts.js";
import { endsOf } from "./ends.js";
import type { Gaits } from "./gaits.js";

/** Differences of time (ms) and of length below this are rounding errors. */
const NO_TIME = 1e-6;

/** The first stick among the sources of a movement. */
const STICKS = 1;

/** The layout of `out`. */
export const enum EaseValue {
  X,
  Y,
  Length,
}

/** The eased movement, as its ramp sees it. */
export interface Eased {
  /** Whether keys and sticks count now. */
  heedsDevices(s: SeatState): boolean;
  readonly isRound: boolean;
  readonly sums: boolean;
  readonly gaits: Gaits | null;
  readonly amounts: Amounts | null;
  /** +1 where up is +1, -1 where up is -1; and how many keys hold each end (int). */
  readonly up: number;
  readonly keys: number;
  /** The source of the movement (int): the keys, or from `STICKS` on a stick. */
  readonly winner: number;
  /** The movement by its keys, and by its sticks together: x, y, length (floats). */
  readonly keysX: number;
  readonly sticksX: number;
  /** Updates the gait. */
  updateGait(s: SeatState): void;
  rampMoved(s: SeatState): void;
}

export class Ease extends Rule implements Timed {
  /** The eased movement, by `Part`. Valid only until the next `work`. */
  readonly out = new Float64Array(3);
  /** What the keys alone give of it. */
  private readonly byKeys = new Float64Array(2);
  /** Where the keys' ramp starts and ends (x and y each), and since when. */
  private readonly from = this.cells.float("from", 0, 2);
  private readonly to = this.cells.float("to", 0, 2);
  private readonly since = this.cells.float("since");
  private readonly timer: Timer;
  private readonly riseMs: number;
  private readonly fallMs: number;
  private readonly through: boolean;

  constructor(
    cells: RuleCells,
    private readonly movement: Eased,
    ease: NonNullable<CheckedMovement["ease"]>,
    private readonly timers: Timers,
    number: number,
  ) {
    super(cells);
    this.riseMs = ease.riseMs;
    this.fallMs = ease.fallMs;
    this.through = ease.through;
    this.timer = timers.due(cells, "eases", this, number);
  }

  /** Computes the movement of keys and sticks together, into `out`. */
  work(s: SeatState): void {
    const { f, i } = s;
    const { out, movement } = this;
    this.component(s, EaseValue.X);
    this.component(s, EaseValue.Y);
    this.measure();
    if (movement.isRound) this.clamp();
    const { sticksX } = movement;
    const sticks = f[sticksX + EaseValue.Length]!;
    if (sticks === 0) return;
    if (movement.sums) {
      out[EaseValue.X]! += f[sticksX]!;
      out[EaseValue.Y]! += f[sticksX + EaseValue.Y]!;
      this.measure();
      this.clamp();
    } else if (
      sticks > out[EaseValue.Length]! ||
      (sticks === out[EaseValue.Length] && i[movement.winner]! >= STICKS)
    ) {
      out[EaseValue.X] = f[sticksX]!;
      out[EaseValue.Y] = f[sticksX + EaseValue.Y]!;
      out[EaseValue.Length] = sticks;
    }
  }

  private measure(): void {
    const { out } = this;
    out[EaseValue.Length] = Math.sqrt(
      out[EaseValue.X]! * out[EaseValue.X]! + out[EaseValue.Y]! * out[EaseValue.Y]!,
    );
  }

  private clamp(): void {
    const { out } = this;
    const length = out[EaseValue.Length]!;
    if (length <= 1) return;
    out[EaseValue.X]! /= length;
    out[EaseValue.Y]! /= length;
    out[EaseValue.Length] = 1;
  }

  /** One component of keys and amounts together, into `out`. */
  private component(s: SeatState, part: EaseValue.X | EaseValue.Y): void {
    const { out, byKeys, movement } = this;
    this.ramp(s, part);
    byKeys[part] = out[part]!;
    if (movement.amounts === null) return;
    const up = part === EaseValue.X ? 1 : movement.up;
    out[part]! *= up;
    movement.amounts.mix(s, out, part, endsOf(s.i[movement.keys]!), part === EaseValue.X);
    out[part] = out[part]! * up + 0;
  }

  /** One component of the keys, into `out`. */
  private ramp({ f, clock }: SeatState, part: EaseValue.X | EaseValue.Y): void {
    const { out } = this;
    const to = f[this.to + part]!;
    let begin = f[this.from + part]!;
    out[part] = to;
    if (begin === to) return;
    const ms = clock[Clock.Now]! - f[this.since]!;
    let since = ms + NO_TIME;
    if (begin * to < 0) {
      const zero = Math.abs(begin) * this.fallMs;
      if (since < zero) {
        out[part] = begin > 0 ? begin - ms / this.fallMs : begin + ms / this.fallMs;
        return;
      }
      since -= zero;
      begin = 0;
    }
    const grows = Math.abs(to) > Math.abs(begin);
    const fullMs = grows ? this.riseMs : this.fallMs;
    if (since >= Math.abs(to - begin) * fullMs) return;
    const step = Math.max(0, (since - NO_TIME) / fullMs);
    out[part] = begin + (to > begin ? step : -step);
  }

  /**
   * Starts a ramp to what the keys give now; true if that is another target. After a lost device, or while not live, it goes
   * there without a ramp.
   */
  setOut(s: SeatState): boolean {
    const { f } = s;
    const { keysX } = this.movement;
    const isOther = f[keysX] !== f[this.to] || f[keysX + EaseValue.Y] !== f[this.to + EaseValue.Y];
    if (isOther) {
      const atOnce = s.cause === Cause.Lost || !this.movement.heedsDevices(s);
      this.ramp(s, EaseValue.X);
      this.ramp(s, EaseValue.Y);
      this.begin(s, EaseValue.X, atOnce);
      this.begin(s, EaseValue.Y, atOnce);
      f[this.since] = s.clock[Clock.Now]!;
      this.timers.clear(s, this.timer);
    }
    this.waitForNext(s);
    return isOther;
  }

  private begin({ f }: SeatState, part: EaseValue.X | EaseValue.Y, atOnce: boolean): void {
    const to = f[this.movement.keysX + part]!;
    const now = this.out[part]!;
    f[this.from + part] = atOnce ? to : now * to < 0 && !this.through ? 0 : now;
    f[this.to + part] = to;
  }

  isOn({ f }: SeatState): boolean {
    return f[this.timer.at]! < Infinity;
  }

  /** The ramp has reached a moment that matters: a gait, or its end. */
  due(s: SeatState): void {
    const { movement } = this;
    movement.updateGait(s);
    // Its timer was cleared before: at the end of the ramp it stays so.
    this.waitForNext(s);
    this.work(s);
    movement.rampMoved(s);
  }

  updateGait(s: SeatState, gaits: Gaits): void {
    this.work(s);
    gaits.update(s, this.out, EaseValue.Length, true);
  }

  reset(s: SeatState): void {
    s.f.fill(0, this.from, this.from + 2);
    s.f.fill(0, this.to, this.to + 2);
    this.timers.clear(s, this.timer);
  }

  /** Sets the timer for the next moment of the ramp that matters. */
  waitForNext(s: SeatState): void {
    const { f } = s;
    const { gaits } = this.movement;
    const passed = s.clock[Clock.Now]! - f[this.since]!;
    const fullX = this.rampMs(s, EaseValue.X) - passed;
    const fullY = this.rampMs(s, EaseValue.Y) - passed;
    let next = Math.max(fullX, fullY);
    if (!(next > NO_TIME)) {
      // Somebody else looks at it just before its end, by rounding: the end is still to come.
      if (this.isOn(s)) this.timers.set(s, this.timer, Math.max(0, next));
      return;
    }
    if (gaits !== null) {
      // Between these moments the ramp is linear.
      const zeroX = Math.abs(f[this.from]!) * this.fallMs - passed;
      const zeroY = Math.abs(f[this.from + 1]!) * this.fallMs - passed;
      if (fullX > NO_TIME && fullX < next) next = fullX;
      if (fullY > NO_TIME && fullY < next) next = fullY;
      if (zeroX > NO_TIME && zeroX < next) next = zeroX;
      if (zeroY > NO_TIME && zeroY < next) next = zeroY;
      if (this.movement.amounts !== null)
        next = Math.min(next, this.meeting(s, EaseValue.X), this.meeting(s, EaseValue.Y));
      next = Math.min(next, this.crossing(s, gaits, next));
    }
    this.timers.set(s, this.timer, next);
  }

  /** The length of a component's ramp, in ms. */
  private rampMs({ f }: SeatState, part: EaseValue.X | EaseValue.Y): number {
    const from = f[this.from + part]!;
    const to = f[this.to + part]!;
    const a = Math.abs(from);
    const b = Math.abs(to);
    if (from * to < 0) return a * this.fallMs + b * this.riseMs;
    return b > a ? (b - a) * this.riseMs : (a - b) * this.fallMs;
  }

  /** How long until a ramping key gives as much as an amount of its end, or no more than it; otherwise Infinity. */
  private meeting(s: SeatState, part: EaseValue.X | EaseValue.Y): number {
    const { movement, byKeys } = this;
    this.component(s, part);
    const slope = this.keySlope(s, part);
    const ends = endsOf(s.i[movement.keys]!);
    const up = part === EaseValue.X ? 1 : movement.up;
    let first = Infinity;
    for (const sign of [1, -1]) {
      const amount = movement.amounts!.beside(s, sign * up > 0, ends, part === EaseValue.X);
      const ms = amount > 0 ? (sign * amount - byKeys[part]!) / slope : Infinity;
      if (ms > NO_TIME && ms < first) first = ms;
    }
    return first;
  }

  /** How long until the length enters the next gait or leaves its own, within a linear piece of `within` ms; otherwise Infinity. */
  private crossing(s: SeatState, gaits: Gaits, within: number): number {
    const { f } = s;
    const { out, movement } = this;
    this.component(s, EaseValue.X);
    this.component(s, EaseValue.Y);
    const sum = movement.sums ? 1 : 0;
    const a = out[EaseValue.X]! + sum * f[movement.sticksX]!;
    const b = out[EaseValue.Y]! + sum * f[movement.sticksX + EaseValue.Y]!;
    const dx = this.slope(s, EaseValue.X);
    const dy = this.slope(s, EaseValue.Y);
    const speed = dx * dx + dy * dy;
    const half = a * dx + b * dy;
    const scale = gaits.scale(s);
    const up = when(gaits.limit(s, 1, scale), 1, a, b, speed, half);
    const down = when(gaits.limit(s, -1, scale), -1, a, b, speed, half);
    const first = Math.min(up, down);
    return first <= within ? first : Infinity;
  }

  /** One eased component of keys and amounts, now. */
  partNow(s: SeatState, part: EaseValue.X | EaseValue.Y): number {
    this.component(s, part);
    return this.out[part]!;
  }

  /** Its slope just after now, per ms. */
  slopeNow(s: SeatState, part: EaseValue.X | EaseValue.Y): number {
    this.component(s, part);
    return this.slope(s, part);
  }

  /** The slope of a component just after now, per ms: an amount that is more than the key holds it. */
  private slope(s: SeatState, part: EaseValue.X | EaseValue.Y): number {
    const { movement, byKeys } = this;
    const slope = this.keySlope(s, part);
    if (movement.amounts === null || slope === 0) return slope;
    const now = byKeys[part]!;
    const up = part === EaseValue.X ? 1 : movement.up;
    const isPlus = (now !== 0 ? now : slope) * up > 0;
    const amount = movement.amounts.beside(s, isPlus, endsOf(s.i[movement.keys]!), part === EaseValue.X);
    const size = Math.abs(now);
    return size > amount || (size === amount && now * slope >= 0) ? slope : 0;
  }

  /** The slope of the keys' component just after now, per ms. */
  private keySlope({ f }: SeatState, part: EaseValue.X | EaseValue.Y): number {
    const now = this.byKeys[part]!;
    const to = f[this.to + part]!;
    if (now === to) return 0;
    const grows = now * to >= 0 && Math.abs(to) > Math.abs(now);
    return (to > now ? 1 : -1) / (grows ? this.riseMs : this.fallMs);
  }
}

/** When a line from (a, b) reaches a length of `limit`, going outwards (1) or inwards (-1), in ms; otherwise Infinity. */
export function when(limit: number, way: 1 | -1, a: number, b: number, speed: number, half: number): number {
  const root = half * half - speed * (a * a + b * b - limit * limit);
  if (!(root > 0) || speed === 0) return Infinity;
  const ms = (-half + way * Math.sqrt(root)) / speed;
  return later(ms);
}

/** A moment ahead, in ms, but not closer than rounding tells; Infinity if it is past. */
export function later(ms: number): number {
  return ms > 0 ? Math.max(ms, NO_TIME) : Infinity;
}
