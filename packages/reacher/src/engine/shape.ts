/**
 * Dead zone and curve: raw travel in, usable travel out. Pure.
 *
 * Only + - * / and sqrt touch the numbers at run time; powers are tables rounded to 1/65536, so that every machine agrees.
 */
import type { CheckedShape } from "../plan/checked.js";

export interface ShapeTable {
  readonly inner: number;
  /** 1 / (1 - outer - inner). */
  readonly scale: number;
  /** 257 points of the curve, or `null` for a straight line. */
  readonly curve: Float64Array | null;
}

const STEPS = 256;
const GRAIN = 65536;

export function compileShape(shape: CheckedShape): ShapeTable {
  // The rounding keeps a zone that ends at 0.96 ending there, whatever 1 - 0.04 - 0.12 is in binary.
  const travel = Math.round((1 - shape.outer - shape.inner) * 1e9) / 1e9;
  return { inner: shape.inner, scale: 1 / travel, curve: shape.power === 1 ? null : powerCurve(shape.power) };
}

/** Travel 0..1 (a length, or an amount) after dead zone and curve: exactly 0 inside the zone, exactly 1 at full tilt. */
export function shapedTravel(shape: ShapeTable, travel: number): number {
  if (travel <= shape.inner) return 0;
  const free = (travel - shape.inner) * shape.scale;
  if (free >= 1) return 1;
  const { curve } = shape;
  if (curve === null) return free;
  const at = free * STEPS;
  const below = at | 0;
  const low = curve[below]!;
  return low + (curve[below + 1]! - low) * (at - below);
}

function powerCurve(power: number): Float64Array {
  return Float64Array.from({ length: STEPS + 1 }, (_, n) => Math.round((n / STEPS) ** power * GRAIN) / GRAIN);
}
