/**
 * A player's changes, kept apart from the plan. In: a plan and its overrides. Out: the player's own plan, and
 * the overrides that were not applied as they are. What does not fit is never discarded: it is reported, and kept.
 */
import { controlsOf } from "../../controls/ownControls.js";
import { AXIS_ENDS, EACH } from "../reader/reader.js";
import type { CheckedAction, CheckedPlan } from "../checked.js";
import { bindingsOf } from "../checks/bindings.js";
import { type Finding } from "../findings.js";
import { didYouMean } from "../../controls/nearest.js";
import { lackingOf, type Lacking } from "../lacking.js";
import { NO_NUMBER, nearest, noneOf, ofAnother, outside } from "./faults.js";
import { lostSticks } from "./lostSticks.js";
import { withControl } from "./changedEntry.js";
import { parseOverrides, type OverrideFault, type OverriddenPlan, type Overrides } from "./overrides.js";
import { withStyle } from "../options/index.js";
import { without, withSticksSwapped, withToggles } from "./wholePlan.js";
import { FEEL, INVERTED, withFeel } from "./feel.js";
import { SETTABLE, withSettable } from "../language/settable.js";
import { ORDINALS } from "../names.js";
import { readPlan } from "#overridden";
import { noteResolved, resolvePlan } from "../resolve.js";
import { STYLES } from "../options/style.js";
import { missingControls } from "../reader/promises.js";
import type { Style, Plan, PlayerFields, Range } from "../types.js";

/** The default range of a player's `bounceMs`. */
export const BOUNCE_MS: Range = [0, 100];
/** Settings of the whole plan. */
const WHOLE_SETTINGS = ["bounceMs", "swapSticks", "holds"];

/** Settings of one action. */
const SETTINGS: readonly string[] = ["style", ...SETTABLE.keys(), ...FEEL];

type Json = Record<string, unknown>;

/**
 * Applies a player's changes to a plan.
 * @throws PlanError if the plan itself cannot run
 */
export function applyOverrides(plan: Plan, overrides: Overrides): OverriddenPlan {
  parseOverrides(overrides);
  const base = resolvePlan(plan);
  return new Applier(plan, base, false).apply(overrides) ?? new Applier(plan, base, true).apply(overrides)!;
}

class Applier {
  private readonly faults: OverrideFault[] = [];
  /** The plan as changed so far: a copy whose actions are replaced one by one. */
  private raw: Plan;
  private readonly slots: readonly string[];
  private readonly lacking: Lacking;
  /** Actions by their former names. */
  private readonly renamed = new Map<string, string>();
  private readonly baseActions: ReadonlyMap<string, CheckedAction>;

  /** `isCareful`: read the whole plan after each change, not only at the end. */
  constructor(
    private readonly plan: Plan,
    private readonly base: CheckedPlan,
    private readonly isCareful: boolean,
  ) {
    this.raw = { ...plan, actions: { ...plan.actions } };
    this.lacking = lackingOf(plan);
    this.slots = base.slots.map(({ name }) => name);
    this.baseActions = new Map(base.actions.map((action) => [action.name, action]));
    for (const [name, { was = [] }] of Object.entries(plan.actions))
      for (const old of was) this.renamed.set(old, name);
  }

  /** `undefined` if the changes do not go together: then each has to be tried separately. */
  apply({ plan, controls = {}, settings = {} }: Overrides): OverriddenPlan | undefined {
    const name = this.plan.name ?? "";
    if (plan !== undefined && plan !== name) {
      this.reject("", ofAnother(plan, name));
      return this.result();
    }
    const whole = Object.entries(settings).filter(([address]) => !address.includes("."));
    for (const [address, value] of whole) this.wholeSetting(address, value);
    // Clearing comes last, so that a key moved between slots leaves no action bare on the way.
    const given = Object.entries(controls);
    const changes = given.filter(([, value]) => value !== null);
    // Entries of a list are cleared from the last, so that the others keep their numbers.
    const cleared = given.filter(([, value]) => value === null).map(([address]) => address);
    const listOf = (address: string) => address.split(".").slice(0, 2).join(".");
    for (const list of new Set(cleared.map(listOf)))
      for (const address of cleared
        .filter((one) => listOf(one) === list)
        .sort(byNumber)
        .reverse())
        changes.push([address, null]);
    for (const [address, value] of changes) this.control(address, value);
    // Settings of a slot come last: the narrower overrides the wider.
    const own = Object.entries(settings).filter(([address]) => address.includes("."));
    for (const isOfSlot of [false, true])
      for (const [address, value] of own)
        if ((this.feelOfSlot(address) !== undefined) === isOfSlot) this.setting(address, value);
    return this.result();
  }

  private result(): OverriddenPlan | undefined {
    const { raw, faults } = this;
    const read = readPlan(raw, true);
    if (!read.ok) return undefined;
    noteResolved(raw, read.plan);
    faults.push(...lostSticks(read.plan));
    return { plan: raw, faults };
  }

  private reject(place: string, message: string): void {
    this.faults.push({ place, message, what: "rejected" });
  }

  /** The action that an address begins with, by its present name. */
  private actionOf(
    address: string,
    place: string,
  ): { name: string; rest: string[]; action: Json } | undefined {
    const [first = "", ...rest] = address.split(".");
    const name = this.renamed.get(first) ?? first;
    if (!Object.hasOwn(this.plan.actions, name)) {
      this.reject(
        place,
        `the plan has no action ${JSON.stringify(first)}${didYouMean(first, Object.keys(this.plan.actions))}`,
      );
      return undefined;
    }
    const action = this.raw.actions[name] as unknown as Json;
    if (action["locked"] === true) {
      this.reject(place, `${name} is locked: the plan lets nobody change it`);
      return undefined;
    }
    return { name, rest, action };
  }

  private control(address: string, value: unknown): void {
    const place = `controls.${address}`;
    const found = this.actionOf(address, place);
    if (found === undefined) return;
    const { name, rest, action } = found;
    const player = action["player"] as PlayerFields | undefined;
    if (player?.controls === false) {
      this.reject(place, `the plan keeps the controls of ${name}`);
      return;
    }
    const [slot = "", ...part] = rest;
    if (!this.slots.includes(slot)) {
      this.reject(place, `there is no slot ${JSON.stringify(slot)}${didYouMean(slot, this.slots)}`);
      return;
    }
    const end = part.at(-1);
    if (end !== undefined && !/^\d+$/.test(end) && !ORDINALS.includes(end) && action["kind"] === "switch") {
      this.reject(place, `${name} is a switch, and has no ${end}`);
      return;
    }
    // The first part that is not a number: entries of a list have a number before it.
    const named = part.find((one) => !/^\d+$/.test(one));
    const ends: readonly string[] =
      action["kind"] === "vector" ? EACH : ((action["ends"] as string[] | undefined) ?? AXIS_ENDS);
    if (named !== undefined && action["kind"] !== "switch" && !ends.includes(named)) {
      this.reject(place, `the plan has nothing at this address${didYouMean(named, ends)}`);
      return;
    }
    const from = action["from"] as Json;
    const given = Object.hasOwn(from, slot) ? from[slot] : undefined;
    const changed = withControl(given, part, value);
    if (changed === undefined) {
      this.reject(place, "the plan has nothing at this address");
      return;
    }
    const others = without(from, slot);
    this.tryOn(
      name,
      { ...action, from: changed.entry === null ? others : { ...from, [slot]: changed.entry } },
      place,
    );
  }

  /** A setting of the whole plan. */
  private wholeSetting(address: string, value: unknown): void {
    const place = `settings.${address}`;
    const player = this.plan.player ?? {};
    const forbidden = "the plan does not let it be changed";
    if (address === "bounceMs") {
      if (typeof value !== "number" || !Number.isFinite(value)) this.reject(place, NO_NUMBER);
      else
        this.accept(
          { ...this.raw, bounceMs: this.within(value, player.bounceMs ?? BOUNCE_MS, place) },
          place,
        );
    } else if (address === "swapSticks") {
      if (player.swapSticks === false) this.reject(place, forbidden);
      else if (typeof value !== "boolean") this.reject(place, "it is true or false");
      else if (value) this.accept(withSticksSwapped(this.raw), place);
    } else if (address === "holds") {
      if (player.holds === false) this.reject(place, forbidden);
      else if (value !== "hold" && value !== "toggle") this.reject(place, noneOf(["hold", "toggle"]));
      else if (value === "toggle") this.accept(withToggles(this.raw), place);
    } else {
      const known = [...WHOLE_SETTINGS, ...Object.keys(this.plan.actions).map((name) => `${name}.`)];
      this.reject(place, `there is no setting ${address}${didYouMean(address, known)}`);
    }
  }

  /** Accepts a changed plan, if it can run. */
  private accept(raw: Plan, place: string): void {
    const read = readPlan(raw, true);
    if (!read.ok) {
      this.reject(place, inShort(read.findings));
      return;
    }
    this.raw = { ...raw, actions: { ...raw.actions } };
  }

  /** The slot and the setting of an address like `look.main.gain`. */
  private feelOfSlot(address: string): { readonly slot: string; readonly setting: string } | undefined {
    const [, slot = "", ...rest] = address.split(".");
    const setting = rest.join(".");
    return this.slots.includes(slot) && FEEL.includes(setting) ? { slot, setting } : undefined;
  }

  private setting(address: string, value: unknown): void {
    const place = `settings.${address}`;
    const found = this.actionOf(address, place);
    if (found === undefined) return;
    const { name, rest, action } = found;
    const { slot, setting } = this.feelOfSlot(address) ?? { slot: undefined, setting: rest.join(".") };
    if (!SETTINGS.includes(setting)) {
      const [first = "", ...others] = rest;
      const inSlot = others.join(".");
      const isFeel = FEEL.includes(inSlot);
      if (isFeel)
        this.reject(place, `there is no slot ${JSON.stringify(first)}${didYouMean(first, this.slots)}`);
      else if (this.slots.includes(first) && SETTINGS.includes(inSlot))
        this.reject(place, `${inSlot} is of the whole action, not of one slot; take ${name}.${inSlot}`);
      else this.reject(place, `there is no setting ${setting}${didYouMean(setting, SETTINGS)}`);
      return;
    }
    const player = (action["player"] ?? {}) as PlayerFields;
    if (setting === "style") this.style(name, action, player.style ?? STYLES, value, place);
    else if (setting === "invert") {
      if (player.invert !== true || !INVERTED.includes(value as string))
        this.reject(place, player.invert === true ? noneOf(INVERTED) : "the plan does not let it be changed");
      else this.feel(name, action, slot, setting, value, place);
    } else {
      const range = player[setting as "gapMs"];
      if (range === undefined) this.reject(place, "the plan does not let it be changed");
      else if (typeof value !== "number" || !Number.isFinite(value)) this.reject(place, NO_NUMBER);
      else {
        const allowed = this.within(value, range, place);
        if (FEEL.includes(setting)) this.feel(name, action, slot, setting, allowed, place);
        else {
          const changed = withSettable(action, setting, allowed) as Json | undefined;
          const { has } = SETTABLE.get(setting)!;
          if (changed !== undefined) this.tryOn(name, changed, place);
          else this.reject(place, `${name} has no ${has}, so there is no ${setting} to set`);
        }
      }
    }
  }

  /** How a stick or the mouse feels. */
  private feel(
    name: string,
    action: Json,
    slot: string | undefined,
    setting: string,
    value: unknown,
    place: string,
  ): void {
    const find = (name: string) => controlsOf(this.base).find(name);
    const changed = action["kind"] === "switch" ? undefined : withFeel(find, action, slot, setting, value);
    if (changed !== undefined) this.tryOn(name, changed, place);
    else {
      const where = slot === undefined ? name : `the slot ${slot} of ${name}`;
      this.reject(place, `${where} has no stick or mouse that takes ${setting}`);
    }
  }

  /** A protected control that a player has given to an action. */
  private guarded(action: CheckedAction): string | undefined {
    const { protected: guarded } = this.base;
    if (guarded.length === 0) return undefined;
    const own = bindingsOf(this.baseActions.get(action.name)!);
    const had = new Set(own.map(({ control }) => control.name));
    return bindingsOf(action).find(({ control: { name } }) => guarded.includes(name) && !had.has(name))
      ?.control.name;
  }

  private style(name: string, action: Json, allowed: readonly string[], value: unknown, place: string): void {
    if (action["kind"] !== "switch") this.reject(place, `${name} is no switch, and has no style`);
    else if (!allowed.includes(value as string)) this.reject(place, noneOf(allowed));
    // What a wider setting took along is the plan's: it may fit again.
    else this.tryOn(name, withStyle({ ...this.plan.actions[name], ...action }, value as Style), place);
  }

  private within(value: number, range: Range, place: string): number {
    const allowed = nearest(value, range);
    if (allowed !== value) this.faults.push({ place, message: outside(value, range), what: "clamped" });
    return allowed;
  }

  /** Accepts a changed action, if the plan can run with it and no required action is left bare. */
  private tryOn(name: string, action: Json, place: string): void {
    const read = readPlan(this.withAction(name, action), true);
    if (!read.ok) {
      // An invalid control leaves it bare as well, but is reported as itself.
      const isBare = read.findings.every(({ id }) => id !== "unknown-control" && id !== "wrong-control");
      const bare = isBare && read.findings.some(({ id }) => id === "required-bare");
      this.reject(place, bare ? `${name} is required; this would leave it bare` : inShort(read.findings));
      return;
    }
    const changed = read.plan.actions.find((one) => one.name === name)!;
    const lacking = this.lacking(changed);
    if (lacking !== undefined) {
      this.reject(place, `this game was built without ${lacking}`);
      return;
    }
    const guarded = this.guarded(changed);
    if (guarded !== undefined) {
      this.reject(place, `${guarded} is protected: the plan lets nobody use it for anything else`);
      return;
    }
    const missing = (this.plan.actions[name] as { required?: boolean }).required
      ? missingControls(changed)
      : undefined;
    if (missing !== undefined) this.reject(place, `${name} is required, and would have ${missing}`);
    else (this.raw.actions as Record<string, unknown>)[name] = action;
  }

  /** The plan with one action changed; if the whole plan is read later, the others are reduced to what it may name of them. */
  private withAction(name: string, action: Json): Plan {
    const { actions } = this.raw;
    if (this.isCareful) return { ...this.raw, actions: { ...actions, [name]: action } } as unknown as Plan;
    const others = [...namesIn(action)].filter((other) => other !== name && Object.hasOwn(actions, other));
    const stubs = others.map((other) => [other, stubOf(actions[other] as unknown as Json)]);
    const slots = Object.fromEntries(this.slots.map((slot) => [slot, {}]));
    const mini = { ...this.raw, slots, actions: { ...Object.fromEntries(stubs), [name]: action } };
    return mini as unknown as Plan;
  }
}

/** What other actions may name of an action: its kind, and the names of its ends. */
function stubOf({ kind, ends }: Json): Json {
  return { kind, from: {}, ...(ends !== undefined && { ends }) };
}

/** The actions that an action may refer to: in its sources, and in its conditions. */
function namesIn(value: unknown, found = new Set<string>()): Set<string> {
  if (typeof value === "string") {
    const name = value.replace(/^not /, "").trim();
    found.add(name).add(name.split(".")[0]!);
  }
  if (typeof value === "object" && value !== null)
    for (const one of Object.values(value)) namesIn(one, found);
  return found;
}

function inShort(findings: readonly Finding[]): string {
  return findings[0]!.message;
}

function byNumber(a: string, b: string): number {
  return a.localeCompare(b, "en", { numeric: true });
}
