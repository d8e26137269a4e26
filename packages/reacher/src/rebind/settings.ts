/** What a player may set, for a settings screen to list. In: a plan and overrides. Out: each setting with its range and value. Pure. */
import type { CheckedAction, CheckedPlan } from "../plan/checked.js";
import { type Overrides } from "../plan/players/overrides.js";
import { STYLES } from "../plan/options/style.js";
import { applyOverrides, BOUNCE_MS } from "../plan/players/applyOverrides.js";
import { SETTABLE, settableValue } from "../plan/language/settable.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan, PlayerFields } from "../plan/types.js";
import { feelSettings, type FeelAsked } from "./feelSettings.js";
import type { Setting } from "./setting.js";

/**
 * All settings that the plan lets a player change, those of the whole plan first.
 * @throws PlanError if the plan cannot run
 */
export function settingsOf(plan: Plan, overrides: Overrides): Setting[] {
  const base = resolvePlan(plan);
  const own = resolvePlan(applyOverrides(plan, overrides).plan);
  const asked = { plan, slots: base.slots, settings: overrides.settings ?? {} };
  const ownActions = own.actions.flatMap((action, n) =>
    plan.actions[action.name]!.locked === true
      ? []
      : ofAction(action, base.actions[n]!, plan.actions[action.name]!.player ?? {}, asked),
  );
  return [...ofPlan(plan, own, base, overrides), ...ownActions];
}

function ofPlan(plan: Plan, own: CheckedPlan, base: CheckedPlan, { settings = {} }: Overrides): Setting[] {
  const { bounceMs = BOUNCE_MS, holds, swapSticks } = plan.player ?? {};
  const whole = { action: undefined, label: "" };
  const list: Setting[] = [
    {
      ...whole,
      address: "bounceMs",
      about: "Unsteady hands: ignore a release this short",
      kind: "number",
      unit: "ms",
      range: bounceMs,
      value: own.bounceMs,
      plan: base.bounceMs,
    },
  ];
  const toggles = Object.values(plan.actions).some(
    ({ kind, player, locked }) =>
      kind === "switch" && locked !== true && player?.style?.includes("toggle") === true,
  );
  if (toggles && holds !== false)
    list.push({
      ...whole,
      address: "holds",
      about: "Hold or toggle",
      kind: "choice",
      options: ["hold", "toggle"],
      value: settings["holds"] === "toggle" ? "toggle" : "hold",
      plan: "hold",
    });
  const hasSticks = base.actions.some((action) => sticksOf(action).length > 0);
  if (hasSticks && swapSticks !== false)
    list.push({
      ...whole,
      address: "swapSticks",
      about: "Swap sticks",
      kind: "choice",
      options: ["off", "on"],
      value: settings["swapSticks"] === true ? "on" : "off",
      plan: "off",
    });
  return list;
}

/** The value that `set` takes for an option of a choice. */
export function settingValue(address: string, option: string): unknown {
  return address === "swapSticks" ? option === "on" : option;
}

function sticksOf(action: CheckedAction) {
  return action.kind === "switch" ? [] : action.sticks;
}

function ofAction(
  own: CheckedAction,
  base: CheckedAction,
  player: PlayerFields,
  asked: FeelAsked,
): Setting[] {
  const { name, label } = own;
  const place = (field: string, about: string) => ({
    address: `${name}.${field}`,
    action: name,
    label,
    about,
  });
  const list: Setting[] = [];
  if (own.kind === "switch" && base.kind === "switch") {
    const options = player.style ?? STYLES;
    if (options.length > 1)
      list.push({
        ...place("style", "Hold or toggle"),
        kind: "choice",
        options,
        value: own.style,
        plan: base.style,
      });
    for (const { name: field, about } of SETTABLE.values()) {
      const range = player[field as "gapMs"];
      const [value, plan] = [settableValue(own, field), settableValue(base, field)];
      if (value !== undefined && plan !== undefined && range !== undefined)
        list.push({ ...place(field, about), kind: "number", unit: "ms", range, value, plan });
    }
    return list;
  }
  return [...list, ...feelSettings(own, base, player, asked)];
}
