/** What layers of plans are made with that were not built ahead: all that there is. */
import { EVERY } from "../engine/every.js";
import type { PlanParts } from "./builtParts.js";
import { override } from "./override.js";

export const WHOLE: PlanParts = { features: EVERY, override };
