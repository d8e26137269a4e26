/** What a draft of keys still lacks. In: a plan, and the plan as a player has it. Out: addresses of required actions without a control. Pure. */
import type { CheckedAction } from "../plan/checked.js";
import { bindingsOf } from "../plan/checks/bindings.js";
import { lackingOf, noteLacking } from "../plan/lacking.js";
import { missingControls } from "../plan/reader/promises.js";
import { noteResolved, resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";

/** The same plan, in which nothing is required: each change of a draft may leave something bare. */
export function unpromised(plan: Plan): Plan {
  const actions = Object.entries(plan.actions).map(([name, { required: _, ...action }]) => [name, action]);
  const free = { ...plan, actions: Object.fromEntries(actions) as Plan["actions"] };
  noteLacking(free, lackingOf(plan));
  // A game that is built ahead reads no plans, and a promise changes nothing of how it plays.
  noteResolved(free, resolvePlan(plan));
  return free;
}

/** The plan's addresses of what each required action lacks now, in the plan's order. */
export function missingAddresses(promised: Plan, now: Plan): string[] {
  const own = new Map(resolvePlan(now).actions.map((action) => [action.name, action]));
  return resolvePlan(promised).actions.flatMap((action) => {
    if (promised.actions[action.name]!.required !== true) return [];
    const changed = own.get(action.name)!;
    if (missingControls(changed) === undefined) return [];
    const addresses = bindingsOf(action).filter(({ end }) => end === undefined || !hasEnd(changed, end));
    return [...new Set(addresses.map(({ address }) => address))];
  });
}

function hasEnd(action: CheckedAction, end: string): boolean {
  return "ends" in action && action.ends.some((one) => one.end === end);
}
