/** A plan written in TypeScript. */
import type { Kinds, Plan } from "./types.js";

/**
 * Returns the plan as it is, typed so that readings know their fields and a misspelt action or field does not compile.
 * The plan itself is looked at when a layer is made of it.
 */
export function definePlan<
  const K extends Kinds,
  const F extends string = never,
  const N extends string = never,
>(plan: Plan<K, F, N>): Plan<K, F, N> {
  return plan;
}
