/** What goes wrong with gaits and paces: bands that are never left, factors that are percentages, rules that undo each other. In: a plan. Out: findings. */
import type { CheckedAction, CheckedMovement, CheckedPaceRule, CheckedTurn } from "../checked.js";
import type { Report } from "../findings.js";
import type { PlanIndex } from "./planIndex.js";

/** A factor of so much is a percentage, nearly always. */
const PERCENTAGE = 9;

export function checkPaces(index: PlanIndex, report: Report): void {
  for (const action of index.plan.actions) {
    if (action.kind === "switch") continue;
    if (action.kind !== "turn") checkGaits(action, report);
    checkRules(index, action, report);
  }
}

function checkGaits(
  { name, gaits, gaitsBy, ease, ends, sticks, pace }: CheckedMovement,
  report: Report,
): void {
  const place = `actions.${name}.gaits`;
  if (gaits.length === 0) return;
  if (gaitsBy === "speed") {
    if (pace === undefined)
      report(
        "gaits-no-pace",
        `actions.${name}.gaitsBy`,
        "by speed, and there is no pace: the speed is the length; give it a pace, or leave this out",
      );
    return;
  }
  const isDigital = ends.every(({ control }) => control.family === "key" || control.family === "button");
  if (!isDigital || sticks.length > 0 || ease !== undefined || (pace?.rules.length ?? 0) === 0) return;
  const reached = gaits.filter(({ from }) => from <= 1).at(-1);
  report(
    "gaits-stuck",
    place,
    `keys alone give a length of 1 or 0, so it is ${reached?.name ?? "none of them"} whenever it moves; for bands of the pace say "gaitsBy": "speed"`,
  );
}

function checkRules(index: PlanIndex, action: CheckedMovement | CheckedTurn, report: Report): void {
  const rules = action.kind === "turn" ? action.rules : (action.pace?.rules ?? []);
  const place = (n: number) => `actions.${action.name}.pace.rules.${n}`;
  rules.forEach((rule, n) => {
    const times = valueOf(index, rule.times);
    if (times !== undefined && times >= PERCENTAGE)
      report(
        "times-percent",
        `${place(n)}.times`,
        `times ${times} is ${times} times as fast; is it a percentage? ${times} % is ${times / 100}`,
      );
    if (rule.set === undefined) return;
    const undone = rules
      .slice(0, n)
      .findIndex((other) => other.times !== undefined && !excludes(index, rule, other));
    if (undone >= 0)
      report(
        "set-after-times",
        `${place(n)}.set`,
        `while ${said(rule)} and ${said(rules[undone]!)} are both so, this undoes the times before it; put every set first`,
      );
  });
}

function valueOf({ plan }: PlanIndex, given: number | string | undefined): number | undefined {
  return typeof given === "string" ? plan.numbers.find(({ name }) => name === given)?.value : given;
}

/** Whether two rules can never hold together: one's word is the other's "not", or two of their switches share a `oneOf`. */
function excludes(index: PlanIndex, one: CheckedPaceRule, other: CheckedPaceRule): boolean {
  const groupOf = (action: CheckedAction | undefined) =>
    action?.kind === "switch" ? action.oneOf : undefined;
  return one.when.some(({ name, not }) =>
    other.when.some((word) => {
      if (word.name === name) return word.not !== not;
      const group = groupOf(index.action(name));
      return !not && !word.not && group !== undefined && group === groupOf(index.action(word.name));
    }),
  );
}

function said({ when }: CheckedPaceRule): string {
  return when.map(({ name, not }) => (not ? `not ${name}` : name)).join(" and ") || "everything";
}
