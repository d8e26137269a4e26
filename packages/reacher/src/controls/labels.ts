/** Neutral labels of controls: what they are called where nothing better is known of the player's keyboard or pad. */
import { findControl } from "./catalogue.js";

const LABELS: Record<string, string> = {
  MouseMain: "Main mouse button",
  MouseMiddle: "Middle mouse button",
  MouseSecondary: "Second mouse button",
  MouseBack: "Back mouse button",
  MouseForward: "Forward mouse button",
  MouseMove: "Mouse",
  MousePoint: "Mouse pointer",
  PadDpad: "D-pad",
  PadDpadX: "D-pad left and right",
  PadDpadY: "D-pad up and down",
};

/**
 * The label of a control by its place, for people: `KeyW` is "W", `ShiftLeft` "Left Shift", `PadSouth` "Pad south".
 * A name that is no control is returned as it is.
 */
export function placeLabel(name: string): string {
  const control = findControl(name);
  if (control === undefined) return name;
  const fixed = LABELS[name];
  if (fixed !== undefined) return fixed;
  const key = /^(?:Key([A-Z])|Digit(\d)|(F\d+))$/.exec(name);
  if (key !== null) return (key[1] ?? key[2] ?? key[3])!;
  const sided = /^(Shift|Control|Alt|Meta)(Left|Right)$/.exec(name);
  if (sided !== null) return `${sided[2]} ${sided[1]}`;
  const words = name.match(/[A-Z][a-z]*|\d+/g) ?? [name];
  return words.map((word, i) => (i === 0 ? word : word.toLowerCase())).join(" ");
}
