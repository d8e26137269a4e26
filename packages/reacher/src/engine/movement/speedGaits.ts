/**
 * Named bands of a speed, which is length times pace. In: a movement, its pace, and how both ramp. Out: the gait, which changes at the
 * exact moment. Only while a vector's ease and its pace both ramp, the speed is sampled every millisecond.
 */
import type { CheckedMovement } from "../../plan/checked.js";
import type { RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { SeatState } from "../state.js";
import type { Timed, Timer, Timers } from "../timers.js";
import { later, EaseValue, type Ease } from "./ease.js";
import type { DrivenMovement } from "./driven.js";
import { Gaits } from "./gaits.js";
import type { Pace } from "./pace.js";

/** The movement, as these gaits see it. */
export interface Sped {
  /** Its number among the rules with a pace. */
  readonly pacedId: number;
  readonly kind: "axis" | "vector";
  readonly length: number;
  readonly sticksX: number;
  readonly sums: boolean;
  readonly ease: Ease | null;
  readonly pace: Pace | null;
  readonly driven: DrivenMovement | null;
}

export class SpeedGaits extends Gaits implements Timed {
  private readonly timer: Timer;
  /** The present speed. */
  private readonly speed = new Float64Array(1);

  constructor(
    cells: RuleCells,
    action: CheckedMovement,
    private readonly movement: Sped,
    private readonly timers: Timers,
    number: number,
  ) {
    super(cells, action);
    this.timer = timers.due(cells, "speeds", this, number);
  }

  /** Updates the gait, and sets the timer for the next moment at which it may change; true if it has changed. */
  follow(s: SeatState): boolean {
    const { movement, speed } = this;
    const { ease, pace, driven } = movement;
    const isDriven = driven !== null && driven.isOn(s);
    if (isDriven) driven.work(s);
    else if (ease !== null) ease.work(s);
    const length = isDriven
      ? driven.out[EaseValue.Length]!
      : ease === null
        ? s.f[movement.length]!
        : ease.out[EaseValue.Length]!;
    speed[0] = length * (pace === null ? 1 : pace.now(s));
    const before = s.i[this.gait]!;
    const eases = ease !== null && ease.isOn(s);
    this.update(s, speed, 0, eases || isDriven || this.paces(s));
    if (eases) ease.waitForNext(s);
    if (isDriven) driven.waitForNext(s);
    if (this.paces(s)) this.wait(s, length, eases, isDriven);
    else this.timers.clear(s, this.timer);
    return s.i[this.gait] !== before;
  }

  private paces(s: SeatState): boolean {
    const { pace } = this.movement;
    return pace !== null && pace.leftMs(s) > 0;
  }

  due(s: SeatState): void {
    s.markPace(this.movement.pacedId);
  }

  override scale(s: SeatState): number {
    const { pace } = this.movement;
    if (pace === null) return 1;
    return this.paces(s) ? 0 : pace.now(s);
  }

  override reset(s: SeatState): void {
    super.reset(s);
    this.timers.clear(s, this.timer);
  }

  private wait(s: SeatState, length: number, eases: boolean, isDriven: boolean): void {
    const { movement, timers, timer } = this;
    const { pace, ease, sticksX, sums } = movement;
    const now = s.clock[Clock.Now]!;
    let next = pace!.leftMs(s);
    if (!eases) next = Math.min(next, this.crossing(s, length, 0));
    else if (movement.kind === "vector" || isDriven) next = Math.min(next, Math.floor(now) + 1 - now);
    else {
      // Keys ramp; a stick holds its value, and so does what is clamped at 1.
      const stick = sticksX < 0 ? 0 : s.f[sticksX]!;
      const x = ease!.partNow(s, EaseValue.X) + (sums ? stick : 0);
      const sign = x < 0 || (x === 0 && ease!.slopeNow(s, EaseValue.X) < 0) ? -1 : 1;
      next = Math.min(
        next,
        this.crossing(s, sign * x, sign * ease!.slopeNow(s, EaseValue.X)),
        this.crossing(s, sums ? 1 : Math.abs(stick), 0),
      );
    }
    timers.set(s, timer, next);
  }

  /** How long until a length with this slope, times the pace, enters the next gait or leaves its own. */
  private crossing(s: SeatState, length: number, slope: number): number {
    const pace = this.movement.pace!;
    const p = pace.now(s);
    const dp = pace.slope(s);
    const up = reach(this.limit(s, 1, 1), 1, length, slope, p, dp);
    const down = reach(this.limit(s, -1, 1), -1, length, slope, p, dp);
    return Math.min(up, down);
  }
}

/** When (length + slope t) (p + dp t) reaches `limit`, rising (1) or falling (-1), in ms; otherwise Infinity. */
function reach(limit: number, way: 1 | -1, length: number, slope: number, p: number, dp: number): number {
  const a = slope * dp;
  const b = length * dp + slope * p;
  const c = length * p - limit;
  if (!(Math.abs(c) < Infinity)) return Infinity;
  if (a === 0) return b * way > 0 ? later(-c / b) : Infinity;
  const root = b * b - 4 * a * c;
  if (!(root > 0)) return Infinity;
  // Of the two the rising one has the positive derivative, which is this root.
  return later((way * Math.sqrt(root) - b) / (2 * a));
}
