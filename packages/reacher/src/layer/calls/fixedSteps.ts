/** Moments of steps at a fixed rate. In: now, and a rate. Out: the moments since the last step. */
import { noTime } from "../../plan/arguments.js";
import { shown } from "../../plan/depth.js";
import { ReacherError } from "../../plan/errors.js";
import { Clock } from "../../engine/clock.js";
import type { Scheduler } from "../../engine/scheduler.js";

export abstract class FixedStepCalls {
  declare readonly scheduler: Scheduler;
  declare readonly moments: number[];

  fixedSteps(now: number, hz: number, most = 15): readonly number[] {
    const { moments } = this;
    if (!Number.isFinite(now)) throw noTime(now);
    if (!(hz > 0 && hz < Infinity))
      throw new ReacherError(`${shown(hz)} is no rate; give steps per second, above 0`);
    if (!(most >= 1)) throw new ReacherError(`${shown(most)} is no count of steps; give at least 1`);
    const last = Math.floor((now * hz) / 1000);
    const step = this.scheduler.clock[Clock.Now]!;
    const first = step > -Infinity ? Math.floor((step * hz) / 1000 + 1e-6) + 1 : last;
    moments.length = 0;
    for (let n = Math.max(first, last - most + 1); n <= last; n++) moments.push((n * 1000) / hz);
    return moments;
  }
}
