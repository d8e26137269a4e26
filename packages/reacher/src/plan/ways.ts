/** Which directions are in a source of an axis or a vector. Pure. */
import { mustBeObject } from "./arguments.js";
import type { ResultSource, Sector, Source } from "./checked.js";
import type { Direction } from "./types.js";

/** The two directions of each diagonal. */
export const DIAGONALS = {
  upLeft: ["up", "left"],
  upRight: ["up", "right"],
  downLeft: ["down", "left"],
  downRight: ["down", "right"],
} as const satisfies Readonly<Record<Exclude<Sector, Direction>, readonly Direction[]>>;

const ALL: readonly Direction[] = ["up", "left", "down", "right"];

/** One; two of a diagonal; all of a length. */
export function directionsIn(source: Exclude<Source, { readonly control: unknown }>): readonly Direction[] {
  mustBeObject(source, "source of a checked plan");
  if (!("result" in source)) return [source.end];
  return source.result === "length" ? ALL : directionsOfSector(source.way);
}

function directionsOfSector(way: Sector): readonly Direction[] {
  return isDiagonal(way) ? DIAGONALS[way] : [way];
}

export function isDiagonal(way: string): way is keyof typeof DIAGONALS {
  return Object.hasOwn(DIAGONALS, way);
}

const OPPOSITES = {
  up: "down",
  down: "up",
  left: "right",
  right: "left",
  upLeft: "downRight",
  upRight: "downLeft",
  downLeft: "upRight",
  downRight: "upLeft",
} as const satisfies Readonly<Record<Sector, Sector>>;

/** The source on the other side; `undefined` if it has none. */
export function oppositeOf(source: Source): Source | undefined {
  if ("control" in source) return undefined;
  const named = (way: string) => `${source.action}.${way}`;
  if (!("result" in source)) {
    const end = OPPOSITES[source.end];
    return { ...source, name: named(end), end };
  }
  if (source.result === "length") return undefined;
  const way = OPPOSITES[source.way];
  return { ...source, name: named(way), way } satisfies ResultSource;
}
