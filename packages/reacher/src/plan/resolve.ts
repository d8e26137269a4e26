/** The form of a plan that the engine and the tools work with: every name resolved, every default filled in. Read once for each plan. */
import type { CheckedPlan } from "./checked.js";
import { PlanError } from "./errors.js";
import { readPlan } from "#reader";
import type { AnyOtherNames, OtherNames } from "./fieldNames.js";
import type { Kinds, Plan } from "./types.js";

/** Plans that were read before: many layers of one plan share the work. */
const resolved = new WeakMap<object, CheckedPlan>();

/** @throws PlanError naming each place of the plan that cannot run, and the likely mend */
export function resolvePlan<K extends Kinds, F extends string>(plan: Plan<K, F>): CheckedPlan {
  let known = resolved.get(plan);
  if (known === undefined) {
    const read = readPlan(plan);
    if (!read.ok) throw new PlanError(read.findings);
    resolved.set(plan, (known = read.plan));
  }
  return known;
}

/** What a plan was read to, if it was. */
export function knownPlan(plan: Plan): CheckedPlan | undefined {
  return resolved.get(plan);
}

/** A plan that has been read by other means. */
export function noteResolved(plan: Plan, checked: CheckedPlan): void {
  resolved.set(plan, checked);
}

/**
 * Reads a plan from outside (parsed JSON, say) and types it.
 * @throws PlanError naming each place, what is wrong there and the likely mend
 */
export function parsePlan<
  K extends Kinds = Kinds,
  F extends string = string,
  N extends string = string,
  X extends OtherNames = AnyOtherNames,
>(raw: unknown): Plan<K, F, N, X> {
  const read = readPlan(raw);
  if (!read.ok) throw new PlanError(read.findings);
  noteResolved(raw as Plan, read.plan);
  return raw as Plan<K, F, N, X>;
}
