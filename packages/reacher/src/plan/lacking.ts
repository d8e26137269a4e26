/** What a game that was built ahead cannot do. May change: which plans were built, and without what. */
import type { CheckedAction } from "./checked.js";

/** The name of the first feature that an action needs and the game lacks. */
export type Lacking = (action: CheckedAction) => string | undefined;

const known = new WeakMap<object, Lacking>();

export function noteLacking(plan: object, lacking: Lacking): void {
  known.set(plan, lacking);
}

/** Of a plan that was not built nothing is lacking. */
export function lackingOf(plan: object): Lacking {
  return known.get(plan) ?? (() => undefined);
}
