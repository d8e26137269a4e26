/** Conditions that are checked only when a press would turn a switch on. Failing later does not turn it off. */
import type { Feature } from "../compile.js";
import type { Conditions } from "../conditions.js";
import type { SeatState } from "../state.js";
import type { StartGuard } from "./hooks.js";
import type { Switch } from "./switch.js";

export class BeginsIf implements StartGuard {
  constructor(readonly conditions: Conditions) {}

  refuses(s: SeatState): boolean {
    return !this.conditions.hold(s);
  }

  begin(): void {}
}

export const beginsIf: Feature = {
  options: [
    {
      name: "beginsIf",
      appliesTo: (action) => action.beginsIf.length > 0,
      make: (compiler, owner: Switch, action) =>
        // Two switches may name each other, so this does not affect their rank.
        owner.begins(
          new BeginsIf(compiler.conditionsOf(action.beginsIf, ({ asking }) => asking.push(owner))),
        ),
    },
  ],
};
