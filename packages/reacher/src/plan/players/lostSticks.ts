/** What suffers by a player's changes and is applied all the same. In: the checked plan. Out: faults that are noted. Pure. */
import type { CheckedPlan } from "../checked.js";
import type { OverrideFault } from "./overrides.js";

/** Flicks whose stick the player has removed: they never fire, which is the player's choice. */
export function lostSticks({ actions }: CheckedPlan): OverrideFault[] {
  const sticks = new Map(
    actions.map((action) => [action.name, action.kind === "switch" ? 0 : action.sticks.length]),
  );
  return actions.flatMap((action) =>
    action.kind !== "switch"
      ? []
      : action.entries
          .filter(
            ({ kind, of: [source] }) =>
              kind === "flick" && "end" in source! && sticks.get(source.action) === 0,
          )
          .map(({ address, of: [source] }): OverrideFault => ({
            place: `controls.${(source as { action: string }).action}`,
            message: `${address} is a flick of ${source!.name}, which has no stick any more: it never comes`,
            what: "warned",
          })),
  );
}
