/** A seat goes over from made code to the rules that it was made of: the same cells, so its buffer is copied and nothing else happens. May change: the seat. */
import { ReacherError } from "../plan/errors.js";
import { readAs } from "./readAs.js";
import type { Reading } from "./readings.js";
import type { SeatBuffer } from "./seatBuffer.js";
import type { Tables } from "./tables.js";

/** Between two steps. `now`: the seat's reading, whose objects stay what a game has in hand. @throws ReacherError if the cells lie otherwise */
export function exchange(seat: SeatBuffer, tables: Tables, now: Reading): void {
  const { b, isStale } = seat;
  const before = seat.tables;
  if (before.print !== tables.print || tables.cells.allocate().byteLength !== b.length)
    throw new ReacherError("the code of this plan was made by another version; build the game anew");
  seat.layOut(tables);
  seat.b.set(b);
  seat.isStale = isStale;
  readAs(seat, tables, now);
}
