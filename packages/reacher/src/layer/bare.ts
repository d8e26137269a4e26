/** Replaces `whole.ts` in a game that was built ahead: each plan there brings what it needs. */
import { ReacherError } from "../plan/errors.js";
import type { PlanParts } from "./builtParts.js";
import { fixed } from "./fixed.js";

function notBuilt(): never {
  throw new ReacherError("this plan was not built ahead; import the module that reacher build wrote of it");
}

export const WHOLE: PlanParts = { layerOf: notBuilt, tablesOf: notBuilt, override: fixed };
