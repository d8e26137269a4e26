/** A seat's reading gives what other tables read. In: the seat, those tables, and the reading. May change: its objects, which a game has in hand. */
import { ActionReading } from "./reading.js";
import type { Reading } from "./readings.js";
import type { SeatBuffer } from "./seatBuffer.js";
import type { Tables } from "./tables.js";

export function readAs(seat: SeatBuffer, tables: Tables, now: Reading): void {
  const { readings } = seat;
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
