/**
 * The imports of modules that `reacher build` and the Vite plugin write: a plan checked ahead, with only the features that it uses. Games
 * import such a module, and not this.
 *
 * @module reacher/internal
 */
import { controlsOf as ownControlsOf } from "../controls/ownControls.js";
import type { Control } from "../controls/catalogue.js";
import { mustBeList, mustBeObject, mustBeText } from "../plan/arguments.js";
import type { CheckedPlan } from "../plan/checked.js";
import { noteLacking } from "../plan/lacking.js";
import { noteResolved } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import type { Feature } from "../engine/compile.js";
import { noteBuilt, type Override } from "../layer/builtParts.js";
import { change, compiledBy } from "../layer/compiled.js";
import { fixed } from "../layer/fixed.js";
import { override } from "../layer/override.js";
import { builtLayer, checkedIn } from "./checkedAhead.js";
import { lackingIn } from "./lacking.js";
import type { Part } from "./parts.js";
import { readAhead } from "./readAhead.js";

export * from "./made.js";
export * from "./parts.js";
export { directionsIn } from "../plan/ways.js";
export { decidingFields, shownOf, type ShownEntry } from "../plan/gestures/shown.js";
export type { OwnControl } from "../controls/ownControls.js";
export { resolvePlan } from "../plan/resolve.js";
export type * from "../plan/checked.js";

/** Rebinding for a built plan: it reads the plan and a player's changes. Its contents are internal. */
export interface Rebinding {
  readonly part: "rebinding";
}

interface Changes {
  readonly read: (plan: Plan) => CheckedPlan;
  readonly override: Override;
  readonly note: (plan: Plan, features: readonly Feature[]) => void;
}

const changes: Changes = {
  read: readAhead,
  override,
  note: (plan, features) => noteLacking(plan, (action) => lackingIn(action, features)),
};

/** All controls that a plan may name, its own ones with their labels. @throws ReacherError if this is no checked plan */
export function controlsOf(plan: CheckedPlan): {
  find(name: string): Control | undefined;
  labelOf(name: string): string;
} {
  mustBeObject(plan, "checked plan; resolvePlan gives one");
  mustBeList(plan.controls, "controls; resolvePlan gives a checked plan");
  return ownControlsOf(plan);
}

/** Lets players change the plan. */
export const rebinding = changes as unknown as Rebinding;

/**
 * The plan that a built module gives: `createInputLayer` makes layers of it. `written`: the plan as JSON text, so that a key in it can mean nothing
 * else. `by`: what lets players change it, or, where they cannot, the checked plan as text.
 */
export function builtPlan<P>(written: string, parts: readonly Part[], by: Rebinding | string): P {
  mustBeText(written, "plan's text; reacher build writes it");
  mustBeList(parts, "parts; reacher build writes them");
  const plan = JSON.parse(written) as Plan;
  const features = parts as unknown as readonly Feature[];
  if (typeof by === "string") {
    noteResolved(plan, checkedIn(by));
    noteBuilt(plan, { layerOf: builtLayer, tablesOf: compiledBy(features), override: fixed, change });
    return plan as P;
  }
  const { read, note, override } = by as unknown as Changes;
  read(plan);
  note(plan, features);
  noteBuilt(plan, { layerOf: builtLayer, tablesOf: compiledBy(features), override, change });
  return plan as P;
}
