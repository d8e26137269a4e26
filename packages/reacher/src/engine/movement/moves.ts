/** The condition "it moves". In: whether a movement is away from rest. Out: the condition, which may linger, so that a change of direction is not a stop. */
import type { Condition } from "../conditions.js";
import { Cause, type SeatState } from "../state.js";
import { Live } from "../tables.js";
import { Phase, type Timed, type Timer, type Timers } from "../timers.js";

/** Causes of a stop after which it does not linger. */
const ENDS_AT_ONCE: { readonly [cause in Cause]: boolean } = {
  [Cause.Hands]: false,
  [Cause.Game]: false,
  [Cause.Bindings]: false,
  [Cause.Lost]: true,
  [Cause.Mode]: true,
  [Cause.Mute]: true,
  [Cause.Reset]: true,
};

export class MovingCondition implements Timed {
  private readonly timer: Timer;
  /** The number of the device that moved it last (byte); -1 if it never lingers. */
  private readonly byDevice: number;

  constructor(
    private readonly condition: Condition,
    private readonly liveAt: number,
    private readonly lingerMs: number,
    private readonly timers: Timers,
  ) {
    this.timer = timers.window(condition.cells, "lingers", this, Phase.Lingers);
    this.byDevice = lingerMs > 0 ? condition.cells.byte("byDevice") : -1;
  }

  set(s: SeatState, moves: number): void {
    const { condition, timer, timers } = this;
    if (moves === 0 && s.b[condition.at] === 1 && !ENDS_AT_ONCE[s.cause]) {
      if (s.f[timer.at]! < Infinity) return;
      if (this.lingerMs > 0 && s.b[this.liveAt] !== Live.Hidden) {
        timers.set(s, timer, this.lingerMs);
        return;
      }
    }
    timers.clear(s, timer);
    condition.set(s, moves);
  }

  /** Whether it ever lingers: only then does it need to know what moves it. */
  get lingers(): boolean {
    return this.byDevice >= 0;
  }

  /** Notes what moves it; 0 for the game. */
  movedBy(s: SeatState, device: number): void {
    s.b[this.byDevice] = device;
  }

  renumber({ b }: SeatState, deviceOf: (device: number) => number): void {
    if (this.byDevice >= 0) b[this.byDevice] = deviceOf(b[this.byDevice]!);
  }

  /** Everything is lost (-1), or one device is. */
  lose(s: SeatState, device: number): void {
    if (device < 0 || (this.byDevice >= 0 && s.b[this.byDevice] === device)) this.end(s);
  }

  /** Ends lingering. */
  end(s: SeatState): void {
    if (s.f[this.timer.at]! < Infinity) this.due(s);
  }

  due(s: SeatState): void {
    this.timers.clear(s, this.timer);
    this.condition.set(s, 0);
  }
}
