/**
 * Keys of a mover: how many hold each of its ends, all in one number, and what the ends that are down give. Pure.
 *
 * Ends that are down are a number too, a bit each; opposite ends are never down together in what is looked up here.
 */
import { End } from "./tables.js";

/** Bits that an end has in a count. */
const WIDTH = 8;

/** The bits of an end in a count of keys or sources. */
export function endBits(end: number): number {
  return ((1 << WIDTH) - 1) << (end * WIDTH);
}

/** One key or source more at this end, in such a count. */
export function oneMore(end: number): number {
  return 1 << (end * WIDTH);
}

/** The ends of which a count holds any, a bit each. */
export function endsOf(count: number): number {
  return (
    ((count & 0xff) === 0 ? 0 : 1 << End.Left) |
    ((count & 0xff00) === 0 ? 0 : 1 << End.Right) |
    ((count & 0xff0000) === 0 ? 0 : 1 << End.Down) |
    ((count & 0xff000000) === 0 ? 0 : 1 << End.Up)
  );
}

/** x, y and length for each set of ends. `round`: a diagonal has a length of 1. `up`: +1 or -1. */
export function keyVectors(round: boolean, up: number): Float64Array {
  const vectors = new Float64Array(16 * 3);
  for (let ends = 0; ends < 16; ends++) {
    let x = component(ends, End.Left, End.Right);
    let y = component(ends, End.Down, End.Up);
    let length = Math.sqrt(x * x + y * y);
    if (length > 1 && round) {
      x /= length;
      y /= length;
      length = 1;
    }
    vectors.set([x, y * up + 0, length], ends * 3);
  }
  return vectors;
}

function component(ends: number, minus: number, plus: number): number {
  return ((ends >> plus) & 1) - ((ends >> minus) & 1);
}

/** The eight directions by sets of ends; -1 is none. */
const SECTORS = new Int8Array(16).fill(-1);
SECTORS[1 << End.Right] = 0;
SECTORS[(1 << End.Right) | (1 << End.Up)] = 1;
SECTORS[1 << End.Up] = 2;
SECTORS[(1 << End.Left) | (1 << End.Up)] = 3;
SECTORS[1 << End.Left] = 4;
SECTORS[(1 << End.Left) | (1 << End.Down)] = 5;
SECTORS[1 << End.Down] = 6;
SECTORS[(1 << End.Right) | (1 << End.Down)] = 7;

/** Which of the eight directions a set of ends is, or -1. */
export function sectorOf(ends: number): number {
  return SECTORS[ends]!;
}
