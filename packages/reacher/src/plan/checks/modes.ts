/** What goes wrong between situations: modes that trap the player, actions that never meet. In: a plan. Out: findings. */
import { canBeLiveTogether } from "./bindings.js";
import type { Report } from "../findings.js";
import type { PlanIndex } from "./planIndex.js";

/** What modes make of a plan: those that trap the player, and actions that they keep apart. */
export function checkModes(index: PlanIndex, report: Report): void {
  const { plan } = index;
  const covers = new Map(plan.modes.map((mode) => [mode.name, mode.covers]));
  for (const { name } of plan.modes) {
    const place = `modes.${name}`;
    const own = plan.actions.filter((action) => action.in.includes(name));
    if (covers.get(name) === "all") {
      const ways = plan.actions.some(
        (action) => action.kind === "switch" && (action.in.length === 0 || action.in.includes(name)),
      );
      if (!ways)
        report(
          "no-way-out",
          place,
          "covers all, and no switch is live in it, so the player cannot ask to leave it",
        );
    } else if (own.length === 0) {
      report("unused-mode", place, "no action is in it, so entering it does nothing");
    }
  }
  for (const action of plan.actions) {
    if (action.kind !== "switch") continue;
    for (const { name, not } of action.needs) {
      const needed = index.action(name);
      if (not || needed === undefined || canBeLiveTogether(action, needed)) continue;
      const apart = action.in.every((one) =>
        needed.in.every((other) => covers.get(one) === "all" && covers.get(other) === "all"),
      );
      if (apart)
        report(
          "unreachable",
          `actions.${action.name}`,
          `needs ${name}, which is live in ${needed.in.join(" and ")} alone, and one of them always covers the other`,
        );
    }
  }
}
