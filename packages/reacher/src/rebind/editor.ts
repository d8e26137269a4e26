/**
 * An editor of a player's changes. In: one change after another. Out: the present overrides, and the
 * plan with them. May change: those, and the undo list.
 */
import { mustBeObject, mustBeOptions, mustBeText, mustBeTruth, mustCall } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import { parseOverrides, type OverrideFault, type Overrides } from "../plan/players/overrides.js";
import { applyOverrides } from "../plan/players/applyOverrides.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { callEach } from "../layer/calling.js";
import { missingAddresses, unpromised } from "./missing.js";
import { addressIn, clashesAt, rebind, resetTo, type Choice, type Clash, type Rebinding } from "./rebind.js";

/** How many changes can be undone. */
const MOST_UNDONE = 100;

/** An editor of a player's changes. */
export interface OverridesEditor {
  /** Only what differs from the plan; changes that did not fit are included, so that saving loses nothing. */
  readonly overrides: Overrides;
  /** The player's own plan. */
  readonly plan: Plan;
  /** What is changed: the plan as it was given; of a draft without its promises. For `bindingRows`. */
  readonly base: Plan;
  /** The overrides that do not fit the plan. */
  readonly faults: readonly OverrideFault[];
  /** How many changes can be undone. */
  readonly undoable: number;
  /** In a draft: the addresses of required actions that have no control now, and need one. */
  readonly missing: readonly string[];
  /** Whether nothing is missing, so that the player may leave. */
  readonly finished: boolean;
  /** Puts a control at an address. A clash is reported, and changes nothing until `choice` says what to do. */
  rebind(address: string, control: string, choice?: Choice): Rebinding;
  /** Leaves an address without a control. A required action is never left bare, but in a draft. */
  clear(address: string): Rebinding;
  /**
   * Changes a setting (`kick.style`, `bounceMs`); `undefined` is the plan's own. A value that is not allowed changes nothing.
   * Several changes of one setting in a row, as of a slider, are undone together.
   */
  set(address: string, value: unknown): OverrideFault | undefined;
  /**
   * Several settings and controls in one change: a preset. What does not fit is in `faults`, the rest is applied. Clashes of its controls with others are
   * reported, and change nothing until `choice` says what to do: `take` clears the others, `both` leaves them.
   */
  merge(
    changes: Pick<Overrides, "controls" | "settings">,
    choice?: "take" | "both" | "refuse",
  ): Omit<Rebinding, "fault"> & { readonly faults: readonly OverrideFault[] };
  /** Back to what the plan says: one address, an action, a slot (`*.main`), all (`*`). */
  reset(what: string): void;
  /** Replaces all overrides: by an imported file, another player's. It can be undone. @throws ReacherError if they are not overrides */
  replace(overrides: unknown): readonly OverrideFault[];
  /** Undoes the last change. False if there is none. */
  undo(): boolean;
  /** Calls `fn` after each change. Returns a function that stops it. */
  onChange(fn: (overrides: Overrides) => void): () => void;
}

/**
 * Begins to change a player's overrides. In a `draft` required keys may be cleared on the way: `missing` says what lacks one, and a layer
 * that is given an unfinished draft (`setOverrides`) keeps the plan's own keys there and reports it.
 * @throws PlanError if the plan cannot run
 * @throws ReacherError if `overrides` are not overrides
 */
export function editOverrides(
  plan: Plan,
  overrides?: unknown,
  options: { readonly draft?: boolean } = {},
): OverridesEditor {
  resolvePlan(plan);
  mustBeOptions(options);
  const { draft = false } = options;
  mustBeTruth(draft, "draft");
  return new Editor(plan, overrides === undefined ? bare(plan) : parseOverrides(overrides), draft);
}

/** Overrides that change nothing, for this plan. */
export function bare(plan: Plan): Overrides {
  return {
    reacherOverrides: 1,
    ...(plan.name === undefined ? {} : { plan: plan.name }),
    ...(plan.version === undefined ? {} : { planVersion: plan.version }),
    controls: {},
    settings: {},
  };
}

/** The same overrides by the plan's present names and version: addresses of renamed actions (`was`) are rewritten. */
export function upToDate(plan: Plan, overrides: Overrides): Overrides {
  resolvePlan(plan);
  parseOverrides(overrides);

  const names = new Map(
    Object.entries(plan.actions).flatMap(([name, { was = [] }]) => was.map((old) => [old, name] as const)),
  );
  const renamed = (part: Readonly<Record<string, unknown>> | undefined) => {
    const entries = Object.entries(part ?? {});
    const own = new Set(entries.map(([address]) => address));
    return Object.fromEntries(
      entries.flatMap(([address, value]) => {
        const [action = "", ...rest] = address.split(".");
        const now = rest.length > 0 ? names.get(action) : undefined;
        if (now === undefined) return [[address, value]];
        const at = [now, ...rest].join(".");
        // If both the old and the new name occur, the new one counts.
        return own.has(at) ? [] : [[at, value]];
      }),
    );
  };
  const { name, version } = plan;
  const ours = overrides.plan === undefined || overrides.plan === name;
  if (!ours) return overrides;
  return {
    ...overrides,
    ...(version === undefined ? {} : { planVersion: version }),
    ...(overrides.controls === undefined ? {} : { controls: renamed(overrides.controls) }),
    ...(overrides.settings === undefined ? {} : { settings: renamed(overrides.settings) }),
  };
}

class Editor implements OverridesEditor {
  overrides: Overrides;
  plan!: Plan;
  faults!: readonly OverrideFault[];
  private readonly past: Overrides[] = [];
  /** The setting that was changed last. */
  private lastSet: string | undefined;
  private readonly listeners = new Set<(overrides: Overrides) => void>();
  /** The plan that is changed: of a draft nothing is required. */
  readonly base: Plan;

  constructor(
    private readonly promised: Plan,
    overrides: Overrides,
    isDraft: boolean,
  ) {
    this.base = isDraft ? unpromised(promised) : promised;
    this.overrides = upToDate(promised, overrides);
    this.apply();
  }

  get missing(): readonly string[] {
    return this.base === this.promised ? [] : missingAddresses(this.promised, this.plan);
  }

  get finished(): boolean {
    return this.missing.length === 0;
  }

  get undoable(): number {
    return this.past.length;
  }

  rebind(address: string, control: string, choice?: Choice): Rebinding {
    return this.adopt(rebind(this.base, this.overrides, address, control, choice));
  }

  clear(address: string): Rebinding {
    return this.adopt(rebind(this.base, this.overrides, address, null));
  }

  private adopt(result: Rebinding): Rebinding {
    if (result.changed) this.become(result.overrides);
    return result;
  }

  set(address: string, value: unknown): OverrideFault | undefined {
    mustBeText(address, "address of a setting");

    const others = Object.entries(this.overrides.settings ?? {}).filter(([at]) => at !== address);
    const settings = Object.fromEntries(value === undefined ? others : [...others, [address, value]]);
    const after = { ...this.overrides, settings };
    const fault = applyOverrides(this.base, after).faults.find(
      ({ place }) => place === `settings.${address}`,
    );
    // Dragging a slider is one change.
    if (fault === undefined) this.become(after, address);
    return fault;
  }

  merge(
    changes: Pick<Overrides, "controls" | "settings">,
    choice: "take" | "both" | "refuse" = "refuse",
  ): Omit<Rebinding, "fault"> & { readonly faults: readonly OverrideFault[] } {
    mustBeObject(changes, "change; give { controls, settings }");
    if (!["take", "both", "refuse"].includes(choice))
      throw new ReacherError(`${shown(choice)} is no choice for a preset; it is take, both or refuse`);
    const { controls, settings } = parseOverrides({ ...changes, reacherOverrides: 1 });
    const { overrides } = this;
    const given = {
      ...overrides,
      controls: { ...overrides.controls, ...controls },
      settings: { ...overrides.settings, ...settings },
    };
    const { faults, fitting } = this.fittingOf(given);
    const clashes = this.newClashes(fitting, Object.keys(controls ?? {}));
    if (clashes.length > 0 && choice === "refuse") return { overrides, changed: false, clashes, faults };
    const cleared = choice === "take" ? clashes.map(({ address }) => [address, null] as const) : [];
    const after = this.fittingOf({
      ...fitting,
      controls: { ...fitting.controls, ...Object.fromEntries(cleared) },
    });
    this.become(after.fitting);
    const isOther = this.overrides !== overrides;
    return { overrides: this.overrides, changed: isOther, clashes, faults: [...faults, ...after.faults] };
  }

  /** The overrides without what does not fit, and that. */
  private fittingOf(after: Overrides): { faults: readonly OverrideFault[]; fitting: Overrides } {
    const faults = applyOverrides(this.base, after).faults.filter(
      ({ place, what }) => what === "rejected" && !this.faults.some((known) => known.place === place),
    );
    const misfits = new Set(faults.map(({ place }) => place));
    const fits = (part: "controls" | "settings") =>
      Object.fromEntries(Object.entries(after[part] ?? {}).filter(([at]) => !misfits.has(`${part}.${at}`)));
    return { faults, fitting: { ...after, controls: fits("controls"), settings: fits("settings") } };
  }

  /** Who else has one of these controls with these overrides, and did not have it before; not what is changed itself. */
  private newClashes(after: Overrides, changed: readonly string[]): Clash[] {
    const { plan } = applyOverrides(this.base, after);
    const own = new Set(changed.map(addressIn));
    const known = new Set(changed.flatMap((address) => clashesAt(this.plan, address)).map(keyOfClash));
    const found = new Map<string, Clash>();
    for (const address of changed)
      for (const clash of clashesAt(plan, address))
        if (!own.has(addressIn(clash.address)) && !known.has(keyOfClash(clash)))
          found.set(keyOfClash(clash), clash);
    return [...found.values()];
  }

  reset(what: string): void {
    this.become(resetTo(this.overrides, what));
  }

  replace(overrides: unknown): readonly OverrideFault[] {
    this.become(upToDate(this.base, parseOverrides(overrides)));
    return this.faults;
  }

  undo(): boolean {
    const before = this.past.pop();
    if (before === undefined) return false;
    this.lastSet = undefined;
    this.overrides = before;
    this.apply();
    this.tell();
    return true;
  }

  onChange(fn: (overrides: Overrides) => void): () => void {
    mustCall(fn, "onChange(fn)");

    this.listeners.add(fn);
    return () => void this.listeners.delete(fn);
  }

  private become(after: Overrides, setting?: string): void {
    if (JSON.stringify(after) === JSON.stringify(this.overrides)) return;
    if (setting === undefined || setting !== this.lastSet) this.past.push(this.overrides);
    this.lastSet = setting;
    if (this.past.length > MOST_UNDONE) this.past.shift();
    this.overrides = after;
    this.apply();
    this.tell();
  }

  private apply(): void {
    ({ plan: this.plan, faults: this.faults } = applyOverrides(this.base, this.overrides));
  }

  private tell(): void {
    callEach(this.listeners, (fn) => fn(this.overrides));
  }
}

function keyOfClash({ address, control }: Clash): string {
  return `${address} ${control}`;
}
