/** What goes wrong with switches: their gestures, what they need, how they end. In: a plan. Out: findings. */
import type { CheckedSwitch } from "../checked.js";
import { isUnbound } from "./bindings.js";
import type { Report } from "../findings.js";
import { kindShown } from "../gestures/shown.js";
import type { PlanIndex } from "./planIndex.js";

export function checkSwitch(action: CheckedSwitch, report: Report): void {
  if (action.startsOn && action.style === "hold") {
    report(
      "starts-on-hold",
      `actions.${action.name}.startsOn`,
      "a hold is on while it is held, and nothing is held at the start; make it a toggle or either",
    );
  }
}

/** The flag that a switch spends and needs, by itself or by what else it needs. */
function spentNeeds(index: PlanIndex, { needs, spends }: CheckedSwitch): string | undefined {
  if (spends.length === 0) return undefined;
  const seen = new Set<string>();
  const open = [...needs];
  for (let word = open.pop(); word !== undefined; word = open.pop()) {
    if (word.not || seen.has(word.name)) continue;
    seen.add(word.name);
    if (spends.includes(word.name)) return word.name;
    const needed = index.action(word.name);
    if (needed?.kind === "switch") open.push(...needed.needs);
  }
  return undefined;
}

export function checkEntries(index: PlanIndex, action: CheckedSwitch, report: Report): void {
  for (const entry of action.entries) {
    const [, ...rest] = entry.address.split(".");
    kindShown(entry).check?.(entry as never, `actions.${action.name}.from.${rest.join(".")}`, {
      action,
      bounceMs: index.plan.bounceMs,
      report,
      beside: (kind) => index.beside(action, entry, kind),
      twinsOf: (last) => index.twinsOf(action, last),
    });
  }
  checkNeeds(index, action, report);
}

/** What it can never have, or undoes itself. */
function checkNeeds(index: PlanIndex, action: CheckedSwitch, report: Report): void {
  const undone = spentNeeds(index, action);
  if (undone !== undefined)
    report(
      "undoes-itself",
      `actions.${action.name}.spends`,
      `needs ${undone} as well, so it goes off at the moment at which it begins; ask for that in beginsIf`,
    );
  const impossible = action.needs.find(({ name, not }) =>
    action.needs.some((other) => other.name === name && other.not !== not),
  );
  if (impossible !== undefined)
    report(
      "never-holds",
      `actions.${action.name}.needs`,
      `${impossible.name} and not ${impossible.name} can never both be so`,
    );
  const needed = action.needs.flatMap(({ name, not }) => (not ? [] : (index.action(name) ?? [])));
  const idle = needed.find(isUnbound);
  if (idle !== undefined)
    report("never-holds", `actions.${action.name}.needs`, `needs ${idle.name}, which has no control`);
  const sibling = needed.find(
    (other) => other.kind === "switch" && other.oneOf !== undefined && other.oneOf === action.oneOf,
  );
  if (sibling !== undefined) {
    report(
      "never-holds",
      `actions.${action.name}.needs`,
      `needs ${sibling.name}, which its oneOf ${action.oneOf} turns off; it can never stay on`,
    );
  }
  if (
    action.style === "toggle" &&
    action.oneOf === undefined &&
    action.needs.length === 0 &&
    action.comesBack
  ) {
    report(
      "lonely-toggle",
      `actions.${action.name}`,
      "only the player's own press turns it off; where it should end by itself, give it needs, oneOf or comesBack: false",
    );
  }
}
