/**
 * The eight directions, counter-clockwise from right, y up: 0 right, 1 up and right, 2 up ... 7 down and right. Pure.
 *
 * The numbers are written out, since results may not depend on a machine's sin and cos.
 */

/** Of what is at rest. */
export const NO_SECTOR = -1;

/** 1 / sqrt(2). */
const HALF = Math.SQRT1_2;
const XS = [1, HALF, 0, -HALF, -1, -HALF, 0, HALF];
const YS = [0, HALF, 1, HALF, 0, -HALF, -1, -HALF];

/** cos 50 degrees: half a quarter turn and 5 degrees more. */
const KEEP_4 = 0.6427876096865394;
/** cos 27.5 degrees: half an eighth of a turn and 5 degrees more. */
const KEEP_8 = 0.8870108331782217;

export function sectorX(sector: number): number {
  return XS[sector]!;
}

export function sectorY(sector: number): number {
  return YS[sector]!;
}

/** The sector of a direction of this length: `present` until it is left by more than 5 degrees. -1 is none. */
export function keepSector(
  present: number,
  directions: number,
  x: number,
  y: number,
  length: number,
): number {
  const keep = directions === 4 ? KEEP_4 : KEEP_8;
  if (present >= 0 && x * XS[present]! + y * YS[present]! >= length * keep) return present;
  const every = directions === 4 ? 2 : 1;
  let best = 0;
  let most = -Infinity;
  for (let n = 0; n < 8; n += every) {
    const along = x * XS[n]! + y * YS[n]!;
    if (along > most) {
      best = n;
      most = along;
    }
  }
  return best;
}

/** Which of the eight a movement of keys is, or -1: its components are 0 or of equal size. */
export function exactSector(x: number, y: number): number {
  if (x !== 0 && y !== 0 && x !== y && x !== -y) return -1;
  if (y === 0) return x > 0 ? 0 : 4;
  if (x === 0) return y > 0 ? 2 : 6;
  return y > 0 ? (x > 0 ? 1 : 3) : x > 0 ? 7 : 5;
}
