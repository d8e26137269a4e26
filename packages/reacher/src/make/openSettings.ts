/**
 * Finds which of a player's settings stay open in made code. In: a plan. Out: their addresses, and what follows from each in the checked plan. What is found
 * is held against what rebinding itself makes of the plan: settings that would come out otherwise are not open. Pure.
 */
import { ANALOG, FEEL, INVERTED } from "../plan/players/feel.js";
import { applyOverrides } from "../plan/players/applyOverrides.js";
import type { Overrides } from "../plan/players/overrides.js";
import type { CheckedAction, CheckedPlan, CheckedStick } from "../plan/checked.js";
import { SETTABLE } from "../plan/language/settable.js";
import { STYLES } from "../plan/options/style.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan, PlayerFields, Range, Shape } from "../plan/types.js";
import { isSet, plansApart } from "./openPlans.js";
import { feel, type Felt } from "../made/feel.js";
import { asPlaced, withSettings, type OpenSettings } from "../made/openSettings.js";

type Allowed = Range | readonly string[];
type Json = Readonly<Record<string, unknown>>;

/** What all holds of a plan may be. */
const HOLDS: readonly string[] = ["hold", "toggle"];

/** How many random settings are tried besides the least and the most of all. */
const TRIES = 12;

/** The plan's open settings, and plans by which it shows what follows from them. */
export interface Opened {
  readonly open: OpenSettings;
  readonly plans: readonly CheckedPlan[];
}

export function openedIn(written: Plan): Opened {
  const plan = resolvePlan(written);
  const chance = new Chance();
  let allowed = new Map(plan.actions.flatMap((action) => [...allowedIn(written, plan, action)]));
  const { bounceMs, holds = true } = written.player ?? {};
  // Without any, a plan has no rules for it.
  if (bounceMs !== undefined && plan.bounceMs > 0 && bounceMs[0] > 0) allowed.set("bounceMs", bounceMs);
  if (holds && [...allowed.values()].some((of) => of.includes("toggle" as never)))
    allowed.set("holds", HOLDS);
  const felt = plan.actions.flatMap((action, n) => feltIn(written, action, n));
  const warned = playersPlan(written, {}).faults;
  for (;;) {
    const settings = placesOf(written, plan, allowed, chance);
    const open = { settings, felt: felt.filter(({ of }) => isFelt(settings, of)), warned };
    const tried = triedWith(open, chance).map((settings) => compared(written, plan, open, settings));
    const wrong = new Set(tried.flatMap(({ wrong }) => wrong));
    if (wrong.size === 0 || allowed.size === 0) {
      return {
        open,
        plans: [...tried.slice(0, 2).map(({ checked }) => checked), ...plansApart(plan, open)],
      };
    }
    const fewer = [...allowed].filter(
      ([address]) => address.includes(".") && !wrong.has(address.split(".")[0]!),
    );
    allowed = new Map(fewer.length < allowed.size ? fewer : []);
  }
}

/** Whether any of these settings changes how it feels. */
const isFelt = (settings: OpenSettings["settings"], of: readonly string[]) =>
  ["gain", "invert", "perPixel"].some((name) => isSet(settings, of, name));

/** What a player may set of an action. */
function allowedIn(
  written: Plan,
  { slots }: CheckedPlan,
  { name, kind }: CheckedAction,
): Map<string, Allowed> {
  const allowed = new Map<string, Allowed>();
  const action = written.actions[name] as {
    locked?: boolean;
    player?: PlayerFields;
    style?: string;
  };
  if (action.locked === true) return allowed;
  const { player = {} } = action;
  if (kind === "switch") {
    const { style = STYLES } = player;
    allowed.set(`${name}.style`, style);
    for (const number of SETTABLE.keys()) {
      const range = player[number as "gapMs"];
      if (range !== undefined) allowed.set(`${name}.${number}`, range);
    }
    return allowed;
  }
  for (const setting of FEEL) {
    const own = setting === "invert" ? player.invert === true && INVERTED : player[setting as "gain"];
    if (own === undefined || own === false) continue;
    for (const place of [name, ...slots.map((slot) => `${name}.${slot.name}`)])
      allowed.set(`${place}.${setting}`, own);
  }
  return allowed;
}

/** Those that fit, each with where it stands in the checked plan. */
function placesOf(
  written: Plan,
  plan: CheckedPlan,
  allowed: ReadonlyMap<string, Allowed>,
  chance: Chance,
): OpenSettings["settings"] {
  const before = leavesOf(plan);
  const settings: Record<string, [Allowed, ...string[]]> = {};
  for (const [address, range] of allowed) {
    const values = typeof range[0] === "string" ? range : [chance.of(range), chance.of(range)];
    const after = values.map((value) => playersPlan(written, { [address]: value }));
    if (after.some(({ faults }) => faults.some(({ what }) => what === "rejected"))) continue;
    if (/\.(?:gain|invert)$/.test(address)) {
      settings[address] = [range];
      continue;
    }
    const leaves = after.map(({ checked }) => leavesOf(checked));
    const changed = [...before.keys()].filter((path) =>
      leaves.some((one) => one.get(path) !== before.get(path)),
    );
    const places = changed.filter((path) =>
      leaves.every((one, n) => one.get(path) === asPlaced(path, values[n])),
    );
    // Another style may take other options along.
    if (places.length < changed.length && !address.endsWith(".perPixel")) continue;
    settings[address] = [range, ...places];
  }
  return settings;
}

/** What stands anywhere in a value and is neither a list nor an object, by its path. */
function leavesOf(value: unknown, path = "", found = new Map<string, unknown>()): Map<string, unknown> {
  if (typeof value !== "object" || value === null) found.set(path, value);
  else
    for (const [name, one] of Object.entries(value))
      if (name !== "control") leavesOf(one, path === "" ? name : `${path}.${name}`, found);
  return found;
}

/** What rebinding makes of settings. */
function playersPlan(written: Plan, settings: Json) {
  const { plan, faults } = applyOverrides(written, overridesOf(settings));
  return { checked: resolvePlan(plan), faults };
}

const overridesOf = (settings: Json): Overrides => ({ reacherOverrides: 1, settings });

/** Settings to try: all at both their ends, and some by chance, also such as are not allowed and are cut. */
function triedWith({ settings }: OpenSettings, chance: Chance): Json[] {
  const all = Object.entries(settings).map(([address, [range]]) => [address, range] as const);
  const ends = [0, -1].map((end) =>
    Object.fromEntries(all.map(([address, range]) => [address, range.at(end)])),
  );
  const some = Array.from({ length: TRIES }, (_, n) =>
    Object.fromEntries(
      all.filter(() => chance.next() < 0.6).map(([address, range]) => [address, chance.of(range, n > 2)]),
    ),
  );
  return [...ends, ...some];
}

/** The players' plan, and the actions of which the open settings give another one. */
function compared(written: Plan, plan: CheckedPlan, open: OpenSettings, settings: Json) {
  const right = playersPlan(written, settings);
  const { checked, faults } = withSettings(plan, open, overridesOf(settings), feel);
  const wrong = right.checked.actions.flatMap((action, n) =>
    JSON.stringify(action) === JSON.stringify(checked.actions[n]) ? [] : [action.name],
  );
  if (right.checked.bounceMs !== checked.bounceMs) wrong.push("bounceMs");
  const [said, known] = [right.faults, faults].map((all) => new Set(all.map((one) => JSON.stringify(one))));
  for (const one of [...said!, ...known!])
    if (!(said!.has(one) && known!.has(one)))
      wrong.push((JSON.parse(one) as { place: string }).place.split(".")[1]!);
  return { checked: right.checked, wrong };
}

/** What of a movement or a turn has a gain and a sign. */
function feltIn(written: Plan, action: CheckedAction, n: number): Felt[] {
  if (action.kind === "switch") return [];
  const { shape, from } = written.actions[action.name] as unknown as { shape?: Shape; from: Json };
  const feltOf = (list: "sticks" | "ends" | "mice", one: CheckedStick, place: number): Felt[] => {
    if (one.pointer !== undefined) return [];
    const { control, address, slot } = one;
    const own = shapeAt(from, address.split(".").slice(1), list === "ends");
    const isMouse = list === "mice";
    const isOne = !isMouse && control.family !== "stick";
    const isAnalog = isMouse || ANALOG.includes(control.family);
    return [
      {
        at: `actions.${n}.${list}.${place}${isMouse ? "" : ".shape"}`,
        of: [action.name, isAnalog ? `${action.name}.${slot}` : ""],
        gain: [shape?.gain ?? 1, own?.gain ?? 1],
        flips: [flipsOf(shape, isOne), flipsOf(own, isOne)],
        isOne,
      },
    ];
  };
  const all = action as unknown as Record<"sticks" | "ends" | "mice", readonly CheckedStick[] | undefined>;
  return (["sticks", "ends", "mice"] as const).flatMap((list) =>
    (all[list] ?? []).flatMap((one, place) => feltOf(list, one, place)),
  );
}

/** The shape of an entry by its address: in a slot, in a list there, at an end. */
function shapeAt(from: Json, [slot, ...rest]: readonly string[], isEnd: boolean): Shape | undefined {
  let entry = from[slot!];
  if (Array.isArray(entry))
    entry = (entry as unknown[])[/^\d+$/.test(rest[0] ?? "") ? Number(rest.shift()) : 0];
  // A direction pad is four keys, which take the shape of their action alone.
  if (isEnd && rest.length === 0) return undefined;
  if (rest.length > 0 && typeof entry === "object") entry = (entry as Json)[rest[0]!];
  return typeof entry === "object" ? (entry as { shape?: Shape }).shape : undefined;
}

function flipsOf(shape: Shape | undefined, isOne: boolean): number {
  const { invert } = shape ?? {};
  if (invert === undefined) return 0;
  if (isOne) return 1;
  return invert === true || invert === "both" ? 3 : invert === "x" ? 1 : 2;
}

/** Chance that is the same each time, so that a plan gives the same code. */
class Chance {
  private state = 1;

  next(): number {
    this.state = (Math.imul(this.state, 1_664_525) + 1_013_904_223) | 0;
    return (this.state >>> 0) / 2 ** 32;
  }

  /** One of what is allowed; `beyond`: or something else. */
  of(allowed: Allowed, beyond = false): unknown {
    if (typeof allowed[0] === "string")
      return beyond && this.next() < 0.2 ? 7 : allowed[Math.floor(this.next() * allowed.length)];
    const [least, most] = allowed as Range;
    const share = beyond ? 2 * this.next() - 0.5 : this.next();
    return beyond && this.next() < 0.1 ? "much" : least + share * (most - least);
  }
}
