/** The game sets named numbers, and asks for them. */
import { momentOf, type Moment } from "../../plan/arguments.js";
import { shown } from "../../plan/depth.js";
import { ReacherError } from "../../plan/errors.js";
import { MOST_NUMBER } from "../../plan/language/saneRanges.js";
import { EventKind } from "../../engine/queue.js";
import { command, indexIn, SeatPart } from "./seatPart.js";

export abstract class NumberCalls extends SeatPart {
  setNumber(name: string, value: number, t?: Moment): void {
    const index = indexIn("number", name, this.checked.numbers);
    if (typeof value !== "number" || !(Math.abs(value) <= MOST_NUMBER))
      throw new ReacherError(`${shown(value)} is no value for ${name}; give a number up to 1e9`);
    command(this, EventKind.Number, index, value, momentOf(t));
  }

  number(name: string): number {
    indexIn("number", name, this.checked.numbers);
    return this.engine.f[this.engine.tables.numbers.get(name)!.at]!;
  }
}
