/** What a layer of a plan is made with. May change: which plans were built ahead, and with what. */
import type { OverrideFault, Overrides } from "../plan/overrides.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Plan } from "../plan/types.js";
import type { Feature } from "../engine/compile.js";

/** A plan as a player has it: as it would be written, as it runs, and what did not fit. */
export interface PlayersPlan {
  readonly written: Plan;
  readonly checked: CheckedPlan;
  readonly faults: readonly OverrideFault[];
}

/** Applies a player's changes. @throws ReacherError where they are none at all */
export type Override = (plan: Plan, overrides: Overrides) => PlayersPlan;

/** What layers are made with, beside their plan. */
export interface PlanParts {
  readonly features: readonly Feature[];
  readonly override: Override;
}

const built = new WeakMap<object, PlanParts>();

/** Notes what a plan was built with. */
export function noteBuilt(plan: Plan, parts: PlanParts): void {
  built.set(plan, parts);
}

/** What a plan was built with; `undefined` where it was not. */
export function builtParts(plan: Plan): PlanParts | undefined {
  return built.get(plan);
}
