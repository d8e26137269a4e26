/** What a plan lets players set and does not have. In: a plan as written. Out: findings. */
import type { Report } from "../findings.js";
import { SETTABLE, withSettable } from "../language/settable.js";
import type { Plan } from "../types.js";

export function checkPlayer(plan: Plan, report: Report): void {
  for (const [name, action] of Object.entries(plan.actions))
    for (const { name: field, has } of SETTABLE.values())
      if (
        Object.hasOwn(action.player ?? {}, field) &&
        withSettable(action as unknown as Record<string, unknown>, field, 1) === undefined
      )
        report(
          "player-nothing",
          `actions.${name}.player.${field}`,
          `${name} has no ${has}, so there is no ${field} to set; leave it out`,
        );
}
