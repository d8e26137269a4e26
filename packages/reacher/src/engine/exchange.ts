/** A seat goes over from made code to the rules that it was made of: the same cells, so its buffer is copied and nothing else happens. May change: the seat. */
import { ReacherError } from "../plan/errors.js";
import { ActionReading } from "./reading.js";
import type { Reading } from "./readings.js";
import type { SeatBuffer } from "./seatBuffer.js";
import type { Tables } from "./tables.js";

/** Between two steps. `now`: the seat's reading, whose objects stay what a game has in hand. @throws ReacherError if the cells lie otherwise */
export function exchange(seat: SeatBuffer, tables: Tables, now: Reading): void {
  const { b, isStale, readings } = seat;
  const before = seat.tables;
  if (before.print !== tables.print || tables.cells.allocate().byteLength !== b.length)
    throw new ReacherError("the code of this plan was made by another version; build the game anew");
  seat.layOut(tables);
  seat.b.set(b);
  seat.isStale = isStale;
  const { length } = readings;
  tables.actions.forEach(({ name }, n) =>
    become(now[name] as unknown as ActionReading, tables.readings[n]!(seat, n) as unknown as ActionReading),
  );
  // Those were patterns alone.
  readings.length = length;
}

/** A reading gives what another one gives, and its parts likewise. */
function become(own: ActionReading, other: ActionReading): void {
  Object.setPrototypeOf(own, Object.getPrototypeOf(other) as object);
  for (const [name, field] of Object.entries(Object.getOwnPropertyDescriptors(other))) {
    if (field.enumerable !== true) continue;
    const part = field.value as unknown;
    if (part instanceof ActionReading)
      become(own[name as keyof ActionReading] as unknown as ActionReading, part);
    else Object.defineProperty(own, name, field);
  }
}
