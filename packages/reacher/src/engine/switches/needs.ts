/** Conditions that a switch needs. When one fails it goes off; while still held it comes back when all are true again, or only when pressed again. */
import type { Feature } from "../compile.js";
import type { Conditions } from "../conditions.js";
import type { SeatState } from "../state.js";
import type { Requirement } from "./hooks.js";
import type { Switch } from "./switch.js";

export class Needs implements Requirement {
  constructor(
    readonly conditions: Conditions,
    readonly resumes: boolean,
  ) {}

  hold(s: SeatState): boolean {
    return this.conditions.hold(s);
  }
}

export const needs: Feature = {
  options: [
    {
      name: "needs",
      appliesTo: (action) => action.needs.length > 0,
      make: (compiler, owner: Switch, action) => {
        const conditions = compiler.conditionsOf(action.needs, ({ needing }) => needing.push(owner));
        owner.needs = new Needs(conditions, action.resume);
        owner.keepFresh();
      },
    },
  ],
};
