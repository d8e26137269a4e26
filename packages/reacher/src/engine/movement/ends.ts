/**
 * The ends of a movement as bits: which of them are down, and the movement that they add up to. Pure.
 *
 * The number of keys that hold each end is packed into one integer, eight bits per end.
 */

/** An axis has the first two. */
export const enum End {
  Left,
  Right,
  Down,
  Up,
}

/** Ends by the names of directions. */
export const ENDS = {
  left: End.Left,
  right: End.Right,
  down: End.Down,
  up: End.Up,
} as const;

export const HORIZONTAL = (1 << End.Left) | (1 << End.Right);
export const VERTICAL = (1 << End.Down) | (1 << End.Up);

/** Bits that an end has in a count. */
const WIDTH = 8;

/** The bits of an end in a count. */
export function endBits(end: number): number {
  return ((1 << WIDTH) - 1) << (end * WIDTH);
}

/** One more key at this end, in a packed count. */
export function oneMore(end: number): number {
  return 1 << (end * WIDTH);
}

/** The ends with a count above 0, one bit each. */
export function endsOf(count: number): number {
  return (
    ((count & 0xff) === 0 ? 0 : 1 << End.Left) |
    ((count & 0xff00) === 0 ? 0 : 1 << End.Right) |
    ((count & 0xff0000) === 0 ? 0 : 1 << End.Down) |
    ((count & 0xff000000) === 0 ? 0 : 1 << End.Up)
  );
}

/** A table of x, y and length for each set of ends without opposites. `isRound`: a diagonal has a length of 1. `up`: +1 or -1. */
export function keyVectors(isRound: boolean, up: number): Float64Array {
  const vectors = new Float64Array(16 * 3);
  for (let ends = 0; ends < 16; ends++) {
    let x = component(ends, End.Left, End.Right);
    let y = component(ends, End.Down, End.Up);
    let length = Math.sqrt(x * x + y * y);
    if (length > 1 && isRound) {
      x /= length;
      y /= length;
      length = 1;
    }
    vectors.set([x, y * up + 0, length], ends * 3);
  }
  return vectors;
}

/** The component of two opposite ends, of which at most one is down. */
export function component(ends: number, minus: number, plus: number): number {
  return ((ends >> plus) & 1) - ((ends >> minus) & 1);
}
