/** A layer with all its calls. In: a plan. Out: a layer whose seats take the tables that the plan, or another one that it is given, brings. */
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { builtParts, type PlanParts } from "./builtParts.js";
import { createCheckedLayer } from "./layer.js";
import type { LayerParts } from "./layerSeats.js";

/** `usual`: the parts of a plan that was not built ahead. */
export function wholeLayer(written: Plan, usual: () => PlanParts): object {
  return createCheckedLayer(resolvePlan(written), layerParts(written, usual));
}

export function layerParts(written: Plan, usual: () => PlanParts): LayerParts {
  const partsOf = (plan: Plan) => builtParts(plan) ?? usual();
  const { bring, change, adopt, opens } = partsOf(written);
  return {
    written,
    ...(adopt !== undefined && { adopt }),
    ...(opens !== undefined && { opens }),
    ...(change !== undefined && { change }),
    ...(bring !== undefined && { bring }),
    tablesOf: (of, plan, slots) => partsOf(of).tablesOf(plan, slots),
    override: (plan, overrides) => partsOf(plan).override(plan, overrides),
    resolve: resolvePlan,
  };
}
