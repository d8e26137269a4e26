/** Reads the plan of a game that was built ahead, which was checked then. In: the plan. Out: its checked form, always the same one. */
import type { CheckedPlan } from "../plan/checked.js";
import { PlanError } from "../plan/errors.js";
import { readPlan } from "../plan/readBuilt.js";
import { knownPlan, noteResolved } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";

/** @throws PlanError */
export function readAhead(plan: Plan): CheckedPlan {
  const known = knownPlan(plan);
  if (known !== undefined) return known;
  const read = readPlan(plan);
  if (!read.ok) throw new PlanError(read.findings);
  noteResolved(plan, read.plan);
  return read.plan;
}
