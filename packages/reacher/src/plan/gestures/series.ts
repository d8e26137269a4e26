/** Presses in a set order. */
import { CONTROL, list, ms, required } from "../language/fields.js";
import {
  heldSources,
  reportTwins,
  sourcesOf,
  TOGETHER,
  withHeld,
  type Language,
  type Shown,
} from "./gesture.js";
import { GAP_MS } from "../language/defaults.js";
import { SANE_TAP_GAP } from "../language/saneRanges.js";

export const series: Language<"series"> = {
  fields: {
    series: required(list(CONTROL, 2, 16)),
    gapMs: ms(600, {
      default: GAP_MS,
      sane: SANE_TAP_GAP,
      felt: true,
      player: { about: "Double-tap time", has: "series" },
    }),
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
