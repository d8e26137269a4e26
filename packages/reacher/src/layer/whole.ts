/** The parts of layers whose plans were not built ahead: everything. */
import { EVERY } from "../engine/every.js";
import type { PlanParts } from "./builtParts.js";
import { change, compiledBy } from "./compiled.js";
import { wholeLayer } from "./wholeLayer.js";
import { override } from "./override.js";

export const WHOLE: PlanParts = {
  layerOf: (written) => wholeLayer(written, () => WHOLE),
  tablesOf: compiledBy(EVERY),
  override,
  change,
};
