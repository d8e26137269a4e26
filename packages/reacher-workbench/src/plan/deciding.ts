/** Finds the number of a plan that decided. In: a reason and the plan's numbers. Out: the number, if one did. Pure. */
import { type PlanNumber } from "reacher/check";
import { decidingFields } from "reacher/internal";
import type { Reason } from "reacher/trace";

/** The number behind a reason: of the action's numbers with the rule's field, the one that the sentence names, else the first. */
export function decidingNumber(reason: Reason, numbers: readonly PlanNumber[]): PlanNumber | undefined {
  const fields = decidingFields(reason.rule);
  const own = numbers.filter(({ action, name }) => action === reason.action && fields.includes(name));
  const named = own.find(({ value }) => new RegExp(`\\b${value}\\b`).test(reason.text));
  return named ?? own[0];
}
