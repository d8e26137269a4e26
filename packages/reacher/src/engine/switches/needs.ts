/**
 * Conditions that a switch needs. When one fails it goes off; while still held it comes back when all are true again, or with some of them, or
 * only when pressed again.
 */
import type { Feature } from "../compile.js";
import type { Conditions } from "../conditions.js";
import type { SeatState } from "../state.js";
import type { Requirement } from "./hooks.js";
import type { Switch } from "./switch.js";

export class Needs implements Requirement {
  constructor(
    readonly conditions: Conditions,
    /** With which of them it does not come back; `null` if it comes back with any. */
    private readonly spending: Conditions | null,
    readonly waits: boolean,
  ) {}

  hold(s: SeatState): boolean {
    return this.conditions.hold(s);
  }

  resumes(s: SeatState): boolean {
    return this.spending === null || this.spending.hold(s);
  }
}

export const needs: Feature = {
  options: [
    {
      name: "needs",
      appliesTo: (action) => action.needs.length > 0,
      make: (compiler, owner: Switch, action) => {
        const conditions = compiler.conditionsOf(action.needs, ({ needing }) => needing.push(owner));
        const { resume } = action;
        const some = typeof resume === "boolean" ? (resume ? undefined : []) : resume;
        const others = action.needs.filter(
          ({ name, not, forMs }) =>
            some?.some((word) => word.name === name && word.not === not && word.forMs === forMs) !== true,
        );
        const spending = some === undefined ? null : compiler.conditionsOf(others, () => undefined);
        owner.needs = new Needs(conditions, spending, typeof resume !== "boolean");
        owner.keepFresh();
      },
    },
  ],
};
