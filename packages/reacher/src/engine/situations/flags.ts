/** Flags, which the game sets. A flag that lingers counts as true a while longer. */
import { FALSE, TRUE } from "../meanings.js";
import type { CheckedFlag } from "../../plan/checked.js";
import type { RuleCells } from "../cells.js";
import type { Feature } from "../compile.js";
import { Clock } from "../clock.js";
import { Condition } from "../conditions.js";
import { EventKind } from "../queue.js";
import { SetEach } from "./setEach.js";
import type { SeatState } from "../state.js";
import { Phase, type Timed, type Timer, type Timers } from "../timers.js";

export class Flag implements Timed {
  readonly condition: Condition;
  private readonly timer: Timer;
  /** Until when it does not linger after having been spent. */
  private readonly spentUntil: number;

  constructor(
    cells: RuleCells,
    private readonly flag: CheckedFlag,
    private readonly timers: Timers,
  ) {
    this.condition = new Condition(cells, flag.name, flag.start ? 1 : 0);
    // A flag that does not linger may have lingered under the previous plan.
    this.timer = timers.window(cells, "lingers", this, Phase.Lingers);
    this.spentUntil = flag.lingerMs > 0 ? cells.float("spentUntil", -Infinity) : -1;
  }

  set(s: SeatState, truth: number): void {
    const { timer, flag, spentUntil } = this;
    if (truth === FALSE && s.b[this.condition.at] === 1) {
      // Set false again while it lingers: the time runs from the first time.
      if (s.f[timer.at]! < Infinity) return;
      if (flag.lingerMs > 0 && s.clock[Clock.Now]! >= s.f[spentUntil]!) {
        this.timers.set(s, timer, flag.lingerMs);
        return;
      }
    }
    this.timers.clear(s, timer);
    this.condition.set(s, truth === TRUE ? 1 : 0);
  }

  /** Spends it: false at once, and if the game sets it false soon after, it does not linger. */
  spend(s: SeatState): void {
    this.timers.clear(s, this.timer);
    if (this.spentUntil >= 0) s.f[this.spentUntil] = s.clock[Clock.Now]! + this.flag.lingerMs;
    this.condition.set(s, 0);
  }

  due(s: SeatState): void {
    this.condition.set(s, 0);
  }

  reset(s: SeatState): void {
    this.timers.clear(s, this.timer);
    if (this.spentUntil >= 0) s.f[this.spentUntil] = -Infinity;
    this.condition.set(s, this.flag.start ? 1 : 0);
  }
}

export const flags: Feature = {
  open: ({ plan, cells, timers, conditions, flags, resets, commands }) => {
    const own = plan.flags.map((flag) => new Flag(cells.rule(`flag ${flag.name}`), flag, timers));
    for (const flag of own) {
      conditions.set(flag.condition.name, flag.condition);
      flags.set(flag.condition.name, flag);
    }
    resets.push(...own);
    commands[EventKind.Flag] = new SetEach(own);
  },
};
