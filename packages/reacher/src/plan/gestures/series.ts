/** Presses in a set order. */
import { CONTROL, list, ms, required } from "../language/fields.js";
import { reportTwins, sourcesOf, type Language, type Shown } from "./gesture.js";
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
  },
  source: "series",
  read(reader, { series: names, gapMs = GAP_MS }, place) {
    const of = sourcesOf(reader, names, (n) => `${place}.series.${n}`);
    return of && { kind: "series", of, gapMs };
  },
  pattern: ({ of }) => `series ${of.map(({ name }) => name).join(" ")}`,
  isTapped: true,
  words: { joint: "then", sign: ", ", spoken: ", then " },
};

export const seriesShown: Shown<"series"> = {
  use: ({ of }) => `in ${of.map(({ name }) => name).join(" > ")}`,
  brief: ({ of }) => of.map(({ name }) => name).join(">"),
  window: { field: "gapMs", endsWithPress: false },
  decides: { series: ["gapMs"], "too-late": ["gapMs"] },
  check: ({ of }, place, context) => reportTwins(of.slice(-1), place, context),
};
