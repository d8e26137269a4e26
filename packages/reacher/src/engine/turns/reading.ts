/** What the game gets for a turn. Made once; every field is read off the seat's cells as they are at the moment. */
import type { SeatState } from "../state.js";
import type { Turn } from "./turn.js";

export class TurnReading {
  readonly #s: SeatState;
  #rule: Turn;

  /** @internal */
  constructor(s: SeatState, rule: Turn) {
    this.#s = s;
    this.#rule = rule;
  }

  /** @internal The same reading, by other tables. */
  static point(reading: object, rule: Turn): void {
    (reading as TurnReading).#rule = rule;
  }

  /** How far to the right in this step, in the plan's unit (degrees). */
  get dx(): number {
    return this.#rule.inStep(this.#s, 0);
  }

  /** How far up in this step; down is positive where the plan's `yAxis` says "down". */
  get dy(): number {
    return this.#rule.inStep(this.#s, 1);
  }

  toJSON(): { dx: number; dy: number } {
    return { dx: this.dx, dy: this.dy };
  }

  [Symbol.for("nodejs.util.inspect.custom")](): object {
    return { dx: this.dx, dy: this.dy };
  }
}
