/** From a plan to a layer: reads it, then compiles it. */
import { isRawName } from "../controls/catalogue.js";
import { EVERY } from "../engine/every.js";
import { createCheckedLayer } from "./layer.js";
import { tellMade } from "./made.js";
import type { InputLayer } from "./types.js";
import { applyOverrides, parseOverrides, type Overrides } from "../plan/overrides.js";
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
  const override = (plan: Plan, overrides: Overrides | null) => {
    const { plan: own, faults } =
      overrides === null ? { plan, faults: [] } : applyOverrides(plan, parseOverrides(overrides));
    return { written: own, checked: resolvePlan(own), faults };
  };
  const parts = { written, features: EVERY, isRaw: isRawName, override, resolve: resolvePlan };
  const layer = createCheckedLayer(resolvePlan(written), parts) as unknown as InputLayer<K, F, N, X>;
  tellMade(written, layer);
  return layer;
}
