/** Bindings: the controls of actions, as the rules of `check` compare them. In: actions. Out: bindings. Pure. */
import type { Control } from "../../controls/catalogue.js";
import type { CheckedAction, CheckedPlan, CheckedSwitch, Word } from "../checked.js";
import { languageOf } from "../gestures/index.js";
import { ORDINALS } from "../names.js";

/** One control at one address. */
export interface Binding {
  /** Whether every press of it counts at once: no gesture, and nothing that waits for one. */
  readonly plain: boolean;
  /** What the hand does: `press`, or a gesture. Two of one pattern on one control fire together. */
  readonly pattern: string;
  /** Whether it is to be pressed several times in a row. */
  readonly tapped?: boolean;
  readonly place: string;
  /** Its address in a player's changes: `swim.main.up`, `flash.pad.first`. */
  readonly address: string;
  readonly slot: string;
  readonly control: Control;
  /** Which end of a movement it is, where it is one. */
  readonly end?: string;
  /** Of a control that has a value: from where on it is pressed, 0..1. */
  readonly press?: number;
}

/** Whether they are two stages of one control, as of a trigger pulled half and all the way: each has a press of its own. */
export function areStages(
  one: { readonly press?: number | undefined },
  other: { readonly press?: number | undefined },
): boolean {
  return one.press !== undefined && other.press !== undefined && one.press !== other.press;
}

/**
 * Whether no press can begin both, since one asks for what the other forbids: a jump on the ground, a glide in the air. The conditions are read at
 * the press, one action after the other: what this press may change in between keeps nothing apart.
 */
export function beginApart(plan: CheckedPlan, one: CheckedAction, other: CheckedAction): boolean {
  if (!hasOneChance(one) || !hasOneChance(other)) return false;
  const conditions = ({ needs, beginsIf }: CheckedSwitch) => [...needs, ...beginsIf];
  const opposites = conditions(one).filter((mine) =>
    conditions(other).some(({ name, not }) => name === mine.name && not !== mine.not),
  );
  return (
    seesBegin(plan, one, other) ||
    seesBegin(plan, other, one) ||
    opposites.some(({ name }) =>
      switchesOf(plan).every((action) => action.name !== name && !action.spends.includes(name)),
    )
  );
}

/** Whether a press that cannot begin it at once never does. */
function hasOneChance(action: CheckedAction): action is CheckedSwitch {
  if (action.kind !== "switch") return false;
  const { style, needs, resume, bufferMs, carry } = action;
  return style === "hold" && bufferMs === 0 && !carry && (needs.length === 0 || resume === false);
}

/** Whether it does not begin once the rival has: what it needs comes before it; else the plan's order holds, unless another needs it earlier. */
function seesBegin(plan: CheckedPlan, action: CheckedSwitch, rival: CheckedSwitch): boolean {
  const refuses = ({ name, not }: Word) => not && name === rival.name;
  if (action.needs.some(refuses)) return true;
  return (
    action.beginsIf.some(refuses) &&
    plan.actions.indexOf(rival) < plan.actions.indexOf(action) &&
    switchesOf(plan).every(({ needs }) => needs.every(({ name }) => name !== action.name))
  );
}

const switchesOf = ({ actions }: CheckedPlan) => actions.filter((action) => action.kind === "switch");

const WITH_VALUE = ["trigger", "axis", "half"];

export function bindingsOf(action: CheckedAction): Binding[] {
  const bind = (address: string, slot: string, control: Control, plain: boolean, end?: string): Binding => {
    const [, ...rest] = address.split(".");
    const place = `actions.${action.name}.from.${rest.join(".")}`;
    return { place, address, slot, control, plain, pattern: "press", ...(end === undefined ? {} : { end }) };
  };
  if (action.kind === "switch") {
    return action.entries.flatMap((entry) => {
      const plain = entry.kind === "plain" && !entry.waits;
      const language = languageOf(entry);
      const tapped = language.isTapped === true;
      const pattern = language.pattern(entry as never);
      const many = language.words.joint !== undefined;
      return entry.of.flatMap((source, n) => {
        if (!("control" in source)) return [];
        const bound = bind(entry.address, entry.slot, source.control, plain);
        return [
          {
            ...bound,
            pattern,
            tapped,
            address: many ? `${entry.address}.${ORDINALS[n]}` : entry.address,
            ...(WITH_VALUE.includes(source.control.family) && { press: source.press }),
          },
        ];
      });
    });
  }
  if (action.kind === "turn")
    return [...action.mice, ...action.sticks].map(({ address, slot, control }) =>
      bind(address, slot, control, true),
    );
  return [
    ...action.ends.map(({ address, slot, control, end }) => bind(address, slot, control, true, end)),
    ...action.sticks.map(({ address, slot, control }) => bind(address, slot, control, true)),
  ];
}

export function isUnbound(action: CheckedAction): boolean {
  if (action.kind === "switch") return action.entries.length === 0;
  const others = action.kind === "turn" ? action.mice : action.ends;
  return others.length === 0 && action.sticks.length === 0;
}

/** Whether two actions can be live at the same time. A mode that covers all is above or below others, never beside them. */
export function canBeLiveTogether(action: CheckedAction, other: CheckedAction): boolean {
  return action.in.length === 0 || other.in.length === 0 || action.in.some((mode) => other.in.includes(mode));
}

/** The same, if a mode that covers nothing may be above another one. */
export function mayBeLiveTogether(plan: CheckedPlan, action: CheckedAction, other: CheckedAction): boolean {
  const open = new Set(plan.modes.filter(({ covers }) => covers === "none").map(({ name }) => name));
  return (
    canBeLiveTogether(action, other) ||
    action.in.some((mode) => open.has(mode)) ||
    other.in.some((mode) => open.has(mode))
  );
}
