/** Presses in a set order. */
import { list, required } from "../language/fields.js";
import { SOURCE } from "../language/shapes.js";
import {
  gap,
  heldSources,
  reportTwins,
  sourcesOf,
  TOGETHER,
  withHeld,
  type Language,
  type Shown,
} from "./gesture.js";
import { GAP_MS } from "../language/defaults.js";

export const series: Language<"series"> = {
  fields: {
    series: required(list(SOURCE, 2, 16)),
    gapMs: gap("series"),
    ...TOGETHER,
  },
  source: "series",
  read(reader, entry, place) {
    const { series: names, withinMs, gapMs = withinMs ?? GAP_MS } = entry;
    const of = sourcesOf(reader, names, (n) => `${place}.series.${n}`);
    const held = heldSources(reader, entry.with, `${place}.with`);
    return of && held && { kind: "series", of, gapMs, withinMs, with: held };
  },
  pattern: (entry) => `series ${entry.of.map(({ name }) => name).join(" ")}${withHeld(entry)}`,
  isTapped: true,
  words: { joint: "then", sign: ", ", spoken: ", then " },
};

export const seriesShown: Shown<"series"> = {
  use: (entry) => `in ${entry.of.map(({ name }) => name).join(" > ")}${withHeld(entry)}`,
  brief: ({ of }) => of.map(({ name }) => name).join(">"),
  window: { field: "gapMs", endsWithPress: false },
  decides: { series: ["gapMs", "withinMs"], "too-late": ["gapMs", "withinMs"] },
  check: ({ of }, place, context) => reportTwins(of.slice(-1), place, context),
};
