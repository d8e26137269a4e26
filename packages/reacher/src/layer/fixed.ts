/** Replaces a player's changes in a game that was built without rebinding: it throws an error that says so. */
import { ReacherError } from "../plan/errors.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Override } from "./builtParts.js";

export const FIXED =
  "this game was built without rebinding, and cannot apply a player's overrides; leave out --fixed-keys, and name setOverrides among its calls";

/** @throws ReacherError */
export const fixed: Override = () => {
  throw new ReacherError(FIXED);
};

/** Before the rules have come, a player without changes needs none. @throws ReacherError */
export const later: Override = (plan, overrides) => {
  const { controls = {}, settings = {} } = overrides;
  if (Object.keys({ ...controls, ...settings }).length === 0)
    return { written: plan, checked: resolvePlan(plan), faults: [] };
  throw new ReacherError(
    "this game loads what players' keys need when they are wanted; await input.bringKeys() before the first setOverrides",
  );
};
