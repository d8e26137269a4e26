/**
 * One change of a player's keys. In: a plan, the player's overrides, an address and the new control. Out:
 * the overrides after it, or who else uses the control. Nothing changes while the player has yet to choose.
 */
import { mustBeText } from "../plan/arguments.js";
import type { CheckedPlan } from "../plan/checked.js";
import { areStages, beginApart, mayBeLiveTogether, type Binding } from "../plan/checks/bindings.js";
import { browserKey } from "../plan/checks/devices.js";
import { ORDINALS } from "../plan/names.js";
import { resolvePlan } from "../plan/resolve.js";
import { placesOf } from "./places.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import { parseOverrides, type OverrideFault, type Overrides } from "../plan/players/overrides.js";
import { applyOverrides } from "../plan/players/applyOverrides.js";
import type { Plan } from "../plan/types.js";

/** What to do where the control is used already: exchange the two, take it, let both have it, or change nothing. */
export type Choice = "swap" | "take" | "both" | "refuse";

/** Another use of a control, of an action that can be live at the same time. */
export interface Clash {
  readonly action: string;
  /** Where: `snip.main`. */
  readonly address: string;
  readonly control: string;
  /** Whether another player has it. */
  readonly otherSeat: boolean;
}

/** The result of a change. */
export interface Rebinding {
  /** The overrides after the change; unchanged if it was not made. */
  readonly overrides: Overrides;
  readonly changed: boolean;
  readonly clashes: readonly Clash[];
  /** Why it was not made, if no choice would help: no such address, a required action left bare. */
  readonly fault?: OverrideFault;
}

/**
 * Puts a control at an address (`null`: clears it).
 * @throws PlanError if the plan cannot run
 */
export function rebind(
  plan: Plan,
  overrides: Overrides,
  address: string,
  control: string | null,
  choice: Choice = "refuse",
): Rebinding {
  mustBeText(address, "address");
  if (control !== null) mustBeText(control, "control");
  if (!["swap", "take", "both", "refuse"].includes(choice))
    throw new ReacherError(`${shown(choice)} is no choice; it is swap, take, both or refuse`);

  const before = applyOverrides(plan, overrides);
  // An earlier fault here is checked again.
  const elsewhere = before.faults
    .map(({ place }) => place)
    .filter((place) => place !== `controls.${address}`);
  const known = new Set(elsewhere);
  const tried = applyOverrides(plan, withControls(overrides, [[address, control]]));
  const fault = tried.faults.find(({ place }) => !known.has(place));
  if (fault !== undefined) return { overrides, changed: false, clashes: [], fault };

  const taken = control === null ? undefined : takenKey(before.plan, address, control);
  if (taken !== undefined) return { overrides, changed: false, clashes: [], fault: taken };
  const clashes = control === null ? [] : clashesAt(tried.plan, address);
  if (clashes.length > 0 && choice === "refuse") return { overrides, changed: false, clashes };
  const crowded = choice === "both" ? notForBoth(plan, address, clashes) : undefined;
  if (crowded !== undefined) return { overrides, changed: false, clashes, fault: crowded };
  const changes: [string, string | null][] = [[address, control]];
  if (choice !== "both") {
    const was = controlAt(before.plan, address);
    // Of several that use it, only one can get the control from here; the others are cleared.
    clashes.forEach((clash, n) => changes.push([clash.address, choice === "swap" && n === 0 ? was : null]));
  }
  const after = withControls(overrides, changes);
  const left = applyOverrides(plan, after).faults.find(({ place }) => !known.has(place));
  if (left !== undefined) return { overrides, changed: false, clashes, fault: left };
  return { overrides: onlyDifferences(plan, after), changed: true, clashes };
}

/** What a player can choose for a control that others use already; `refuse`, which is always possible, is left out. */
export function choicesFor(plan: Plan, overrides: Overrides, address: string, control: string): Choice[] {
  return (["swap", "take", "both"] as const).filter(
    (choice) => rebind(plan, overrides, address, control, choice).changed,
  );
}

/** A key that the browser or the system takes from every page; a plan that uses it anyway does so on purpose. */
function takenKey(plan: Plan, address: string, control: string): OverrideFault | undefined {
  const why = browserKey(control);
  if (why === undefined || placed(plan).all.some((one) => one.control.name === control)) return undefined;
  return { place: `controls.${address}`, message: `${control} ${why}; take another key`, what: "rejected" };
}

/** Why one press cannot do all of these things. */
function notForBoth(plan: Plan, address: string, clashes: readonly Clash[]): OverrideFault | undefined {
  const place = `controls.${address}`;
  const names = [...new Set(clashes.map(({ action }) => action))];
  const own = address.split(".")[0]!;
  const alone = [own, ...names].find((name) => plan.actions[name]?.player?.both === false);
  if (alone !== undefined)
    return { place, message: `the plan lets ${alone} share its control with nothing`, what: "rejected" };
  if (names.length < 2) return undefined;
  return {
    place,
    message: `${names.join(" and ")} have it already, and one press does two things at most`,
    what: "rejected",
  };
}

/** Back to what the plan says: one address, all of one action, one slot (`*.main`), or everything (`*`). */
export function resetTo(overrides: Overrides, what: string): Overrides {
  parseOverrides(overrides);
  mustBeText(what, "address");

  const [action, slot] = what.split(".");
  const gone = (address: string) => {
    const [own, at] = address.split(".");
    return (
      what === address ||
      ((action === "*" || action === own) && (slot === undefined || (slot === at && action === "*")))
    );
  };
  const kept = (part: Readonly<Record<string, unknown>> | undefined) =>
    Object.fromEntries(Object.entries(part ?? {}).filter(([address]) => !gone(address)));
  return { ...overrides, controls: kept(overrides.controls), settings: kept(overrides.settings) };
}

function withControls(
  overrides: Overrides,
  changes: readonly (readonly [string, string | null])[],
): Overrides {
  return { ...overrides, controls: { ...overrides.controls, ...Object.fromEntries(changes) } };
}

/** Overrides hold only what differs from the plan. */
function onlyDifferences(plan: Plan, overrides: Overrides): Overrides {
  const whole = Object.entries(overrides.settings ?? {}).filter(([address]) => !address.includes("."));
  const { plan: base } = applyOverrides(plan, { reacherOverrides: 1, settings: Object.fromEntries(whole) });
  const controls = Object.entries(overrides.controls ?? {}).filter(
    ([address, control]) => typeof control !== "string" || controlAt(base, address) !== control,
  );
  return { ...overrides, controls: Object.fromEntries(controls) };
}

interface Placed extends Binding {
  readonly action: CheckedPlan["actions"][number];
  /** The plan's order. */
  number: number;
}

/** All places of a plan, by what is asked of them. */
interface Places {
  readonly all: readonly Placed[];
  readonly byAddress: ReadonlyMap<string, Placed>;
  /** The last member of each chord and series. */
  readonly byGesture: ReadonlyMap<string, Placed>;
  /** By each part of their controls: a stick as a whole meets its halves. */
  readonly byPart: ReadonlyMap<string, readonly Placed[]>;
}

const placesOfPlan = new WeakMap<CheckedPlan, Places>();

function placed(written: Plan): Places {
  const plan = resolvePlan(written);
  let places = placesOfPlan.get(plan);
  if (places === undefined) {
    const all = plan.actions.flatMap((action) =>
      placesOf(action).map((binding) => ({ ...binding, action, number: 0 })),
    );
    placesOfPlan.set(plan, (places = sorted(all)));
  }
  return places;
}

function sorted(all: Placed[]): Places {
  const byAddress = new Map<string, Placed>();
  const byGesture = new Map<string, Placed>();
  const byPart = new Map<string, Placed[]>();
  all.forEach((one, number) => {
    one.number = number;
    const address = addressIn(one.address);
    if (!byAddress.has(address)) byAddress.set(address, one);
    const dot = address.lastIndexOf(".");
    if (ORDINALS.includes(address.slice(dot + 1))) byGesture.set(address.slice(0, dot), one);
    for (const part of one.control.parts) {
      const sharing = byPart.get(part);
      if (sharing === undefined) byPart.set(part, [one]);
      else sharing.push(one);
    }
  });
  return { all, byAddress, byGesture, byPart };
}

/** The control at an address, `null` where there is none. */
export function controlAt(plan: Plan, address: string): string | null {
  mustBeText(address, "address");

  return at(placed(plan), address)?.control.name ?? null;
}

/** The address in its shortest form: the first entry of a list needs no number. */
export function addressIn(address: string): string {
  return address.replace(/^([^.]+\.[^.]+)\.0(?=\.|$)/, "$1");
}

/** The first entry of a list is named without its number as well, and a chord or a series by its last member. */
function at({ byAddress, byGesture }: Places, address: string): Placed | undefined {
  const wanted = addressIn(address);
  return byAddress.get(wanted) ?? byGesture.get(wanted);
}

/** Whether one press triggers both: in the same way, or directly for one switch while it begins a gesture of another. */
function fireTogether(one: Placed, other: Placed): boolean {
  if (areStages(one, other)) return false;
  if (one.pattern === other.pattern) return true;
  const [plain, gesture] = one.pattern === "press" ? [one, other] : [other, one];
  // A chord takes its press and a series shares it; a movement works beside any gesture; a waiting press is let through or claimed.
  return plain.plain && plain.action.kind === "switch" && /^(taps|short|long)/.test(gesture.pattern);
}

/** The other uses of the control at this address, in the same way, while both can be live. */
export function clashesAt(written: Plan, address: string): Clash[] {
  const plan = resolvePlan(written);
  const all = placed(written);
  const mine = at(all, address);
  if (mine === undefined) return [];
  const { parts } = mine.control;
  const seatsOf = (slot: string) => plan.seats.filter(({ slots }) => slots.includes(slot));
  const sharing = [...new Set(parts.flatMap((part) => all.byPart.get(part) ?? []))];
  sharing.sort((one, other) => one.number - other.number);
  return sharing.flatMap((other): Clash[] => {
    const same = other.action === mine.action && (other.end === mine.end || other.address === mine.address);
    if (mine.plain && other.plain && beginApart(plan, mine.action, other.action)) return [];
    if (!fireTogether(mine, other) || same || !mayBeLiveTogether(plan, mine.action, other.action)) return [];
    const together = seatsOf(mine.slot).some((seat) => seatsOf(other.slot).includes(seat));
    // Each player has a pad of their own.
    if (!together && other.control.device === "pad") return [];
    return [
      {
        action: other.action.name,
        address: other.address,
        control: other.control.name,
        otherSeat: !together,
      },
    ];
  });
}
