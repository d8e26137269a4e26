/** Reads seats: the slots that each player has. */
import { didYouMean } from "../../controls/nearest.js";
import type { CheckedPlan } from "../checked.js";
import type { Reader } from "./reader.js";

/** The one seat of a plan that names none. */
export const SOLO = "solo";

export function readSeats(reader: Reader): CheckedPlan["seats"] {
  const slots = [...reader.slots.keys()];
  const seats = Object.entries(reader.plan.seats ?? { [SOLO]: { slots } });
  if (seats.length === 0) reader.report("missing-field", "seats", "has no seat; name one, or leave it out");
  return seats.map(([name, seat]) => {
    seat.slots.forEach((slot, n) => {
      if (!slots.includes(slot))
        reader.report(
          "unknown-slot",
          `seats.${name}.slots.${n}`,
          `there is no slot ${JSON.stringify(slot)}${didYouMean(slot, slots)}`,
        );
    });
    return { name, slots: seat.slots };
  });
}
