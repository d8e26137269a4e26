/** The game tells where its figures are, for the pointer. */
import { momentOf, type Moment } from "../../plan/arguments.js";
import { shown } from "../../plan/depth.js";
import { ReacherError } from "../../plan/errors.js";
import { FURTHEST_SPOT } from "../../plan/language/saneRanges.js";
import { EventKind } from "../../engine/queue.js";
import { command, indexIn, SeatPart } from "./seatPart.js";

export abstract class SpotCalls extends SeatPart {
  setSpot(name: string, x: number, y: number, t?: Moment): void {
    const index = indexIn("spot", name, this.checked.spots);
    for (const value of [x, y])
      if (typeof value !== "number" || !(Math.abs(value) <= FURTHEST_SPOT))
        throw new ReacherError(
          `${shown(value)} is no place for ${name}; give x and y in halves of the area's shorter side, from its middle`,
        );
    command(this, EventKind.Spot, index, x, momentOf(t), y);
  }
}
