/** Replaces a player's changes in a game that was built without rebinding: it throws an error that says so. */
import { ReacherError } from "../plan/findings.js";
import type { Override } from "./builtParts.js";

/** @throws ReacherError */
export const fixed: Override = () => {
  throw new ReacherError(
    "this game was built without rebinding, and cannot apply a player's overrides; leave out --fixed-keys, and name setOverrides among its calls",
  );
};
