/** From a plan to a layer: reads it, then compiles it. */
import { WHOLE } from "#whole";
import { builtParts } from "./builtParts.js";
import { createCheckedLayer } from "./layer.js";
import { notifyMade } from "./made.js";
import type { InputLayer } from "./types.js";
import type { Overrides } from "../plan/players/overrides.js";
import { resolvePlan } from "../plan/resolve.js";
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
  const partsOf = (plan: Plan) => builtParts(plan) ?? WHOLE;
  const override = (plan: Plan, overrides: Overrides | null) =>
    overrides === null
      ? { written: plan, checked: resolvePlan(plan), faults: [] }
      : partsOf(plan).override(plan, overrides);
  const checked = resolvePlan(written);
  const layer = createCheckedLayer(checked, {
    written,
    tablesOf: (of, plan, slots) => partsOf(of).tablesOf(plan, slots),
    override,
    resolve: resolvePlan,
  }) as unknown as InputLayer<K, F, N, X>;
  notifyMade(written, layer);
  return layer;
}
