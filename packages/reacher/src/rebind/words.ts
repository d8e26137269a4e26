/** Describes how to perform an entry, in words. In: an entry and labels. Out: text, with each control separate. Pure. */

import { directionsIn } from "../plan/ways.js";
import { placeLabel } from "../controls/labels.js";
import { controlsOf } from "../controls/ownControls.js";
import type { CheckedAction, CheckedEntry, CheckedMovement, CheckedPlan, Source } from "../plan/checked.js";
import type { Binding } from "../plan/checks/bindings.js";
import { languageOf } from "../plan/gestures/index.js";
import { placesOf } from "./places.js";

/** A piece of text, or a control that may be drawn as a key cap or a sign. */
export type WordPart = string | { readonly control: string; readonly label: string };

/** Names a control for people. */
export type LabelOf = (control: string) => string;

/** What drives an action from one slot: one way of doing it. */
export interface Way {
  readonly slot: string;
  /** `surge.main`, `flash.main.1`; of directions, the slot's address. */
  readonly address: string;
  /** The raw or combined controls that it is made of. */
  readonly controls: readonly string[];
  readonly parts: readonly WordPart[];
  /** The same where a list of directions would be too long: all of them. */
  readonly spoken: string;
}

/** The parts as one text. */
export function textOf(parts: readonly WordPart[]): string {
  return parts.map((part) => (typeof part === "string" ? part : part.label)).join("");
}

/** All ways of doing an action, in the plan's order. `slots`: those that count. */
export function waysOf(
  plan: CheckedPlan,
  action: CheckedAction,
  slots: readonly string[],
  labelOf: LabelOf = placeLabel,
): Way[] {
  const known = controlsOf(plan);
  const given = labelOf;
  labelOf = (control) => known.labelOf(control, given);
  const inSlots = ({ slot }: { readonly slot: string }) => slots.includes(slot);
  if (action.kind === "switch")
    return action.entries.filter(inSlots).map((entry) => switchWay(plan, entry, labelOf));
  if (action.kind === "turn")
    return [...action.mice, ...action.sticks].filter(inSlots).map((one) => single(one, labelOf));
  const places = placesOf(action).filter(inSlots);
  const bySlot = slots.flatMap((slot) => {
    const ends = places.filter((one) => one.slot === slot && one.end !== undefined);
    return ends.length === 0 ? [] : [endsWay(action, slot, ends, labelOf)];
  });
  return [...bySlot, ...places.filter(({ end }) => end === undefined).map((one) => single(one, labelOf))];
}

function part(control: string, labelOf: LabelOf): WordPart {
  return { control, label: labelOf(control) };
}

function single(
  { slot, address, control }: { slot: string; address: string; control: { name: string } },
  labelOf: LabelOf,
): Way {
  const { name } = control;
  return { slot, address, controls: [name], parts: [part(name, labelOf)], spoken: labelOf(name) };
}

function endsWay(action: CheckedMovement, slot: string, ends: readonly Binding[], labelOf: LabelOf): Way {
  const sorted = [...ends].sort(
    (one, other) => action.endNames.indexOf(one.end!) - action.endNames.indexOf(other.end!),
  );
  const controls = [...new Set(sorted.map(({ control }) => control.name))];
  const parts = controls.flatMap((name, n) => (n === 0 ? [part(name, labelOf)] : [" ", part(name, labelOf)]));
  return {
    slot,
    address: `${action.name}.${slot}`,
    controls,
    parts,
    spoken: listed(controls.map(labelOf), "and"),
  };
}

function switchWay(plan: CheckedPlan, entry: CheckedEntry, labelOf: LabelOf): Way {
  const way = pressedWay(plan, entry, labelOf);
  const held = "with" in entry ? entry.with : [];
  if (held.length === 0) return way;
  const members = held.map((source) => sourceParts(plan, entry.slot, source, labelOf));
  return {
    ...way,
    controls: [...members.flatMap(({ controls }) => controls), ...way.controls],
    parts: [...members.flatMap(({ parts }) => [...parts, " + "]), ...way.parts],
    spoken: `${members.map(({ parts }) => textOf(parts)).join(" and ")} held: ${way.spoken}`,
  };
}

/** What is pressed, whatever is held meanwhile. */
function pressedWay(plan: CheckedPlan, entry: CheckedEntry, labelOf: LabelOf): Way {
  const { slot, address, of } = entry;
  const members = of.map((source) => sourceParts(plan, slot, source, labelOf));
  const way = { slot, address, controls: members.flatMap(({ controls }) => controls) };
  const texts = members.map(({ parts }) => textOf(parts));
  const { words } = languageOf(entry);
  if (words.joint !== undefined) {
    const parts = members.flatMap(({ parts }, n) => (n === 0 ? parts : [words.sign, ...parts]));
    return { ...way, parts, spoken: texts.join(words.spoken) };
  }
  const verb = words.verb(entry as never);
  const said = (parts: readonly WordPart[]) => (verb === "" ? [...parts] : [`${verb} `, ...parts]);
  if (of.length === 1) {
    const parts = said(members[0]!.parts);
    return { ...way, parts, spoken: textOf(parts) };
  }
  // One of the directions stands for all where there is little room: the one to the right, where most games begin.
  const right = members[of.findIndex((source) => "end" in source && source.end === "right")] ?? members[0]!;
  return { ...way, parts: said(right.parts), spoken: `${verb} ${listed([...new Set(texts)], "or")}` };
}

/** A control, or what moves in a direction in this slot, or by whatever the direction has. */
function sourceParts(
  plan: CheckedPlan,
  slot: string,
  source: Source,
  labelOf: LabelOf,
): { controls: string[]; parts: WordPart[] } {
  if ("control" in source)
    return { controls: [source.control.name], parts: [part(source.control.name, labelOf)] };
  const movement = plan.actions.find(({ name }) => name === source.action) as CheckedMovement;
  const ways = directionsIn(source);
  const own = ways.flatMap((way) => movement.ends.find((one) => one.way === way && one.slot === slot) ?? []);
  const isLength = "result" in source && source.result === "length";
  if (own.length === ways.length && !isLength) {
    const parts = own.flatMap(({ control }, n) => [...(n === 0 ? [] : [" + "]), part(control.name, labelOf)]);
    return { controls: own.map(({ control }) => control.name), parts };
  }
  const stick = movement.sticks.find((one) => one.slot === slot);
  const way = isLength ? "" : ` ${endName(source)}`;
  if (stick !== undefined)
    return {
      controls: [stick.control.name],
      parts: [part(stick.control.name, labelOf), ...(isLength ? [] : [way])],
    };
  return { controls: [], parts: [`${movement.label}${way}`] };
}

function listed(names: readonly string[], word: "and" | "or"): string {
  if (names.length < 2) return names.join("");
  return `${names.slice(0, -1).join(", ")} ${word} ${names.at(-1)}`;
}

/** The end as the plan names it; a diagonal in two words. */
function endName({ name }: Source): string {
  return name.slice(name.indexOf(".") + 1).replace(/[A-Z]/, (letter) => ` ${letter.toLowerCase()}`);
}
