/** What the game gets for a turn. */
import { isLive } from "../live.js";
import { ActionReading } from "../reading.js";
import type { Turn } from "./turn.js";

export class TurnReading extends ActionReading {
  /** @internal */
  private get rule(): Turn {
    return this.ruleNow() as Turn;
  }

  /** Whether hands work it now: a mode of it is on and not covered, and nothing mutes it. */
  get live(): boolean {
    return isLive(this.s, this.rule);
  }

  /** How far to the right in this step, in the plan's unit (degrees). */
  get dx(): number {
    return this.rule.inStep(this.s, 0);
  }

  /** How far up in this step; down is positive where the plan's `yAxis` says "down". */
  get dy(): number {
    return this.rule.inStep(this.s, 1);
  }

  toJSON(): { dx: number; dy: number } {
    return { dx: this.dx, dy: this.dy };
  }
}
