/** What goes wrong with the ends of axes and vectors: missing ones, two on one control, names that contradict where keys lie. In: a movement. Out: findings. */
import { keyPlace } from "../../controls/keyPlaces.js";
import type { CheckedEnd, CheckedMovement } from "../checked.js";
import { bindingsOf, type Binding } from "./bindings.js";
import type { Report } from "../findings.js";
import { dealtRight } from "./crossed.js";

const WAYS = ["up", "left", "down", "right"];

export function checkEnds(action: CheckedMovement, report: Report): void {
  if (action.kind === "vector") checkMissing(action, report);
  checkSameControl(action, report);
  checkPlaces(action, report);
}

function checkMissing({ name, ends, sticks }: CheckedMovement, report: Report): void {
  const place = `actions.${name}`;
  const all = new Set(ends.map(({ end }) => end));
  if (sticks.length === 0 && all.size > 0 && [...all].every((end) => end === "left" || end === "right")) {
    report(
      "axis-would-do",
      place,
      'has only left and right; an axis would do: { "kind": "axis", "ends": ["left", "right"] }',
    );
    return;
  }
  for (const slot of new Set(ends.map((end) => end.slot))) {
    const given = ends.filter((end) => end.slot === slot).map(({ end }) => end);
    const missing = WAYS.filter((way) => !given.includes(way));
    if (missing.length > 0)
      report("missing-direction", `${place}.from.${slot}`, `has no ${missing.join(" and no ")}`);
  }
}

function checkSameControl(action: CheckedMovement, report: Report): void {
  const ends = new Map<string, Binding>();
  for (const binding of bindingsOf(action)) {
    if (binding.end === undefined) continue;
    const other = ends.get(binding.control.name);
    if (other === undefined) ends.set(binding.control.name, binding);
    else if (other.end !== binding.end) {
      report(
        "same-direction",
        binding.place,
        `${binding.control.name} is ${other.end} already, at ${other.place}; one press would do both`,
      );
    }
  }
}

function checkPlaces({ name, ends }: CheckedMovement, report: Report): void {
  const told = new Set<string>();
  const entryOf = ({ address }: CheckedEnd) => address.slice(0, address.lastIndexOf("."));
  const say = (end: CheckedEnd, message: string) => {
    const [, ...rest] = end.address.split(".");
    told.add(entryOf(end));
    report("end-place", `actions.${name}.from.${rest.join(".")}`, message);
  };
  for (const end of ends) {
    const says = wayIn(end.control.name);
    if (says !== undefined && WAYS.includes(end.end) && says !== end.end) {
      say(end, `${end.control.name} under ${end.end} contradicts its name; is it the one for ${says}?`);
      continue;
    }
    // Told once, of the two keys that lie the wrong way round.
    const [opposite, before] =
      end.end === "right" ? ["left", "right"] : end.end === "down" ? ["up", "below"] : [];
    const entry = entryOf(end);
    const other = ends.find((one) => one.end === opposite && one.address === `${entry}.${opposite}`);
    const [here, there] = [keyPlace(end.control.name), keyPlace(other?.control.name ?? "")];
    if (other === undefined || here === undefined || there === undefined || here.block !== there.block)
      continue;
    if (end.end === "right" ? there.x > here.x : there.y > here.y)
      say(
        other,
        `${other.control.name} for ${opposite} lies ${before === "below" ? "below" : "to the right of"} ${end.control.name} for ${end.end}; are the two exchanged?`,
      );
  }
  for (const entry of new Set(ends.map(entryOf)))
    if (!told.has(entry)) checkCrossed(name, entry, ends, report);
}

/** Four keys that were dealt crosswise, though no two of them are exchanged. */
function checkCrossed(name: string, entry: string, ends: readonly CheckedEnd[], report: Report): void {
  const keyOf = (end: string) => ends.find(({ address }) => address === `${entry}.${end}`)?.control.name;
  const [up, left, down, right] = WAYS.map(keyOf);
  if (up === undefined || left === undefined || down === undefined || right === undefined) return;
  const dealt = dealtRight({ up, left, down, right });
  if (dealt === undefined) return;
  const [, ...rest] = entry.split(".");
  report(
    "end-place",
    `actions.${name}.from.${rest.join(".")}`,
    `${up}, ${left}, ${down} and ${right} for up, left, down and right do not lie so; they would as ${JSON.stringify(dealt)}`,
  );
}

/** The direction that a control's own name says. */
function wayIn(control: string): string | undefined {
  return /^(?:Arrow|PadDpad|Pad(?:Left|Right)Stick|Wheel)(Up|Down|Left|Right)$/
    .exec(control)?.[1]
    ?.toLowerCase();
}
