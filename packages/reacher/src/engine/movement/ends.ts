/**
 * The ends of a movement, a bit each: which of them are down, and what they give together. Pure.
 *
 * How many keys hold each end stands in one number, eight bits an end.
 */

/** An axis has the first two. */
export const enum End {
  Left,
  Right,
  Down,
  Up,
}

/** The ends by the names of directions. */
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

/** One more at this end, in such a count. */
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

/** x, y and length for each set of ends of which no two are opposite. `isRound`: a diagonal has a length of 1. `up`: +1 or -1. */
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

/** What two opposite ends give, of which one is down at most. */
export function component(ends: number, minus: number, plus: number): number {
  return ((ends >> plus) & 1) - ((ends >> minus) & 1);
}
