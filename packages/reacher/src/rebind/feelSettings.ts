/**
 * How sticks and the mouse feel, for a settings screen to list: of an action that has them in several slots, for each slot alone. In: an
 * action as the plan and as the player has it. Out: settings. Pure.
 */
import type { CheckedAction, CheckedPlan, CheckedShape } from "../plan/checked.js";
import { INVERTED } from "../plan/players/feel.js";
import type { Plan, PlayerFields, Shape } from "../plan/types.js";
import type { Setting } from "./setting.js";

/** What the settings are made of beside the action. */
export interface FeelAsked {
  readonly plan: Plan;
  readonly slots: CheckedPlan["slots"];
  readonly settings: Readonly<Record<string, unknown>>;
}

/** A stick, a trigger or the mouse in its slot. */
interface Felt {
  readonly slot: string;
  readonly shape?: CheckedShape;
  readonly perPixel?: number;
  readonly perSecond?: number;
}

type Field = "deadZone.inner" | "deadZone.outer" | "gain" | "perPixel" | "perSecond";

/** `find`: its number where it stands by itself; `undefined` where this has none. Factors stand in the settings. */
const NUMBERS: readonly {
  readonly field: Field;
  readonly about: string;
  readonly unit: "share" | "times" | "degrees";
  readonly find?: (felt: Felt) => number | undefined;
}[] = [
  { field: "deadZone.inner", about: "Dead zone", unit: "share", find: ({ shape }) => shape?.inner },
  { field: "deadZone.outer", about: "Outer dead zone", unit: "share", find: ({ shape }) => shape?.outer },
  { field: "gain", about: "Sensitivity", unit: "times" },
  { field: "perPixel", about: "Mouse speed", unit: "degrees", find: ({ perPixel }) => perPixel },
  { field: "perSecond", about: "Turn speed", unit: "degrees", find: ({ perSecond }) => perSecond },
];

export function feelSettings(
  own: CheckedAction,
  base: CheckedAction,
  player: PlayerFields,
  asked: FeelAsked,
): Setting[] {
  const list: Setting[] = [];
  const [felt, before] = [feltIn(own), feltIn(base)];
  for (const { field, about, unit, find } of NUMBERS) {
    const range = player[field];
    if (range === undefined) continue;
    const takes = find === undefined ? before : before.filter((one) => find(one) !== undefined);
    for (const place of placesOf(own, field, about, takes, asked)) {
      const of = (all: readonly Felt[]) =>
        all.find(({ slot }) => place.in === undefined || slot === place.in);
      const plan = find === undefined ? wholeGain(own.name, place.in, asked.plan) : find(of(takes)!)!;
      const chosen = asked.settings[place.setting.address];
      const factor = typeof chosen === "number" ? Math.min(range[1], Math.max(range[0], chosen)) : plan;
      const now = find === undefined ? factor : (find(of(felt) ?? of(takes)!) ?? plan);
      list.push({ ...place.setting, kind: "number", unit, range, value: now, plan });
    }
  }
  if (player.invert === true)
    for (const place of placesOf(own, "invert", "Invert", before, asked)) {
      const plan = place.in === undefined ? invertOf(asked.plan, own.name) : "none";
      const chosen = asked.settings[place.setting.address];
      const value = INVERTED.includes(chosen as string) ? (chosen as string) : plan;
      list.push({ ...place.setting, kind: "choice", options: INVERTED, value, plan });
    }
  return list;
}

/** The whole action where it has them in one slot, else each of the slots. */
function placesOf(
  { name, label }: CheckedAction,
  field: string,
  about: string,
  takes: readonly Felt[],
  { slots }: FeelAsked,
) {
  const own = slots.filter((slot) => takes.some((one) => one.slot === slot.name));
  if (own.length < 2)
    return own.map(() => ({
      in: undefined,
      setting: { address: `${name}.${field}`, action: name, label, about },
    }));
  return own.map((slot) => ({
    in: slot.name,
    setting: {
      address: `${name}.${slot.name}.${field}`,
      action: name,
      label,
      slot: slot.label,
      about: `${about}, ${slot.label}`,
    },
  }));
}

function feltIn(action: CheckedAction): Felt[] {
  if (action.kind === "switch") return [];
  const sticks = action.sticks as readonly (Felt & { readonly shape: CheckedShape })[];
  if (action.kind !== "turn")
    return [
      ...sticks,
      ...action.ends.filter(({ control }) => control.family === "trigger" || control.family === "half"),
    ];
  return [...action.mice, ...sticks];
}

function shapeIn(plan: Plan, name: string): Shape {
  return (plan.actions[name] as { readonly shape?: Shape }).shape ?? {};
}

/** A slot has no gain of its own in the plan: it multiplies. */
function wholeGain(name: string, slot: string | undefined, plan: Plan): number {
  return slot === undefined ? (shapeIn(plan, name).gain ?? 1) : 1;
}

function invertOf(plan: Plan, name: string): string {
  const { invert = "none" } = shapeIn(plan, name);
  return invert === true ? "both" : invert;
}
