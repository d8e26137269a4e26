/** Press patterns of a plan, as tables; and who breaks whom, who claims whose press. */
import type { CheckedEntry, Source } from "../../plan/checked.js";
import { GestureFloat, GestureInt } from "../layout.js";
import { listOf } from "../lists.js";
import { Due, Gesture, type EntryTable, type GestureTable, type SwitchTable } from "../tables.js";
import type { Draft } from "./draft.js";
import type { Growing } from "./ways.js";

const GESTURES = {
  taps: Gesture.Taps,
  short: Gesture.Short,
  long: Gesture.Long,
  all: Gesture.All,
  series: Gesture.Series,
};
const OPPOSITE = { up: "down", down: "up", left: "right", right: "left" } as const;

export function addGesture(
  draft: Draft,
  entry: Exclude<CheckedEntry, { kind: "plain" }>,
  sources: readonly Source[],
  table: Growing<SwitchTable>,
  id: number,
  due: number,
): void {
  const of = sources.map((source) => draft.signalOf(source).id);
  const number = draft.gesture.length;
  const gesture: Growing<GestureTable> = {
    id: number,
    kind: GESTURES[entry.kind],
    switch: id,
    action: table.action,
    f: draft.takeFloats(GestureFloat.Size),
    i: draft.takeInts(GestureInt.Size),
    live: draft.liveAt + table.action,
    of,
    taps: entry.kind === "taps" ? entry.taps : 0,
    ms: gestureMs(entry),
    eachMs: entry.kind === "taps" ? (entry.eachMs ?? Infinity) : Infinity,
    fallback: fallbacks(of),
    deadline: due < 0 ? -1 : draft.addDue(due, { kind: Due.Long, target: number }),
    claims: listOf(),
  };
  draft.gesture.push(gesture);
  table.gestures.push(gesture);
  if (entry.kind === "long") table.longs.push(gesture);
  for (const signal of new Set(of))
    draft.signal[signal]![entry.kind === "all" ? "alls" : "gestures"].push(gesture);
  if (entry.kind === "long") draft.signal[of[0]!]!.long = true;
  draft.hideable(table.action, gesture.i + GestureInt.Hidden, of, { gesture });
  if (entry.kind === "taps" && entry.brokenBy !== "none")
    draft.broken.push({ gesture, by: entry.brokenBy, source: sources[0]! });
}

/** What can only be known when every signal is: who breaks whom, who claims whose press. */
export function linkGestures(draft: Draft): void {
  for (const { gesture, by, source } of draft.broken) {
    if (by === "opposite" && "end" in source) {
      draft
        .signalOf({
          ...source,
          name: `${source.action}.${OPPOSITE[source.end]}`,
          end: OPPOSITE[source.end],
        })
        .breaks.push(gesture);
    } else if (by === "any") {
      const own = draft.signal[gesture.of[0]!]!;
      for (const signal of draft.signal) {
        const feedsOwn = signal.ends.some((end) => end.direction === own);
        if (signal.channel >= 0 && signal !== own && !feedsOwn && !signal.half) signal.breaks.push(gesture);
      }
    }
  }
  const channels = draft.signal.map(({ id }) => channelsOf(draft, id));
  const shares = (one: number, other: number) =>
    channels[one]!.some((channel) => channels[other]!.includes(channel));
  for (const entry of draft.entry) {
    if (entry.deadline < 0) continue;
    for (const gesture of draft.gesture) {
      if (!gesture.of.some((of) => shares(of, entry.signal))) continue;
      entry.rivals.push(gesture);
      (gesture.claims as EntryTable[]).push(entry);
    }
  }
  const ruling = draft.signal.filter(({ alls, gestures }) => alls.length > 0 || gestures.length > 0);
  for (const signal of draft.signal) {
    signal.ruled = ruling.some((other) => shares(other.id, signal.id));
    signal.direct = !draft.signal.some(
      ({ id, alls, entries }) =>
        (alls.length > 0 || entries.some(({ deadline }) => deadline >= 0)) && shares(id, signal.id),
    );
  }
}

/** The channels that a signal is read off; those of its keys and sticks where it is a direction. */
function channelsOf(draft: Draft, signal: number): readonly number[] {
  const { channel } = draft.signal[signal]!;
  if (channel >= 0) return [channel];
  const keys = draft.signal
    .filter((other) => other.ends.some((end) => end.direction === draft.signal[signal]))
    .map((other) => other.channel);
  const sticks = draft.stick.flatMap((stick, id) =>
    stick.directionSignals?.includes(draft.signal[signal]!)
      ? draft.channel.flatMap(({ sticks: ids }, n) => (ids.includes(id) ? [n] : []))
      : [],
  );
  return [...keys, ...sticks];
}

function gestureMs(entry: Exclude<CheckedEntry, { kind: "plain" }>): number {
  switch (entry.kind) {
    case "short":
      return entry.beforeMs;
    case "long":
      return entry.afterMs;
    case "all":
      return entry.spreadMs ?? Infinity;
    default:
      return entry.gapMs;
  }
}

/** By members matched: how many of the first still match after the longest end that is a beginning too. */
function fallbacks(of: readonly number[]): number[] {
  const back = [0, 0];
  for (let n = 1, k = 0; n < of.length; n++) {
    while (k > 0 && of[n] !== of[k]) k = back[k]!;
    if (of[n] === of[k]) k++;
    back[n + 1] = k;
  }
  return back;
}
