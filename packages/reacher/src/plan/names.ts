/** What names in a plan may look like. They stand in addresses (`swim.main.up`) and become keys of readings. */

/** A letter, then up to 63 letters, digits, `_` or `-`. */
export const NAME = /^[A-Za-z][A-Za-z0-9_-]{0,63}$/;

/** Names that would reach an object's inner workings, or mean something in the plan's own words. */
const RESERVED = new Set(["__proto__", "prototype", "constructor", "not", "each"]);

/** Why this cannot be a name, or `undefined` where it can. */
export function nameFault(name: string): string | undefined {
  if (RESERVED.has(name)) return "is reserved";
  return NAME.test(name) ? undefined : "is no name: a letter, then up to 63 letters, digits, _ or -";
}

/** The members of a chord or a series, in a player's addresses. */
export const ORDINALS: readonly string[] =
  "first second third fourth fifth sixth seventh eighth ninth tenth eleventh twelfth thirteenth fourteenth fifteenth sixteenth".split(
    " ",
  );
