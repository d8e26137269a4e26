/** What a player may set, for a settings screen to list. In: a plan and overrides. Out: each setting with its range and value. Pure. */
import type { CheckedAction, CheckedPlan, CheckedShape } from "../plan/checked.js";
import { applyOverrides, BOUNCE_MS, type Overrides } from "../plan/overrides.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan, PlayerFields, Range } from "../plan/types.js";

/** One thing that a player may set. */
export type Setting = {
  /** What `editOverrides().set` takes: `surge.gapMs`, `bounceMs`. */
  readonly address: string;
  /** The action that it belongs to and its label; `undefined` for the whole plan. */
  readonly action: string | undefined;
  readonly label: string;
  /** What it is, in words: "Longest time between taps". */
  readonly about: string;
} & (
  | {
      readonly kind: "number";
      readonly range: Range;
      readonly unit: "ms" | "share" | "times";
      readonly value: number;
      /** What the plan says. */
      readonly plan: number;
    }
  | {
      readonly kind: "choice";
      readonly options: readonly string[];
      readonly value: string;
      readonly plan: string;
    }
);

/**
 * All settings that the plan lets a player change, those of the whole plan first.
 * @throws PlanError where the plan cannot run
 */
export function settingsOf(plan: Plan, overrides: Overrides): Setting[] {
  const base = resolvePlan(plan);
  const own = resolvePlan(applyOverrides(plan, overrides).plan);
  const ownActions = own.actions.flatMap((action, n) =>
    plan.actions[action.name]!.locked === true
      ? []
      : ofAction(action, base.actions[n]!, plan.actions[action.name]!.player ?? {}),
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
      about: "Steady hands: ignore a release this short",
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
      about: "What is on while it is held",
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
      about: "The two sticks",
      kind: "choice",
      options: ["as they are", "exchanged"],
      value: settings["swapSticks"] === true ? "exchanged" : "as they are",
      plan: "as they are",
    });
  return list;
}

/** The value that `set` takes for an option of a choice. */
export function settingValue(address: string, option: string): unknown {
  return address === "swapSticks" ? option === "exchanged" : option;
}

function sticksOf(action: CheckedAction) {
  return action.kind === "switch" ? [] : action.sticks;
}

/** How a number of an action is found, and what it is called. */
const NUMBERS: readonly {
  readonly field: keyof PlayerFields & ("gapMs" | "tapMs" | "afterMs" | "everyMs");
  readonly about: string;
  readonly find: (action: CheckedAction & { kind: "switch" }) => number | undefined;
}[] = [
  {
    field: "gapMs",
    about: "Longest time between taps",
    find: ({ entries }) => entries.find((one) => one.kind === "taps" || one.kind === "series")?.gapMs,
  },
  {
    field: "tapMs",
    about: "A press this short stays on",
    find: ({ style, tapMs }) => (style === "either" ? tapMs : undefined),
  },
  {
    field: "afterMs",
    about: "How long to hold",
    find: ({ entries }) => entries.find((one) => one.kind === "long")?.afterMs,
  },
  { field: "everyMs", about: "Time between repeats", find: ({ repeat }) => repeat?.everyMs },
];

const SHAPES: readonly {
  readonly field: "deadZone.inner" | "deadZone.outer" | "gain";
  readonly about: string;
  readonly unit: "share" | "times";
  readonly find: (shape: CheckedShape) => number;
}[] = [
  { field: "deadZone.inner", about: "Rest around the middle", unit: "share", find: ({ inner }) => inner },
  { field: "deadZone.outer", about: "Full tilt before the rim", unit: "share", find: ({ outer }) => outer },
  { field: "gain", about: "Strength", unit: "times", find: ({ gain }) => gain },
];

function ofAction(own: CheckedAction, base: CheckedAction, player: PlayerFields): Setting[] {
  const { name, label } = own;
  const place = (field: string, about: string) => ({
    address: `${name}.${field}`,
    action: name,
    label,
    about,
  });
  const list: Setting[] = [];
  if (own.kind === "switch" && base.kind === "switch") {
    const options = player.style ?? ["hold", "toggle", "either"];
    if (options.length > 1)
      list.push({
        ...place("style", "How a press works"),
        kind: "choice",
        options,
        value: own.style,
        plan: base.style,
      });
    for (const { field, about, find } of NUMBERS) {
      const [value, plan, range] = [find(own), find(base), player[field]];
      if (value !== undefined && plan !== undefined && range !== undefined)
        list.push({ ...place(field, about), kind: "number", unit: "ms", range, value, plan });
    }
    return list;
  }
  const [stick, before] = [sticksOf(own)[0], sticksOf(base)[0]];
  if (stick === undefined || before === undefined) return list;
  for (const { field, about, unit, find } of SHAPES) {
    const range = player[field];
    if (range === undefined) continue;
    list.push({
      ...place(field, about),
      kind: "number",
      unit,
      range,
      value: find(stick.shape),
      plan: find(before.shape),
    });
  }
  if (player.invert === true)
    list.push({
      ...place("invert", "Turned round"),
      kind: "choice",
      options: ["none", "x", "y", "both"],
      value: turned(stick.shape),
      plan: turned(before.shape),
    });
  return list;
}

function turned({ invertX, invertY }: CheckedShape): string {
  return invertX ? (invertY ? "both" : "x") : invertY ? "y" : "none";
}
