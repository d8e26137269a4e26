/** Snapshots of the whole state of one seat, or of all seats of a layer concatenated. */
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import type { SeatEngine } from "../engine/seat.js";
import { copySeat, restoreSeat } from "../engine/seatCopy.js";

export function copyOf(seats: readonly SeatEngine[], into?: Uint8Array): Uint8Array {
  const size = sizeOf(seats);
  if (into !== undefined) mustBeBytes(into);
  const copy = into ?? new Uint8Array(size);
  if (copy.length !== size)
    throw new ReacherError(`the kept copy has ${copy.length} bytes; a snapshot of this plan has ${size}`);
  let at = 0;
  for (let n = 0; n < seats.length; n++) {
    const seat = seats[n]!;
    copySeat(seat, partOf(copy, at, seat));
    at += seat.b.length;
  }
  return copy;
}

/** Restores copied states. @throws ReacherError if they are of another plan, other keys or other slots; then nothing changes */
export function putBack(seats: readonly SeatEngine[], copy: Uint8Array): void {
  mustBeBytes(copy);
  if (!fits(seats, copy)) {
    const { name } = seats[0]!.tables.plan;
    throw new ReacherError(
      `the snapshot is not of this plan${name && ` (${name})`} as it is now; take a new one`,
    );
  }
  mustBeServed(seats, copy);
  let at = 0;
  for (let n = 0; n < seats.length; n++) {
    const seat = seats[n]!;
    restoreSeat(seat, partOf(copy, at, seat));
    at += seat.b.length;
  }
}

/** @throws ReacherError if the snapshot is of a game with calls that this one was built without */
function mustBeServed(seats: readonly SeatEngine[], copy: Uint8Array): void {
  let from = 0;
  for (let n = 0; n < seats.length; n++) {
    const { b, tables } = seats[n]!;
    // Before the first step nothing is as code knows it.
    if (tables.fixed !== undefined && copy[from + tables.started] === 1)
      for (const [at, ...bytes] of tables.fixed)
        if (bytes.some((byte, n) => copy[from + at! + n] !== byte))
          throw new ReacherError(
            "the snapshot is of a game that calls what this one was built without; build both with the same calls",
          );
    from += b.length;
  }
}

/** @throws ReacherError if this is no snapshot */
function mustBeBytes(given: unknown): void {
  if (!(given instanceof Uint8Array))
    throw new ReacherError(`${shown(given)} is no snapshot; it is a Uint8Array, as snapshot gives it`);
}

/** The seat's bytes within the copy; the whole copy if it is the only seat. */
function partOf(copy: Uint8Array, at: number, { b }: SeatEngine): Uint8Array {
  return copy.length === b.length ? copy : copy.subarray(at, at + b.length);
}

function sizeOf(seats: readonly SeatEngine[]): number {
  let size = 0;
  for (let n = 0; n < seats.length; n++) size += seats[n]!.b.length;
  return size;
}

/** Whether the hashes in a copy are the seats' own. */
function fits(seats: readonly SeatEngine[], copy: Uint8Array): boolean {
  if (copy.length !== sizeOf(seats)) return false;
  let at = 0;
  for (let n = 0; n < seats.length; n++) {
    const { b, tables } = seats[n]!;
    const print = tables.printAt * 4;
    for (let byte = print; byte < print + 4; byte++) if (copy[at + byte] !== b[byte]) return false;
    at += b.length;
  }
  return true;
}
