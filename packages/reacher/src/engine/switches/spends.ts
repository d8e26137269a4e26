/** Flags that become false when a switch begins: no second jump from one ledge. */
import type { Feature } from "../compile.js";
import type { Flag } from "../situations/flags.js";
import type { SeatState } from "../state.js";
import type { StartGuard } from "./hooks.js";
import type { Switch } from "./switch.js";

class Spends implements StartGuard {
  constructor(private readonly flags: readonly Flag[]) {}

  refuses(): boolean {
    return false;
  }

  begin(s: SeatState): void {
    for (let n = 0; n < this.flags.length; n++) this.flags[n]!.spend(s);
  }
}

export const spends: Feature = {
  options: [
    {
      name: "spends",
      appliesTo: (action) => action.spends.length > 0,
      make: ({ flags }, owner: Switch, action) =>
        owner.begins(new Spends(action.spends.map((name) => flags.get(name) as Flag))),
    },
  ],
};
