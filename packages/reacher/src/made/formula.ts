/** How a number of made code follows from a checked plan, which a player's settings change. Pure. */
import { KINDS } from "../engine/switches/styleKind.js";
import { measuresOf, type Measures } from "../engine/movement/shape.js";
import type { CheckedPlan, CheckedShape } from "../plan/checked.js";
import type { Style } from "../plan/types.js";

/**
 * What stands at a path of the checked plan (`actions.2.entries.0.gapMs`), divided, and at most so much; a measure of the shape there; or the number of the style
 * there, or whether it is another one than hold; or whether it is true. Of what is inverted or not it is the sign.
 */
export type Formula = readonly [
  path: string,
  by: number | keyof Measures | "style" | "latches" | "is",
  most?: number,
];

export function valueOf(plan: CheckedPlan, [path, by, most = Infinity]: Formula): number {
  const value = at(plan, path);
  if (by === "style") return KINDS[value as Style];
  if (by === "is") return value === true ? 1 : 0;
  if (by === "latches") return value === "hold" ? 0 : 1;
  if (typeof by === "string") return measuresOf(value as CheckedShape)[by];
  const number = typeof value === "boolean" ? (value ? -1 : 1) : (value as number);
  return Math.min(number / by, most);
}

/** What stands at a path. */
export const at = (of: unknown, path: string): unknown =>
  path.split(".").reduce((inner, name) => (inner as Readonly<Record<string, unknown>>)[name], of);

/** The same with another value at a path. */
export function withValue<T>(of: T, [name, ...rest]: readonly string[], value: unknown): T {
  const own = (Array.isArray(of) ? [...of] : { ...of }) as Record<string, unknown>;
  own[name!] = rest.length === 0 ? value : withValue(own[name!], rest, value);
  return own as T;
}
