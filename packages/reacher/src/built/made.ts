/**
 * The imports of modules with code that was made for a plan, which `reacher build` and the Vite plugin write. Nothing here leads to the rules or to the reading
 * of plans. Games import such a module, and not this.
 *
 * @module reacher/internal/made
 */
import { mustBeList, mustBeObject, mustBeText } from "../plan/arguments.js";
import type { CheckedPlan } from "../plan/checked.js";
import { noteResolved } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { controlsOf as ownControlsOf } from "../controls/ownControls.js";
import { noteBuilt, type Rules } from "../layer/builtParts.js";
import { fixed, later } from "../layer/fixed.js";
import { notMade } from "../layer/calls/seatPart.js";
import { HearingLayer } from "../lean/hearingLayer.js";
import { LeanLayer, leanLayer } from "../lean/leanLayer.js";
import { HearingUntilKeys } from "../lean/hearingUntilKeys.js";
import { comesWithKeys, UntilKeys, type Grow, type Growing } from "../lean/untilKeys.js";
import type { Create } from "../made/code.js";
import { MadeTables } from "../made/madeTables.js";
import type { MadeNumbers } from "../made/numbers.js";
import { feel as feelOf } from "../made/feel.js";
import { OpeningTables, slotChange } from "./opening.js";
import { openLayers, type OpenNumbers } from "./settings.js";
import type { Calls } from "./callGroups.js";
import { builtLayer, checkedIn } from "./checkedAhead.js";
import type { KeyRules } from "./keys.js";
import type { Layers } from "./layers.js";

export * from "./callGroups.js";
export { powerCurve } from "../engine/movement/shape.js";

/** How sticks and the mouse feel, as a player sets it. Its contents are internal. */
export interface FeelPart {
  readonly part: "feel";
}

export const feel = feelOf as unknown as FeelPart;

/** How a made plan becomes a layer. Its contents are internal. */
export interface LayerKind {
  readonly part: "layer";
}

/** A layer with all calls but those that need the rules themselves. */
export const whole = {
  read: checkedIn,
  controls: ownControlsOf,
  layerOf: builtLayer,
  changes: { override: fixed },
} satisfies Layers as unknown as LayerKind;

/** A layer with all calls, which plays the plan's own keys until `bring` has loaded what other keys need. */
export const ownKeys = (bring: () => Promise<{ readonly rules: KeyRules }>): LayerKind =>
  ({
    ...whole,
    changes: { override: later, bring: async () => (await bring()).rules as unknown as Rules },
  }) as unknown as LayerKind;

/** The same layer, whose seats open and close. */
export const opening = (kind: LayerKind): LayerKind => {
  const layers = kind as unknown as Layers;
  return {
    ...layers,
    Tables: OpeningTables,
    changes: { ...layers.changes!, change: slotChange },
  } as unknown as LayerKind;
};

/**
 * A layer for one player with these groups of calls, which becomes a whole one when `bring` has loaded what other keys need. The plan comes as it was checked,
 * for prompts.
 */
export const leanOwnKeys = (
  bring: () => Promise<{ readonly growing: KeyRules }>,
  ...groups: readonly Calls[]
): LayerKind => growingKind(UntilKeys, bring, groups);

/** The same that hears all controls before that: with `held` and `onPress`. */
export const hearingOwnKeys = (
  bring: () => Promise<{ readonly growing: KeyRules }>,
  ...groups: readonly Calls[]
): LayerKind => growingKind(HearingUntilKeys, bring, groups, ownControlsOf);

/**
 * The same layer, which takes a player's settings before `bring` has loaded anything. `told`: which, and what follows from them, as JSON text; `by`: where
 * some of them are of how sticks and the mouse feel.
 */
export const settings = (kind: LayerKind, told: string, by?: FeelPart): LayerKind => {
  const layers = kind as unknown as Layers;
  return {
    ...layers,
    ...openLayers(layers, JSON.parse(told) as OpenNumbers, by as never),
  } as unknown as LayerKind;
};

function growingKind(
  Base: new (plan: Plan, checked: CheckedPlan, tables: MadeTables) => LeanLayer & Growing,
  bring: () => Promise<{ readonly growing: KeyRules }>,
  groups: readonly Calls[],
  controls?: Layers["controls"],
): LayerKind {
  const make = leanLayer(Base, groups as never, comesWithKeys);
  const layers: Layers = {
    read: checkedIn,
    layerOf: (plan, checked, tables) =>
      Object.assign(make(plan, checked, tables()), {
        bring: async () => (await bring()).growing as unknown as Grow,
      }),
    ...(controls !== undefined && { controls }),
  };
  return layers as unknown as LayerKind;
}

/** A layer for one player with these groups of calls. */
export const lean = (...groups: readonly Calls[]): LayerKind => leanKind(LeanLayer, groups);

/** The same that hears all controls: with `held` and `onPress`. */
export const hearing = (...groups: readonly Calls[]): LayerKind =>
  leanKind(HearingLayer, groups, ownControlsOf);

function leanKind(
  Base: new (plan: Plan, checked: CheckedPlan, tables: MadeTables) => LeanLayer,
  groups: readonly Calls[],
  controls?: Layers["controls"],
): LayerKind {
  const make = leanLayer(Base, groups as never, notMade);
  const layers: Layers = {
    read: (checked) => JSON.parse(checked) as CheckedPlan,
    layerOf: (plan, checked, tables) => make(plan, checked, tables()),
    ...(controls !== undefined && { controls }),
  };
  return layers as unknown as LayerKind;
}

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
  if (Object.keys(plan.actions).length < resolved.actions.length) leaveOut(plan, Object.keys(resolved));
  const codes = new Map(seats.map(([slots, told, create]) => [slots, [JSON.parse(told), create] as const]));
  const tablesOf = (checked: CheckedPlan, slots: readonly string[]) => {
    const [numbers, create] = codes.get(slots.join(" "))!;
    const tables = new (layers.Tables ?? MadeTables)(
      resolved,
      numbers as MadeNumbers,
      create as Create,
      layers.controls?.(resolved),
    );
    layers.tune?.(tables, checked, slots);
    return tables;
  };
  noteBuilt(plan, {
    layerOf: () => layers.layerOf(plan, resolved, () => tablesOf(resolved, resolved.seats[0]!.slots)),
    tablesOf: tablesOf as never,
    ...layers.changes!,
  });
  return plan as P;
}

/** A plan's text that a game was built without says so. */
function leaveOut(plan: Plan, fields: readonly string[]): void {
  for (const field of fields)
    Object.defineProperty(plan, field, {
      get: () => {
        throw notMade("plan");
      },
    });
}
