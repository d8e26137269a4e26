/**
 * The imports of modules that `reacher build` and the Vite plugin write: a plan checked ahead, with only the features that it uses. Games
 * import such a module, and not this.
 *
 * @module reacher/internal
 */
import { controlsOf as ownControlsOf, type Controls } from "../controls/ownControls.js";
import type { Control } from "../controls/catalogue.js";
import { mustBeList, mustBeObject, mustBeText } from "../plan/arguments.js";
import type { CheckedPlan } from "../plan/checked.js";
import { PlanError } from "../plan/findings.js";
import { noteLacking } from "../plan/lacking.js";
import { readPlan } from "../plan/readBuilt.js";
import { noteResolved } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import type { Feature } from "../engine/compile.js";
import { noteBuilt, type Override } from "../layer/builtParts.js";
import { compiledBy } from "../layer/compiled.js";
import { fixed } from "../layer/fixed.js";
import { override } from "../layer/override.js";
import type { Create } from "../made/code.js";
import { MadeTables } from "../made/madeTables.js";
import { leanLayer } from "../lean/leanLayer.js";
import { WHOLE } from "#whole";
import { wholeLayer } from "../layer/wholeLayer.js";
import type { Calls } from "./callGroups.js";
import type { MadeNumbers } from "../made/numbers.js";
import { lackingIn } from "./lacking.js";
import type { Part } from "./parts.js";

export * from "./parts.js";
export * from "./callGroups.js";
export { powerCurve } from "../engine/movement/shape.js";
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
  read: (plan) => {
    const read = readPlan(plan);
    if (!read.ok) throw new PlanError(read.findings);
    return read.plan;
  },
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
    noteBuilt(plan, { layerOf: built, tablesOf: compiledBy(features), override: fixed });
    return plan as P;
  }
  const { read, note, override } = by as unknown as Changes;
  noteResolved(plan, read(plan));
  note(plan, features);
  noteBuilt(plan, { layerOf: built, tablesOf: compiledBy(features), override });
  return plan as P;
}

/** A layer with all calls, of a plan that was built ahead. */
const built = (written: Plan): object => wholeLayer(written, () => WHOLE);

/** How a made plan becomes a layer. Its contents are internal. */
export interface LayerKind {
  readonly part: "layer";
}

interface Layers {
  /** The checked plan of its text. */
  read(checked: string): CheckedPlan;
  /** All controls that the plan may name, where the layer asks for what is not bound. */
  controls?(plan: CheckedPlan): Controls;
  layerOf(plan: Plan, checked: CheckedPlan, tables: () => MadeTables): object;
}

/** A layer with all calls but those that need the rules themselves. */
export const whole = {
  read: checkedIn,
  controls: ownControlsOf,
  layerOf: built,
} satisfies Layers as unknown as LayerKind;

/** A layer for one player with these groups of calls. */
export const lean = (...groups: readonly Calls[]): LayerKind => {
  const make = leanLayer(groups as never);
  const layers: Layers = {
    read: (checked) => JSON.parse(checked) as CheckedPlan,
    layerOf: (plan, checked, tables) => make(plan, checked, tables()),
  };
  return layers as unknown as LayerKind;
};

/**
 * The plan that a module with made code gives: `createInputLayer` makes layers of it. The plan as written (as far as the game reads it) and as checked,
 * as JSON text; for each list of slots that a seat has what its code has to be told, as JSON text, and the code; and what kind of layer plays it.
 */
export function madePlan<P>(
  written: string,
  checked: string,
  seats: readonly (readonly [slots: string, told: string, create: unknown])[],
  kind: LayerKind,
): P {
  for (const text of [written, checked]) mustBeText(text, "text; reacher build writes it");
  mustBeList(seats, "seats; reacher build writes them");
  mustBeObject(kind, "kind of layer; reacher build writes it");
  const plan = JSON.parse(written) as Plan;
  const layers = kind as unknown as Layers;
  const resolved = layers.read(checked);
  noteResolved(plan, resolved);
  const codes = new Map(seats.map(([slots, told, create]) => [slots, [JSON.parse(told), create] as const]));
  const tablesOf = (_: CheckedPlan, slots: readonly string[]) => {
    const [numbers, create] = codes.get(slots.join(" "))!;
    return new MadeTables(resolved, numbers as MadeNumbers, create as Create, layers.controls?.(resolved));
  };
  noteBuilt(plan, {
    layerOf: () => layers.layerOf(plan, resolved, () => tablesOf(resolved, resolved.seats[0]!.slots)),
    tablesOf: tablesOf as never,
    override: fixed,
  });
  return plan as P;
}

/** A checked plan of its text. */
function checkedIn(text: string): CheckedPlan {
  const controls = ownControlsOf(JSON.parse(text) as CheckedPlan);
  return JSON.parse(text, (field, value: unknown) =>
    field === "control" ? controls.find(value as string) : value,
  ) as CheckedPlan;
}
