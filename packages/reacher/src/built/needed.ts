/** Which features a plan needs. In: a plan, and whether players may change it. Out: their names. Pure. */
import type { CheckedAction, CheckedSwitch, Word } from "../plan/checked.js";
import { stylesOf } from "../plan/reader/switches.js";
import type { Plan, SwitchFields } from "../plan/types.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Feature } from "../engine/compile.js";
import { FEATURES, type FeatureName } from "../engine/every.js";
import { ALL_CALLS, FEATURE_OF, type Call } from "./calls.js";
import { hasResults, kindOf } from "./lacking.js";

/**
 * The names of the features that a layer of this plan needs, in their order. With `rebinding` also those that a player may choose; `calls`: what the
 * game calls of those that may be left out.
 */
export function neededFeatures(
  written: Plan,
  rebinding: boolean,
  calls: readonly Call[] = ALL_CALLS,
): readonly FeatureName[] {
  const { actions, flags, numbers, spots, modes, seated, bounceMs } = resolvePlan(written);
  const wanted = actions.flatMap((action) => [action, ...(rebinding ? chosen(written, action) : [])]);
  // A snapshot is the same bytes in each game of the plan: it has the cells of whatever else these leave out.
  const told = calls.includes("snapshot") || calls.includes("restore") ? ALL_CALLS : calls;
  const needed = new Set<FeatureName>(["losses", ...told.flatMap((call) => FEATURE_OF[call] ?? [])]);
  // A seat that does not play has none of its actions live.
  if (modes.length > 0 || seated) needed.add("modes");
  if (flags.length > 0) needed.add("flags");
  if (numbers.length > 0) needed.add("numbers");
  if (spots.length > 0) needed.add("pointer");
  if (bounceMs > 0 || rebinding) needed.add("bounce");
  // A player may bind a stick where the plan had only keys.
  if (rebinding && actions.some(({ kind }) => kind === "axis" || kind === "vector")) needed.add("sticks");
  const all = Object.entries(FEATURES) as [FeatureName, Feature][];
  for (const [name, feature] of all) if (wanted.some((action) => uses(action, feature))) needed.add(name);
  return all.flatMap(([name]) => (needed.has(name) ? [name] : []));
}

/** The action with each style that a player may set. */
function chosen(written: Plan, action: CheckedAction): CheckedSwitch[] {
  if (action.kind !== "switch") return [];
  return stylesOf(written.actions[action.name] as SwitchFields).map((style) => ({ ...action, style }));
}

function uses(action: CheckedAction, feature: Feature): boolean {
  const { actions, entries, options = [], movementOptions = [] } = feature;
  if (feature.lasting !== undefined) return wordsOf(action).some(({ forMs }) => forMs !== undefined);
  if (feature.results !== undefined)
    return wordsOf(action).some(({ of }) => of !== undefined) || hasResults(action);
  if (actions?.[action.kind] !== undefined) return true;
  if (action.kind === "turn") return false;
  if (action.kind !== "switch") return movementOptions.some(({ appliesTo }) => appliesTo(action));
  return (
    options.some(({ appliesTo }) => appliesTo(action)) ||
    action.entries.some((entry) => entries?.[kindOf(entry)] !== undefined)
  );
}

/** All conditions that an action names. */
function wordsOf(action: CheckedAction): readonly Word[] {
  if (action.kind === "switch") return [...action.needs, ...action.beginsIf];
  const rules = action.kind === "turn" ? action.rules : (action.pace?.rules ?? []);
  return rules.flatMap(({ when }) => when);
}
