/** A condition that has been so for a while. In: the condition, and for how long. Out: a condition of its own. May change: its timer. */
import type { RuleCells } from "./cells.js";
import type { Feature } from "./compile.js";
import { Condition } from "./conditions.js";
import type { SeatState } from "./state.js";
import type { Timed, Timer, Timers } from "./timers.js";

export class LastingCondition extends Condition implements Timed {
  private readonly timer: Timer;

  constructor(
    cells: RuleCells,
    name: string,
    private readonly of: Condition,
    private readonly not: boolean,
    private readonly forMs: number,
    private readonly timers: Timers,
    order: number,
  ) {
    super(cells, name);
    this.timer = timers.due(cells, "lasts", this, order);
    of.lasting.push(this);
  }

  /** The condition may have changed. */
  follow(s: SeatState): void {
    const { timer, timers, of } = this;
    if ((s.b[of.at] === 1) === this.not) {
      timers.clear(s, timer);
      this.set(s, 0);
    } else if (s.b[this.at] === 0 && s.f[timer.at] === Infinity) timers.set(s, timer, this.forMs);
  }

  due(s: SeatState): void {
    this.set(s, 1);
  }

  /** What is so at the start has been so since then. */
  reset(s: SeatState): void {
    this.timers.clear(s, this.timer);
    this.set(s, 0);
    this.follow(s);
  }

  recount(s: SeatState): void {
    this.follow(s);
  }
}

export const lasting: Feature = {
  lasting: (compiler, base, { not, forMs }, name, order) => {
    const cells = compiler.cells.rule(`${not ? "not " : ""}${base.name} lasts`);
    const own = new LastingCondition(cells, name, base, not, forMs!, compiler.timers, order);
    compiler.resets.push(own);
    compiler.recounts.push(own);
    return own;
  },
};
