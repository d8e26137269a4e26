/** Copies of whole states: of one seat, or of all seats of a layer one after the other. */
import { ReacherError } from "../plan/findings.js";
import type { Seat } from "../engine/seat.js";

export function copyOf(seats: readonly Seat[], into?: Uint8Array): Uint8Array {
  const size = sizeOf(seats);
  const copy = into ?? new Uint8Array(size);
  if (copy.length !== size)
    throw new ReacherError(`the kept copy has ${copy.length} bytes; a snapshot of this plan has ${size}`);
  if (seats.length === 1) seats[0]!.snapshot(copy);
  else {
    let at = 0;
    for (const seat of seats) {
      seat.snapshot(copy.subarray(at, at + seat.b.length));
      at += seat.b.length;
    }
  }
  return copy;
}

/** Takes copied states back. @throws ReacherError where they are of another plan, of other keys or of other slots; then nothing changes */
export function putBack(seats: readonly Seat[], copy: Uint8Array): void {
  let at = 0;
  let fits = copy.length === sizeOf(seats);
  for (const seat of seats) {
    if (fits) fits = isOf(seat, copy, at);
    at += seat.b.length;
  }
  if (!fits) {
    const { name } = seats[0]!.tables.plan;
    throw new ReacherError(
      `the snapshot is not of this plan${name && ` (${name})`} as it is now; take a new one`,
    );
  }
  if (seats.length === 1) {
    seats[0]!.restore(copy);
    return;
  }
  at = 0;
  for (const seat of seats) {
    seat.restore(copy.subarray(at, at + seat.b.length));
    at += seat.b.length;
  }
}

function sizeOf(seats: readonly Seat[]): number {
  let size = 0;
  for (const { b } of seats) size += b.length;
  return size;
}

/** Whether the fingerprint that stands in a copy is the seat's own. */
function isOf({ b, tables }: Seat, copy: Uint8Array, at: number): boolean {
  const print = tables.printAt * 4;
  for (let n = print; n < print + 4; n++) if (copy[at + n] !== b[n]) return false;
  return true;
}
