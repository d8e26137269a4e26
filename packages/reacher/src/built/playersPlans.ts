/** The plans of players whose settings came before the rules did: each is made once. In: overrides. Out: the player's own plan. */
import type { OwnPlans, PlayersPlan } from "../layer/builtParts.js";
import { override } from "../layer/override.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Overrides } from "../plan/players/overrides.js";
import type { Plan } from "../plan/types.js";

export class PlayersPlans implements OwnPlans {
  private readonly known = new Map<Overrides, PlayersPlan>();

  constructor(
    readonly written: Plan,
    readonly checked: CheckedPlan,
  ) {}

  of(overrides: Overrides | null): Pick<PlayersPlan, "written" | "checked"> {
    if (overrides === null) return this;
    let own = this.known.get(overrides);
    if (own === undefined) this.known.set(overrides, (own = override(this.written, overrides)));
    return own;
  }
}
