/** Replaces a player's changes in a game that was built without rebinding: it throws an error that says so. */
import { ReacherError } from "../plan/errors.js";
import { LATER } from "../plan/later.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Overrides } from "../plan/players/overrides.js";
import type { Override } from "./builtParts.js";

export const FIXED =
  "this game was built without rebinding, and cannot apply a player's overrides; leave out --fixed-keys, and name setOverrides among its calls";

/** @throws ReacherError */
export const fixed: Override = () => {
  throw new ReacherError(FIXED);
};

/** Whether these change nothing. */
export function isBare(overrides: Overrides | null): boolean {
  const { controls = {}, settings = {} } = overrides ?? {};
  return Object.keys({ ...controls, ...settings }).length === 0;
}

/** Before the rules have come, a player without changes needs none. @throws ReacherError if these change something */
export function mustBeBare(overrides: Overrides): void {
  if (!isBare(overrides)) throw new ReacherError(`${LATER}setOverrides`);
}

/** @throws ReacherError if these change something */
export const later: Override = (plan, overrides) => {
  mustBeBare(overrides);
  return { written: plan, checked: resolvePlan(plan), faults: [] };
};
