/** A switch rests for a while after it began: a press that would begin it within that time is ignored for good. */
import { Rule } from "../cells.js";
import { Clock } from "../clock.js";
import type { Feature } from "../compile.js";
import type { SeatState } from "../state.js";
import { Phase, type Timed, type Timer, type Timers } from "../timers.js";
import type { Beginning } from "./hooks.js";
import type { Switch } from "./switch.js";

export class Rest extends Rule implements Beginning, Timed {
  private readonly timer: Timer | null;
  readonly until = this.cells.float("restsUntil", -Infinity);

  constructor(
    private readonly owner: Switch,
    private readonly restMs: number,
    private readonly timers: Timers,
  ) {
    super(owner.cells);
    // A press that is kept begins when the rest is over.
    this.timer = owner.keeper === null ? null : timers.window(this.cells, "rests", this, Phase.Lingers);
  }

  refuses({ f, clock }: SeatState): boolean {
    return clock[Clock.Now]! <= f[this.until]!;
  }

  begin(s: SeatState): void {
    s.f[this.until] = s.clock[Clock.Now]! + this.restMs;
    if (this.timer !== null) this.timers.set(s, this.timer, this.restMs);
  }

  due(s: SeatState): void {
    s.f[this.until] = -Infinity;
    s.markSwitch(this.owner.rank);
  }
}

export const rest: Feature = {
  options: [
    {
      name: "restMs",
      isAsked: ({ restMs }) => restMs > 0,
      make: ({ timers }, owner: Switch, { restMs }) => owner.begins(new Rest(owner, restMs, timers)),
    },
  ],
};
