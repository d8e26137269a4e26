/** From a plan to a layer: reads it, then compiles it. */
import { WHOLE } from "#whole";
import { builtParts } from "./builtParts.js";
import { notifyMade } from "./made.js";
import type { InputLayer } from "./types.js";
import type { AnyOtherNames, OtherNames } from "../plan/fieldNames.js";
import type { Kinds, Plan } from "../plan/types.js";

/**
 * Makes an input layer of a plan.
 * @throws PlanError naming each place of the plan that cannot run, and the likely mend
 */
export function createInputLayer<
  const K extends Kinds,
  const F extends string,
  const N extends string = string,
  const X extends OtherNames = AnyOtherNames,
>(plan: Plan<K, F, N, X>): InputLayer<K, F, N, X> {
  const written = plan as unknown as Plan;
  const { layerOf } = builtParts(written) ?? WHOLE;
  const layer = layerOf(written) as InputLayer<K, F, N, X>;
  notifyMade(written, layer);
  return layer;
}
