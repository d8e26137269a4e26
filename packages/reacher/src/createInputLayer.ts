/** From a plan to a layer: reads it, then compiles it. */
import { isRawName } from "./controls/catalogue.js";
import { createCheckedLayer, type InputLayer } from "./engine/layer.js";
import type { CheckedPlan } from "./plan/checked.js";
import { checkedPlan } from "./plan/read.js";
import { applyOverrides, parseOverrides, type Overrides } from "./plan/overrides.js";
import type { Kinds, Plan } from "./plan/types.js";

/** Plans that were read before: many layers of one plan share the work. */
const read = new WeakMap<object, CheckedPlan>();

/**
 * Makes an input layer of a plan.
 * @throws PlanError naming each place of the plan that cannot run, and the likely mend
 */
export function createInputLayer<const K extends Kinds, const F extends string>(
  plan: Plan<K, F>,
): InputLayer<K, F> {
  let checked = read.get(plan);
  if (checked === undefined) {
    checked = checkedPlan(plan);
    read.set(plan, checked);
  }
  const base = checked;
  const override = (overrides: Overrides | null) =>
    overrides === null
      ? { plan: base, faults: [] }
      : applyOverrides(plan as unknown as Plan, parseOverrides(overrides));
  return createCheckedLayer(checked, isRawName, override) as unknown as InputLayer<K, F>;
}
