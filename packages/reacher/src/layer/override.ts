/** Applies a player's changes. In: a plan and overrides. Out: the player's own plan. */
import { parseOverrides } from "../plan/players/overrides.js";
import { applyOverrides } from "../plan/players/applyOverrides.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Override } from "./builtParts.js";

export const override: Override = (plan, overrides) => {
  const { plan: written, faults } = applyOverrides(plan, parseOverrides(overrides));
  return { written, checked: resolvePlan(written), faults };
};
