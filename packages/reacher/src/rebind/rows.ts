/**
 * A player's keys as the table of a settings screen: a row for each action, a column for each slot. In: a plan and overrides.
 * Out: the control at each address, what was changed, and clashes. Pure.
 */
import { mustBeList, mustCall } from "../plan/arguments.js";
import { placeLabel } from "../controls/labels.js";
import { controlsOf } from "../controls/ownControls.js";
import type { CheckedAction } from "../plan/checked.js";
import { languageOf } from "../plan/gestures/index.js";
import { ORDINALS } from "../plan/names.js";
import { type Overrides } from "../plan/players/overrides.js";
import { applyOverrides } from "../plan/players/applyOverrides.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { placesOf } from "./places.js";
import { addressIn, clashesAt, type Clash } from "./rebind.js";
import { textOf, waysOf, type LabelOf } from "./words.js";

/** One place for a control. */
export interface Cell {
  /** What `rebind` and `capture` take: `swim.main.up`. */
  readonly address: string;
  /** Of a direction, an end or a member: which (`up`, `minus`, `first`). */
  readonly part: string | undefined;
  /** What joins it to the cell before it: `or` another way, `+` held together with it, `then` pressed after it; else empty. */
  readonly joint: "" | "or" | "+" | "then";
  /** The control there, `null` if there is none. */
  readonly control: string | null;
  /** The same in words, including its gesture: "double tap D". Empty if there is none. */
  readonly text: string;
  /** Whether a control can be put here: a double tap in any direction has no key of its own. */
  readonly bindable: boolean;
  /** Whether it differs from the plan. */
  readonly changed: boolean;
  /** Other uses of the control while both can be live. */
  readonly clashes: readonly Clash[];
}

/** An action with its places. */
export interface Row {
  readonly action: string;
  readonly label: string;
  readonly kind: CheckedAction["kind"];
  /** Whether the plan lets players change nothing of its controls. */
  readonly locked: boolean;
  readonly required: boolean;
  /** By slot, in the plan's order. An empty slot has one cell, or one for each direction where it is for keys. */
  readonly slots: readonly { readonly slot: string; readonly cells: readonly Cell[] }[];
}

/**
 * The table of a plan with a player's overrides.
 * @param slots the columns. @default all of the plan
 * @throws PlanError if the plan cannot run
 */
export function bindingRows(
  plan: Plan,
  overrides: Overrides,
  labelOf: LabelOf = placeLabel,
  slots?: readonly string[],
): Row[] {
  mustCall(labelOf, "labelOf");
  if (slots !== undefined) mustBeList(slots, "slots");

  const { plan: own } = applyOverrides(plan, overrides);
  const changed = new Set(Object.keys(overrides.controls ?? {}).map(addressIn));
  const resolved = resolvePlan(own);
  const known = controlsOf(resolved);
  const named: LabelOf = (control) => known.labelOf(control, labelOf);
  const columns = resolved.slots.filter(({ name }) => slots === undefined || slots.includes(name));
  return resolved.actions.map((action): Row => {
    const { locked = false, required = false, player } = plan.actions[action.name]!;
    return {
      action: action.name,
      label: action.label,
      kind: action.kind,
      locked: locked || player?.controls === false,
      required,
      slots: columns.map(({ name: slot }) => ({
        slot,
        cells: cellsOf(own, action, slot, changed, named),
      })),
    };
  });
}

function cellsOf(
  plan: Plan,
  action: CheckedAction,
  slot: string,
  changed: ReadonlySet<string>,
  labelOf: LabelOf,
): Cell[] {
  const bindings = placesOf(action).filter((one) => one.slot === slot);
  const ways = waysOf(resolvePlan(plan), action, [slot], labelOf);
  const cell = (
    address: string,
    part: string | undefined,
    control: string | null,
    text: string,
    joint: Cell["joint"] = "",
  ): Cell => ({
    address,
    part,
    joint,
    control,
    text,
    bindable: bindable(action, text, control),
    changed: changed.has(addressIn(address)),
    clashes: control === null ? [] : clashesAt(plan, address),
  });
  if (action.kind === "switch") {
    const cells = ways.flatMap((way, number) => {
      const or = number === 0 ? "" : "or";
      const isMember = (address: string) =>
        address.startsWith(`${way.address}.`) && ORDINALS.includes(address.slice(way.address.length + 1));
      const members = bindings.filter(({ address }) => address === way.address || isMember(address));
      if (members.length === 0) return [cell(way.address, undefined, null, textOf(way.parts), or)];
      const entry = action.entries.find(({ address }) => address === way.address)!;
      const joint = languageOf(entry).words.joint ?? "";
      // A gesture of several controls has a cell for each, the whole of it in words on the first.
      return members.map(({ address, control }, n) =>
        cell(
          address,
          members.length > 1 ? address.split(".").at(-1) : undefined,
          control.name,
          n === 0 ? textOf(way.parts) : "",
          n === 0 ? or : joint,
        ),
      );
    });
    return cells.length > 0 ? cells : [cell(`${action.name}.${slot}`, undefined, null, "")];
  }
  const whole = bindings.filter(({ end }) => end === undefined);
  const sticks = whole.map(({ address, control }) =>
    cell(address, undefined, control.name, labelOf(control.name)),
  );
  const device = resolvePlan(plan).slots.find(({ name }) => name === slot)!.device;
  const hasEnds = bindings.length > whole.length || (whole.length === 0 && device !== "pad");
  if (action.kind === "turn" || !hasEnds)
    return sticks.length > 0 ? sticks : [cell(`${action.name}.${slot}`, undefined, null, "")];
  const ends = action.endNames.map((end) => {
    const found = bindings.find((one) => one.end === end);
    const label = found === undefined ? "" : labelOf(found.control.name);
    return cell(found?.address ?? `${action.name}.${slot}.${end}`, end, found?.control.name ?? null, label);
  });
  return [...ends, ...sticks];
}

/** A gesture on a direction has no control of its own; the mouse as a whole cannot be pressed. */
function bindable(action: CheckedAction, text: string, control: string | null): boolean {
  if (control === null) return text === "" && action.kind !== "turn";
  return !/^Mouse(Move|Point)/.test(control);
}
