/** Pulses of a switch while it is on. */
import { Rule } from "../cells.js";
import { Clock } from "../clock.js";
import type { Feature } from "../compile.js";
import type { SeatState } from "../state.js";
import type { Timed, Timer, Timers } from "../timers.js";
import type { Rhythm } from "./hooks.js";
import type { Switch } from "./switch.js";

export class Repeat extends Rule implements Rhythm, Timed {
  private readonly pulses = this.cells.int("pulses");
  private readonly step = this.cells.int("pulseStep", -1);
  private readonly timer: Timer;

  constructor(
    private readonly owner: Switch,
    private readonly timers: Timers,
    private readonly afterMs: number,
    private readonly everyMs: number,
    action: number,
  ) {
    super(owner.cells);
    this.timer = timers.due(owner.cells, "pulse", this, action);
  }

  begin(s: SeatState): void {
    this.pulse(s);
    this.timers.set(s, this.timer, this.afterMs);
  }

  end(s: SeatState): void {
    this.timers.clear(s, this.timer);
  }

  due(s: SeatState): void {
    this.pulse(s);
    this.timers.set(s, this.timer, this.everyMs);
    s.notePulse(this.owner.name);
  }

  pulsesNow({ i, clock }: SeatState): number {
    return i[this.step] === clock[Clock.Step] ? i[this.pulses]! : 0;
  }

  private pulse({ i, clock }: SeatState): void {
    i[this.pulses] = i[this.step] === clock[Clock.Step] ? i[this.pulses]! + 1 : 1;
    i[this.step] = clock[Clock.Step]!;
  }
}

export const repeat: Feature = {
  options: [
    {
      name: "repeat",
      isAsked: (action) => action.repeat !== undefined,
      make: ({ timers }, owner: Switch, action, _, number) => {
        const { afterMs, everyMs } = action.repeat!;
        owner.rhythm = new Repeat(owner, timers, afterMs, everyMs, number);
      },
    },
  ],
};
