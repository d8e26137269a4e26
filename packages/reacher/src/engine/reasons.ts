/**
 * Why the game mutes an action or drives it: names, each one bit of a number. A seat's names are stored in its buffer as
 * hashes, so that a snapshot carries them to another layer or another machine.
 */
import { ReacherError } from "../plan/errors.js";
import { fingerprint } from "./fingerprint.js";
import type { SeatState } from "./state.js";
import type { Tables } from "./tables.js";

/** As many as fit into the bits of a number. */
export const MOST_REASONS = 31;

/** All reason names ever used, by hash: explanations look them up. */
const names = new Map<number, string>();

/** The bit of a reason, adding it to the seat's names if new. @throws ReacherError if there are too many */
export function reasonBit(s: SeatState, { reasons }: Tables, name: string): number {
  const print = printOf(name);
  const known = find(s, reasons, print);
  if (known !== 0) return known;
  for (let n = 0; n < MOST_REASONS; n++) {
    if (s.i[reasons + n] !== 0) continue;
    s.i[reasons + n] = print;
    return 1 << n;
  }
  throw new ReacherError(`${MOST_REASONS} reasons are the most that a seat knows; reuse their names`);
}

/** The bit of a reason; 0 if the seat does not have it. */
export function knownReason(s: SeatState, { reasons }: Tables, name: string): number {
  return find(s, reasons, printOf(name));
}

/** The names of these bits, in the order in which the seat first used them. */
export function reasonNames({ i }: Pick<SeatState, "i">, { reasons }: Tables, bits: number): string[] {
  const all: string[] = [];
  for (let n = 0; n < MOST_REASONS; n++)
    if ((bits & (1 << n)) !== 0) all.push(names.get(i[reasons + n]!) ?? "another reason");
  return all;
}

function find({ i }: SeatState, reasons: number, print: number): number {
  for (let n = 0; n < MOST_REASONS; n++) if (i[reasons + n] === print) return 1 << n;
  return 0;
}

/** 0 stands for none. */
function printOf(name: string): number {
  const print = fingerprint(name) || 1;
  if (!names.has(print)) names.set(print, name);
  return print;
}
