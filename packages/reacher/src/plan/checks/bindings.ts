/** Bindings: the controls of actions, as the rules of `check` compare them. In: actions. Out: bindings. Pure. */
import type { Control } from "../../controls/catalogue.js";
import type { CheckedAction, CheckedPlan, CheckedSwitch } from "../checked.js";
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
 * Whether no press can begin both, since one asks for what the other forbids: a jump on the ground, a glide in the air. Asked once, at the press: what
 * resumes or is buffered may still begin later in the same press, and what is spent is gone for the other.
 */
export function beginApart(plan: CheckedPlan, one: CheckedAction, other: CheckedAction): boolean {
  if (one.kind !== "switch" || other.kind !== "switch" || !isOneChance(one) || !isOneChance(other))
    return false;
  const used = [...one.spends, ...other.spends];
  const rank = (action: CheckedAction) => plan.actions.indexOf(action);
  /** `beginsIf` asks for what stands at its turn: one that comes first does not know of the other. */
  const forbids = (action: CheckedSwitch, rival: CheckedSwitch) =>
    [...action.needs, ...(rank(rival) < rank(action) ? action.beginsIf : [])].some(
      ({ name, not }) => not && name === rival.name,
    );
  const asked = (action: CheckedSwitch) => [...action.needs, ...action.beginsIf];
  return (
    forbids(one, other) ||
    forbids(other, one) ||
    asked(one).some((mine) =>
      asked(other).some(({ name, not }) => name === mine.name && not !== mine.not && !used.includes(name)),
    )
  );
}

/** Whether a press that cannot begin it at once never does. */
const isOneChance = ({ style, needs, resume, bufferMs }: CheckedSwitch) =>
  style === "hold" && bufferMs === 0 && (needs.length === 0 || resume === false);

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
