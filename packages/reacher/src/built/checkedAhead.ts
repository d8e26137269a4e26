/** Plans that were checked ahead. In: the text of a checked plan, or a plan. Out: the checked plan, or a layer. */
import { controlsOf } from "../controls/ownControls.js";
import { wholeLayer } from "../layer/wholeLayer.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Plan } from "../plan/types.js";
import { WHOLE } from "#whole";

/** A layer with all calls, of a plan that was built ahead. */
export const builtLayer = (written: Plan): object => wholeLayer(written, () => WHOLE);

/** A checked plan of its text. */
export function checkedIn(text: string): CheckedPlan {
  const controls = controlsOf(JSON.parse(text) as CheckedPlan);
  return JSON.parse(text, (field, value: unknown) =>
    field === "control" ? controls.find(value as string) : value,
  ) as CheckedPlan;
}
