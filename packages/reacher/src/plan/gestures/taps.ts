/** Presses of one source that follow each other closely. */
import { choice, ms, presses, required } from "../language/fields.js";
import { SOURCE } from "../language/shapes.js";
import { GAP_MS } from "../language/defaults.js";
import { SANE_TAP_GAP } from "../language/saneRanges.js";
import {
  gap,
  heldSources,
  nameOf,
  reportTwins,
  sourcesOf,
  TOGETHER,
  withHeld,
  type Language,
  type PressSource,
  type Shown,
} from "./gesture.js";

export const taps: Language<"taps"> = {
  fields: {
    taps: required(presses(2, 9)),
    of: required(SOURCE),
    gapMs: gap("taps"),
    eachMs: ms(600),
    brokenBy: choice("opposite", "any", "none"),
    ...TOGETHER,
  },
  source: "of",
  read(reader, entry, place) {
    const { taps, of: given, eachMs, brokenBy, withinMs, gapMs = withinMs ?? GAP_MS } = entry;
    const name = nameOf(given);
    const isDirected = name.includes(".");
    if (brokenBy === "opposite" && !isDirected)
      reader.report(
        "no-opposite",
        `${place}.brokenBy`,
        `${name} has no opposite; that is for directions, such as swim.right`,
      );
    const ends = name.endsWith(".each") ? reader.endsOf(name.slice(0, -".each".length)) : undefined;
    const all = ends?.map((end) => withName(given, name.replace(/each$/, end))) ?? [given];
    const of = sourcesOf(reader, all, () => `${place}.of`);
    const broken = brokenBy ?? (isDirected ? "opposite" : "none");
    const held = heldSources(reader, entry.with, `${place}.with`);
    return of && held && { kind: "taps", of, taps, gapMs, eachMs, brokenBy: broken, withinMs, with: held };
  },
  pattern: (entry) => `taps ${entry.taps}${withHeld(entry)}`,
  isTapped: true,
  words: { verb: ({ taps }) => (taps === 2 ? "double tap" : `tap ${taps} times:`) },
};

function withName(source: PressSource, name: string): PressSource {
  return typeof source === "string" ? name : { ...source, use: name };
}

export const tapsShown: Shown<"taps"> = {
  use: (entry) => `${entry.taps} taps within ${entry.withinMs ?? entry.gapMs} ms${withHeld(entry)}`,
  brief: ({ taps, of }) => `${taps}x ${of.length > 1 ? of[0]!.name.replace(/\.\w+$/, ".each") : of[0]!.name}`,
  window: { field: "gapMs", endsWithPress: false },
  decides: { taps: ["gapMs", "withinMs"], "too-late": ["gapMs", "withinMs"] },
  check({ gapMs, of }, place, context) {
    const { bounceMs, report, beside } = context;
    const say = (text: string) => report("tap-window", `${place}.gapMs`, text);
    if (gapMs < SANE_TAP_GAP.least)
      say(`${gapMs} ms is too short for most hands; from 200 on most can do it`);
    if (gapMs > SANE_TAP_GAP.most)
      say(`${gapMs} ms is so long that plain movement will set it off; up to 300 it rarely does`);
    if (bounceMs >= gapMs)
      say(`with bounceMs ${bounceMs} the key is never up between two presses within ${gapMs} ms`);
    for (const { action, entry } of beside("plain")) {
      if (entry.waits || !entry.of.some((source) => "control" in source)) continue;
      report(
        "tap-and-press",
        place,
        `its first tap does ${action.name} too; let that entry wait: { "use": "${entry.of[0]!.name}", "waits": true }`,
      );
    }
    // Taps and a plain press on one control are told of already.
    if (!("control" in of[0]!)) reportTwins(of, place, context);
  },
};
