/** Presses that last, and presses that end soon. */
import { ms, required } from "../language/fields.js";
import { SOURCE } from "../language/shapes.js";
import { LONG_MS, SHORT_MS } from "../language/defaults.js";
import type { Reader } from "../reader/reader.js";
import type { LongEntry, SwitchEntry, SwitchFields } from "../types.js";
import { nameOf, sourcesOf, type Language, type Shown } from "./gesture.js";

export const long: Language<"long"> = {
  fields: {
    long: required(SOURCE),
    afterMs: ms(2000, {
      default: LONG_MS,
      felt: true,
      player: { about: "Hold time", has: "long press" },
    }),
  },
  source: "long",
  read(reader, { long: source, afterMs = LONG_MS }, place) {
    const of = sourcesOf(reader, [source], () => `${place}.long`);
    return of && { kind: "long", of, afterMs };
  },
  pattern: () => "long",
  words: { verb: () => "hold" },
};

export const longShown: Shown<"long"> = {
  use: ({ afterMs }) => `press of ${afterMs} ms`,
  brief: ({ of: [source] }) => `long ${source!.name}`,
  window: { field: "afterMs", endsWithPress: true },
  decides: { long: ["afterMs"], "too-short": ["afterMs"], "was-long": ["afterMs", "beforeMs"] },
};

export const short: Language<"short"> = {
  fields: { short: required(SOURCE), beforeMs: ms(1000, { default: SHORT_MS, felt: true }) },
  source: "short",
  read(reader, { short: source, beforeMs: given }, place) {
    const name = nameOf(source);
    const longest = longestShort(reader, name);
    const beforeMs = given ?? (longest < Infinity ? longest : SHORT_MS);
    if (beforeMs > longest)
      reader.report(
        "short-after-long",
        `${place}.beforeMs`,
        `${beforeMs} is more than the afterMs ${longest} of the long on ${name}; a press between would be both`,
      );
    const of = sourcesOf(reader, [source], () => `${place}.short`);
    return of && { kind: "short", of, beforeMs };
  },
  pattern: () => "short",
  words: { verb: () => "tap" },
};

export const shortShown: Shown<"short"> = {
  use: ({ beforeMs }) => `press up to ${beforeMs} ms`,
  brief: ({ of: [source] }) => `short ${source!.name}`,
  window: { field: "beforeMs", endsWithPress: true },
  decides: { short: ["beforeMs"], "too-long": ["beforeMs"] },
  check({ beforeMs }, place, { report, beside }) {
    for (const { entry } of beside("long"))
      if (entry.afterMs > beforeMs)
        report(
          "short-long-hole",
          place,
          `a press between ${beforeMs} and ${entry.afterMs} ms is neither short nor long`,
        );
  },
};

/** When the first of a control's long presses fires, in ms, which limits shorts on it. */
function longestShort(reader: Reader, name: string): number {
  return reader.once("longs", longsOf).get(name) ?? Infinity;
}

function longsOf({ plan }: Reader): ReadonlyMap<string, number> {
  const longs = new Map<string, number>();
  for (const action of Object.values(plan.actions)) {
    if (action.kind !== "switch") continue;
    for (const entry of Object.values((action as SwitchFields).from).flat() as SwitchEntry[]) {
      if (typeof entry !== "object" || !("long" in entry)) continue;
      const { long: source, afterMs = LONG_MS } = entry as LongEntry;
      const name = nameOf(source);
      longs.set(name, Math.min(afterMs, longs.get(name) ?? Infinity));
    }
  }
  return longs;
}
