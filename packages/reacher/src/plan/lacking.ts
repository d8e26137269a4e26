/** Features that a game built ahead does not ship. May change: the record of built plans and what each lacks. */
import type { CheckedAction } from "./checked.js";

/** The name of the first feature that an action needs and the game lacks. */
export type Lacking = (action: CheckedAction) => string | undefined;

const known = new WeakMap<object, Lacking>();

export function noteLacking(plan: object, lacking: Lacking): void {
  known.set(plan, lacking);
}

/** A plan that was not built ahead lacks nothing. */
export function lackingOf(plan: object): Lacking {
  return known.get(plan) ?? (() => undefined);
}
