/**
 * Numbers for controls: their place in the catalogue, and after it what a pad has beyond the standard layout. So a number means the same
 * in all plans, whatever was made before: a waiting event keeps its meaning when the tables change, and snapshots agree between machines.
 */
import { allControls, EXTRA, MOST_EXTRA } from "./catalogue.js";

const names: readonly string[] = /* @__PURE__ */ allControls().map(({ name }) => name);
const numbers: ReadonlyMap<string, number> = /* @__PURE__ */ new Map(names.map((name, n) => [name, n]));

/** Whether a control is on a pad, by its number. */
const onPads: Uint8Array = /* @__PURE__ */ Uint8Array.from(allControls(), ({ device }) =>
  device === "pad" ? 1 : 0,
);

/** The first number of a plan's own controls. */
export const OWN_FROM: number = /* @__PURE__ */ (() => names.length + 2 * MOST_EXTRA)();

/** In place of a number: no control has this name. */
export const NO_NUMBER = -1;

/** The number of the control with this name; `NO_NUMBER` if there is none. */
export function findNumber(name: string): number {
  return numbers.get(name) ?? (EXTRA.test(name) ? numberOf(name) : NO_NUMBER);
}

/** What lies beyond the catalogue is a pad's, or the plan's own. */
export function isPadNumber(number: number): boolean {
  return number >= onPads.length ? number < OWN_FROM : onPads[number] === 1;
}

/** The number of a control of the catalogue. */
export function numberOf(control: string): number {
  const known = numbers.get(control);
  if (known !== undefined) return known;
  const [, kind, place] = EXTRA.exec(control)!;
  return names.length + (kind === "Button" ? 0 : MOST_EXTRA) + Number(place);
}

export function nameOf(number: number): string {
  const extra = number - names.length;
  if (extra < 0) return names[number]!;
  return extra < MOST_EXTRA ? `PadButton${extra}` : `PadAxis${extra - MOST_EXTRA}`;
}
