/** What the game tells: a flag is so or not. One that lingers counts as true a while longer. */
import type { CheckedFlag } from "../../plan/checked.js";
import type { RuleCells } from "../cells.js";
import type { Feature } from "../compile.js";
import { Condition } from "../conditions.js";
import { Kind } from "../queue.js";
import type { SeatState } from "../state.js";
import { Phase, type Timed, type Timer, type Timers } from "../timers.js";

export class Flag implements Timed {
  readonly condition: Condition;
  private readonly timer: Timer | null;

  constructor(
    cells: RuleCells,
    private readonly flag: CheckedFlag,
    private readonly timers: Timers,
  ) {
    this.condition = new Condition(cells, flag.name, flag.start ? 1 : 0);
    this.timer = flag.lingerMs > 0 ? timers.window(cells, "lingers", this, Phase.Lingers) : null;
  }

  set(s: SeatState, truth: number): void {
    const { timer } = this;
    if (timer !== null) {
      if (truth === 1) this.timers.clear(s, timer);
      else if (s.b[this.condition.at] === 1) {
        // Set false again while it lingers: the time runs from the first.
        if (s.f[timer.at] === Infinity) this.timers.set(s, timer, this.flag.lingerMs);
        return;
      }
    }
    this.condition.set(s, truth);
  }

  due(s: SeatState): void {
    this.condition.set(s, 0);
  }

  reset(s: SeatState): void {
    if (this.timer !== null) this.timers.clear(s, this.timer);
    this.condition.set(s, this.flag.start ? 1 : 0);
  }
}

export const flags: Feature = {
  open: ({ plan, cells, timers, conditions, resets, commands }) => {
    const own = plan.flags.map((flag) => new Flag(cells.rule(`flag ${flag.name}`), flag, timers));
    for (const flag of own) conditions.set(flag.condition.name, flag.condition);
    resets.push(...own);
    commands[Kind.Flag] = (s, flag, truth) => own[flag]!.set(s, truth);
  },
};
