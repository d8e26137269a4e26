/** What to press for an action, by what its player used last. In: a seat, an action, labels. Out: words, with each control apart. */
import { mustBeObject, mustCall } from "../plan/arguments.js";
import { controlsOf } from "../controls/ownControls.js";
import { placeLabel } from "../controls/labels.js";
import { resolvePlan } from "../plan/resolve.js";
import type { NamesOf, Seat } from "../layer/types.js";
import type { Kind, Kinds } from "../plan/types.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import { textOf, waysOf, type LabelOf, type WordPart } from "./words.js";

/** What a player is told to press. */
export interface Prompt {
  /** In short: "double tap D", "Left stick". Empty where the action has no control. */
  readonly text: string;
  /** In full, with the action's name, for screen readers: "Surge: double tap W, A, S or D". */
  readonly spoken: string;
  /** The text in pieces, so that controls can be drawn as key caps or signs. */
  readonly parts: readonly WordPart[];
  readonly controls: readonly string[];
  /** Whether it is for the pad, or for keyboard and mouse. */
  readonly onPad: boolean;
}

/**
 * What to press for an action: on the device that the seat used last, else on the first that has it.
 * @param labelOf names controls, by the player's own layout say. @default by their place
 * @throws ReacherError if the plan has no such action
 */
export function prompt<K extends Kinds, F extends string>(
  seat: Seat<K, F>,
  action: NamesOf<K, Kind>,
  labelOf: LabelOf = placeLabel,
): Prompt {
  mustBeObject(seat, "seat; give a layer or what its seat(name) gives");
  mustCall(labelOf, "labelOf");

  const own = resolvePlan(seat.own);
  const found = own.actions.find(({ name }) => name === action);
  if (found === undefined) throw new ReacherError(`the plan has no action ${shown(action)}`);
  const ways = waysOf(own, found, seat.slots, labelOf);
  const known = controlsOf(own);
  const isOn = (controls: readonly string[], device: string) =>
    controls.some((name) => known.find(name)?.device === device);
  const onPad = (controls: readonly string[]) => isOn(controls, "pad");
  const last = seat.lastDevice;
  // Keyboard and mouse are used together.
  const isHand = last === null || last === "keyboard" || last === "mouse";
  const way =
    ways.find(({ controls }) =>
      isHand ? isOn(controls, "keyboard") || isOn(controls, "mouse") : isOn(controls, last),
    ) ??
    ways.find(({ controls }) => !onPad(controls)) ??
    ways[0];
  if (way === undefined)
    return { text: "", spoken: `${found.label}: no control`, parts: [], controls: [], onPad: false };
  return {
    text: textOf(way.parts),
    spoken: `${found.label}: ${way.spoken}`,
    parts: way.parts,
    controls: way.controls,
    onPad: onPad(way.controls),
  };
}
