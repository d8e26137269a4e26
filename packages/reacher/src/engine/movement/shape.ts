/**
 * Dead zone, curve and gain: raw travel in, usable travel out. It works in place: floats passed to a function or
 * returned could be boxed on the heap.
 *
 * Only + - * / and sqrt touch the numbers at run time; powers are tables rounded to 1/65536, so that every machine agrees.
 */
import type { CheckedShape } from "../../plan/checked.js";

export interface ShapeTable {
  /** Whether the zone applies to each axis separately. */
  readonly isCross: boolean;
  readonly inner: number;
  /** 1 / (1 - outer - inner). */
  readonly scale: number;
  /** 257 points of a power curve, or `null`. */
  readonly curve: Float64Array | null;
  /** Points of a curve, x and y alternating, or `null`. With neither it is a straight line. */
  readonly points: Float64Array | null;
  readonly gain: number;
  /** What full travel gives. */
  readonly full: number;
}

const STEPS = 256;
const GRAIN = 65536;

export function compileShape(shape: CheckedShape): ShapeTable {
  const points = shape.points === undefined ? null : Float64Array.from(shape.points.flat());
  return {
    isCross: shape.kind === "cross",
    curve: points !== null || shape.power === 1 ? null : powerCurve(shape.power),
    points,
    ...measuresOf(shape),
  };
}

/** The numbers that a player's settings may change. */
export type Measures = Pick<ShapeTable, "inner" | "scale" | "gain" | "full">;

export function measuresOf({ inner, outer, gain, points }: CheckedShape): Measures {
  // The rounding keeps a zone that ends at 0.96 ending there, whatever 1 - 0.04 - 0.12 is in binary.
  const travel = Math.round((1 - outer - inner) * 1e9) / 1e9;
  return {
    inner,
    scale: 1 / travel,
    gain,
    full: Math.min(1, (points === undefined ? 1 : points[points.length - 1]![1]) * gain),
  };
}

/** Shapes the travel in this cell, 0..1: exactly 0 inside the zone, full gain at full tilt. */
export function shapeTravel(shape: ShapeTable, values: Float64Array, at: number): void {
  if (values[at]! <= shape.inner) {
    values[at] = 0;
    return;
  }
  values[at] = (values[at]! - shape.inner) * shape.scale;
  bendTravel(shape, values, at);
}

/** The same after the dead zone: curve and gain. */
export function bendTravel(shape: ShapeTable, values: Float64Array, at: number): void {
  const free = values[at]!;
  if (free >= 1) {
    values[at] = shape.full;
    return;
  }
  const { curve, points, gain } = shape;
  if (curve !== null) {
    const below = (free * STEPS) | 0;
    const low = curve[below]!;
    values[at] = low + (curve[below + 1]! - low) * (free * STEPS - below);
  } else if (points !== null) {
    let n = 2;
    while (points[n]! < free) n += 2;
    const x = points[n - 2]!;
    const y = points[n - 1]!;
    values[at] = y + ((points[n + 1]! - y) * (free - x)) / (points[n]! - x);
  }
  if (gain === 1) return;
  const bent = values[at]! * gain;
  values[at] = bent > 1 ? 1 : bent;
}

/** With the power itself: made code makes the table, which is shorter than to bring it. */
export function powerCurve(power: number): Float64Array {
  const table = Float64Array.from(
    { length: STEPS + 1 },
    (_, n) => Math.round((n / STEPS) ** power * GRAIN) / GRAIN,
  );
  return Object.assign(table, { power });
}
