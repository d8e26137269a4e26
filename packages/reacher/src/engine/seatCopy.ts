/** Copies the whole state of a seat, and puts it back. In: a seat, and as many bytes as its buffer has. May change: the seat and the clock, or the bytes. */
import { Clock } from "./clock.js";
import type { SeatBuffer } from "./seatBuffer.js";

/** The state, with the clock. */
export function copySeat({ b, f, clock, tables: { stamp } }: SeatBuffer, into: Uint8Array): void {
  f[stamp] = clock[Clock.Now]!;
  f[stamp + 1] = clock[Clock.Step]!;
  f[stamp + 2] = clock[Clock.Before]!;
  into.set(b);
}

/** Events not yet handled are dropped. */
export function restoreSeat(seat: SeatBuffer, from: Uint8Array): void {
  const { b, f, i, clock, scheduler, number } = seat;
  const { stamp, instantCount } = seat.tables;
  b.set(from);
  scheduler.events.clear(number);
  scheduler.commands.clear(number);
  seat.hasCommand = false;
  seat.doneAt = NaN;
  clock[Clock.Now] = f[stamp]!;
  clock[Clock.Step] = f[stamp + 1]!;
  clock[Clock.Before] = f[stamp + 2]!;
  if (clock[Clock.From]! > clock[Clock.Now]!) clock[Clock.From] = clock[Clock.Now]!;
  scheduler.wake(number);
  if (seat.dropMarks()) {
    scheduler.notices.clear();
    seat.isStale = true;
  } else if (i[instantCount]! > 0) seat.isStale = true;
}
