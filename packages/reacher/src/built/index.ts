/**
 * What modules are made of that `reacher build` and the plugin for Vite write: a plan checked ahead, with only the features that it uses. Games
 * import such a module, and not this.
 *
 * @module reacher/built
 */
import { findControl } from "../controls/catalogue.js";
import type { CheckedPlan } from "../plan/checked.js";
import { PlanError } from "../plan/findings.js";
import { noteLacking } from "../plan/lacking.js";
import { readPlan } from "../plan/readBuilt.js";
import { noteResolved } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import type { Feature } from "../engine/compile.js";
import { noteBuilt, type Override } from "../layer/builtParts.js";
import { fixed } from "../layer/fixed.js";
import { override } from "../layer/override.js";
import { lackingIn } from "./lacking.js";

export { bounce } from "../engine/bounce.js";
export { all } from "../engine/gestures/all.js";
export { flick } from "../engine/gestures/flick.js";
export { long, short } from "../engine/gestures/longAndShort.js";
export { series } from "../engine/gestures/series.js";
export { taps } from "../engine/gestures/taps.js";
export { movements } from "../engine/movement/make.js";
export { drives } from "../engine/situations/drives.js";
export { flags } from "../engine/situations/flags.js";
export { losses } from "../engine/situations/losses.js";
export { modes } from "../engine/situations/modes.js";
export { numbers } from "../engine/situations/numbers.js";
export { beginsIf } from "../engine/switches/beginsIf.js";
export { keep } from "../engine/switches/keep.js";
export { switches } from "../engine/switches/make.js";
export { needs } from "../engine/switches/needs.js";
export { oneOf } from "../engine/switches/oneOf.js";
export { repeat } from "../engine/switches/repeat.js";
export { rest } from "../engine/switches/rest.js";
export { spends } from "../engine/switches/spends.js";
export { either, toggle } from "../engine/switches/styles.js";
export { waits } from "../engine/switches/waits.js";
export { turns } from "../engine/turns/make.js";
export type { Feature } from "../engine/compile.js";

/** What lets players change a built plan: it reads the plan, and what they changed of it. */
export interface Rebinding {
  readonly read: (plan: Plan) => CheckedPlan;
  readonly override: Override;
  readonly note: (plan: Plan, features: readonly Feature[]) => void;
}

/** Players may change the plan. */
export const rebinding: Rebinding = {
  read: (plan) => {
    const read = readPlan(plan);
    if (!read.ok) throw new PlanError(read.findings);
    return read.plan;
  },
  override,
  note: (plan, features) => noteLacking(plan, (action) => lackingIn(action, features)),
};

/** The plan that a built module gives: `createInputLayer` makes layers of it. Of what it is made: text, so that a key in it can mean nothing else. */
export function builtPlan<P>(written: string, features: readonly Feature[], by: Rebinding | string): P {
  const plan = JSON.parse(written) as Plan;
  const isFixed = typeof by === "string";
  noteResolved(plan, isFixed ? (JSON.parse(by, revived) as CheckedPlan) : by.read(plan));
  if (!isFixed) by.note(plan, features);
  noteBuilt(plan, { features, override: isFixed ? fixed : by.override });
  return plan as P;
}

/** A checked plan as text: its controls by their names. */
export function checkedText(plan: CheckedPlan): string {
  return JSON.stringify(plan, (field, value: unknown) =>
    field === "control" ? (value as { readonly name: string }).name : value,
  );
}

function revived(field: string, value: unknown): unknown {
  return field === "control" ? findControl(value as string) : value;
}
