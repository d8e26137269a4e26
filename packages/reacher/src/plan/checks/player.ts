/** What a plan lets players set and does not have. In: a plan as written. Out: findings. */
import { HAS, withNumber } from "../overrides.js";
import type { Plan } from "../types.js";
import type { Report } from "./bindings.js";

export function checkPlayer(plan: Plan, report: Report): void {
  for (const [name, action] of Object.entries(plan.actions))
    for (const field of Object.keys(HAS))
      if (
        Object.hasOwn(action.player ?? {}, field) &&
        withNumber(action as unknown as Record<string, unknown>, field, 1) === undefined
      )
        report(
          "player-nothing",
          `actions.${name}.player.${field}`,
          `${name} has no ${HAS[field]}, so there is no ${field} to set; leave it out`,
        );
}
