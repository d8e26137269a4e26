/** A switch cools down after it began: a press that would begin it within that time is ignored for good. */
import { Rule } from "../cells.js";
import { Clock } from "../clock.js";
import type { Feature } from "../compile.js";
import type { SeatState } from "../state.js";
import { Phase, type Timed, type Timer, type Timers } from "../timers.js";
import type { StartGuard } from "./hooks.js";
import type { Switch } from "./switch.js";

export class Cooldown extends Rule implements StartGuard, Timed {
  private readonly timer: Timer | null;
  readonly until = this.cells.float("cooldownUntil", -Infinity);

  constructor(
    private readonly owner: Switch,
    private readonly cooldownMs: number,
    private readonly timers: Timers,
  ) {
    super(owner.cells);
    // A press that is kept begins when the cooldown is over.
    this.timer = owner.keeper === null ? null : timers.window(this.cells, "cooldown", this, Phase.Lingers);
  }

  refuses({ f, clock }: SeatState): boolean {
    return clock[Clock.Now]! <= f[this.until]!;
  }

  refusesUntil({ f }: SeatState): number {
    return f[this.until]!;
  }

  begin(s: SeatState): void {
    s.f[this.until] = s.clock[Clock.Now]! + this.cooldownMs;
    if (this.timer !== null) this.timers.set(s, this.timer, this.cooldownMs);
  }

  due(s: SeatState): void {
    s.f[this.until] = -Infinity;
    s.markSwitch(this.owner.rank);
  }
}

export const cooldown: Feature = {
  options: [
    {
      name: "cooldownMs",
      appliesTo: ({ cooldownMs }) => cooldownMs > 0,
      make: ({ timers }, owner: Switch, { cooldownMs }) =>
        owner.begins(new Cooldown(owner, cooldownMs, timers)),
    },
  ],
};
