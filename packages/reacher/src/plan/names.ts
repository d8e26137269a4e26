/** Valid names in a plan. They are used in addresses (`swim.main.up`) and as keys of readings. */

import { shownShort } from "./depth.js";
import { finding, type Finding } from "./findings.js";

/** A letter, then up to 63 letters, digits, `_` or `-`. */
export const NAME = /^[A-Za-z][A-Za-z0-9_-]{0,63}$/;

/** Names that would reach an object's prototype, or that have a meaning in plans: no thing of a plan has one of them. */
const RESERVED: ReadonlySet<string> = new Set([
  ...Object.getOwnPropertyNames(Object.prototype),
  "prototype",
  "not",
  "each",
]);

/** Why this is not a valid name, or `undefined` if it is. */
export function nameFault(name: string): string | undefined {
  if (RESERVED.has(name)) return "is reserved";
  return NAME.test(name) ? undefined : "is no name: a letter, then up to 63 letters, digits, _ or -";
}

/** The parts of a plan that have names. */
export const NAMED_GROUPS: readonly string[] = [
  "controls",
  "slots",
  "flags",
  "numbers",
  "spots",
  "modes",
  "seats",
  "actions",
];

/** Fields of an action that are a name, or a list of names. */
export const LISTED_NAMES: readonly string[] = ["ends", "oneOf", "was"];

/** Names are checked on the raw object, since schema libraries drop dangerous ones silently. */
export function badNames(raw: Record<string, unknown>): Finding[] {
  const found: Finding[] = [];
  const lookAt = (names: readonly unknown[], place: string) => {
    for (const name of names) {
      const fault = typeof name === "string" ? nameFault(name) : undefined;
      if (fault !== undefined) found.push(finding("bad-name", place, `${shownShort(name, 43)} ${fault}`));
    }
  };
  const look = (value: unknown, place: string) => {
    if (typeof value === "object" && value !== null) lookAt(Object.keys(value), place);
  };
  const own = (value: unknown, key: string): unknown =>
    typeof value === "object" && value !== null && Object.hasOwn(value, key)
      ? (value as Record<string, unknown>)[key]
      : undefined;

  for (const group of NAMED_GROUPS) look(own(raw, group), group);
  const actions = own(raw, "actions");
  if (typeof actions !== "object" || actions === null) return found;
  for (const [name, action] of Object.entries(actions)) {
    look(own(action, "from"), `actions.${name}.from`);
    look(own(action, "gaits"), `actions.${name}.gaits`);
    for (const field of LISTED_NAMES) lookAt([own(action, field)].flat(), `actions.${name}.${field}`);
  }
  return found;
}

/** The members of a chord or a series, in a player's addresses. */
export const ORDINALS: readonly string[] =
  "first second third fourth fifth sixth seventh eighth ninth tenth eleventh twelfth thirteenth fourteenth fifteenth sixteenth".split(
    " ",
  );
