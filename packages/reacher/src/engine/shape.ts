/**
 * Dead zone, curve and gain: raw travel in, usable travel out. Pure.
 *
 * Only + - * / and sqrt touch the numbers at run time; powers are tables rounded to 1/65536, so that every machine agrees.
 */
import type { CheckedShape } from "../plan/checked.js";

export interface ShapeTable {
  /** Whether each axis has the zone on its own. */
  readonly cross: boolean;
  readonly inner: number;
  /** 1 / (1 - outer - inner). */
  readonly scale: number;
  /** 257 points of a power curve, or `null`. */
  readonly curve: Float64Array | null;
  /** Points of a curve, x and y by turns, or `null`. With neither it is a straight line. */
  readonly points: Float64Array | null;
  readonly gain: number;
  /** What full travel gives. */
  readonly full: number;
}

const STEPS = 256;
const GRAIN = 65536;

export function compileShape(shape: CheckedShape): ShapeTable {
  // The rounding keeps a zone that ends at 0.96 ending there, whatever 1 - 0.04 - 0.12 is in binary.
  const travel = Math.round((1 - shape.outer - shape.inner) * 1e9) / 1e9;
  const points = shape.points === undefined ? null : Float64Array.from(shape.points.flat());
  return {
    cross: shape.kind === "cross",
    inner: shape.inner,
    scale: 1 / travel,
    curve: points !== null || shape.power === 1 ? null : powerCurve(shape.power),
    points,
    gain: shape.gain,
    full: Math.min(1, (points === null ? 1 : points[points.length - 1]!) * shape.gain),
  };
}

/** Travel 0..1 (a length, or an amount) after zone, curve and gain: exactly 0 inside the zone, all there is at full tilt. */
export function shapedTravel(shape: ShapeTable, travel: number): number {
  if (travel <= shape.inner) return 0;
  return bentTravel(shape, (travel - shape.inner) * shape.scale);
}

/** Travel 0..1 after the dead zone alone. */
export function freeTravel(shape: ShapeTable, travel: number): number {
  if (travel <= shape.inner) return 0;
  const free = (travel - shape.inner) * shape.scale;
  return free > 1 ? 1 : free;
}

/** Travel that has left the dead zone, after curve and gain. */
export function bentTravel(shape: ShapeTable, free: number): number {
  if (free >= 1) return shape.full;
  const { curve, gain } = shape;
  let bent = free;
  if (curve !== null) {
    const at = free * STEPS;
    const below = at | 0;
    const low = curve[below]!;
    bent = low + (curve[below + 1]! - low) * (at - below);
  } else if (shape.points !== null) bent = between(shape.points, free);
  if (gain === 1) return bent;
  bent *= gain;
  return bent > 1 ? 1 : bent;
}

function between(points: Float64Array, free: number): number {
  let n = 2;
  while (points[n]! < free) n += 2;
  const x = points[n - 2]!;
  const y = points[n - 1]!;
  return y + ((points[n + 1]! - y) * (free - x)) / (points[n]! - x);
}

function powerCurve(power: number): Float64Array {
  return Float64Array.from({ length: STEPS + 1 }, (_, n) => Math.round((n / STEPS) ** power * GRAIN) / GRAIN);
}
