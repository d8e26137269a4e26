/** Replaces `whole.ts` in a game that was built ahead: each plan there brings what it needs. */
import type { PlanParts } from "./builtParts.js";
import { fixed } from "./fixed.js";

export const WHOLE: PlanParts = { features: [], override: fixed };
