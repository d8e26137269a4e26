/** Reads switches: their entries, gestures and needs. */
import type { CheckedAction, CheckedEntry, CheckedSwitch, Source } from "../checked.js";
import type { FlickEntry, SwitchEntry, SwitchFields } from "../types.js";
import { LONG_MS, type Reader } from "./reader.js";
import { readThreshold } from "./shapes.js";

/** The default maximum length of a flick, in ms. */
const FLICK_MS = 80;

export function readSwitch(reader: Reader, name: string, action: SwitchFields): CheckedSwitch {
  const entries: CheckedEntry[] = [];
  for (const { slot, entry, place, address } of reader.entries(name, action.from)) {
    const read = readEntry(reader, entry, place);
    if (read !== undefined) entries.push({ address, slot, ...read } as CheckedEntry);
  }
  const { repeat } = action;
  if (repeat !== undefined && (repeat.apartMs ?? 0) > repeat.everyMs)
    reader.report(
      "wrong-value",
      `actions.${name}.repeat.apartMs`,
      `${repeat.apartMs} is more than everyMs ${repeat.everyMs}; no pulse would come at its time`,
    );
  if (action.carry === true && (action.style ?? "hold") !== "hold") {
    reader.report(
      "carry-hold",
      `actions.${name}.carry`,
      `only a hold can carry a key over; this one's style is ${action.style}`,
    );
  }
  return {
    kind: "switch",
    name,
    label: action.label ?? name,
    style: action.style ?? "hold",
    tapMs: action.tapMs ?? 250,
    startsOn: action.startsOn ?? false,
    in: reader.modeNames(action.in ?? [], `actions.${name}.in`),
    needs: reader.words(action.needs ?? [], `actions.${name}.needs`),
    resume: action.resume ?? true,
    oneOf: action.oneOf,
    repeat: repeat && {
      everyMs: repeat.everyMs,
      afterMs: repeat.afterMs ?? repeat.everyMs,
      apartMs: repeat.apartMs ?? 0,
    },
    restMs: action.restMs ?? 0,
    beginsIf: reader.words(action.beginsIf ?? [], `actions.${name}.beginsIf`),
    spends: reader.flags(action.spends ?? [], `actions.${name}.spends`),
    keepMs: action.keepMs ?? 0,
    carry: action.carry ?? false,
    comesBack: action.comesBack ?? true,
    entries,
  };
}

/** An entry without its address; `undefined` if a source in it is invalid. */
function readEntry(reader: Reader, entry: SwitchEntry, place: string) {
  if (typeof entry === "string")
    return withSources(reader, { kind: "plain", waits: false }, [entry], [place]);
  if ("use" in entry) {
    const plain = { kind: "plain", waits: entry.waits ?? false } as const;
    const read = withSources(reader, plain, [entry.use], [`${place}.use`]);
    const source = read?.of[0];
    if (entry.threshold === undefined || source === undefined) return read;
    if (!("control" in source)) {
      reader.report("threshold-none", `${place}.threshold`, "a direction is pressed where its controls are");
      return read;
    }
    return {
      ...plain,
      of: [{ ...source, ...readThreshold(reader, entry.threshold, source.control, place) }],
    };
  }
  if ("taps" in entry) {
    const { taps, gapMs = 250, eachMs, brokenBy } = entry;
    const directed = entry.of.includes(".");
    if (brokenBy === "opposite" && !directed) {
      reader.report(
        "no-opposite",
        `${place}.brokenBy`,
        `${entry.of} has no opposite; that is for directions, such as swim.right`,
      );
    }
    const ends = entry.of.endsWith(".each") ? reader.endsOf(entry.of.slice(0, -".each".length)) : undefined;
    const of = ends === undefined ? [entry.of] : ends.map((end) => entry.of.replace(/each$/, end));
    const broken = brokenBy ?? (directed ? "opposite" : "none");
    return withSources(
      reader,
      { kind: "taps", taps, gapMs, eachMs, brokenBy: broken },
      of,
      of.map(() => `${place}.of`),
    );
  }
  if ("short" in entry) {
    const longest = reader.longOn(entry.short) ?? Infinity;
    const beforeMs = entry.beforeMs ?? (longest < Infinity ? longest : 250);
    if (beforeMs > longest) {
      reader.report(
        "short-after-long",
        `${place}.beforeMs`,
        `${beforeMs} is more than the afterMs ${longest} of the long on ${entry.short}; a press between would be both`,
      );
    }
    return withSources(reader, { kind: "short", beforeMs }, [entry.short], [`${place}.short`]);
  }
  if ("long" in entry)
    return withSources(
      reader,
      { kind: "long", afterMs: entry.afterMs ?? LONG_MS },
      [entry.long],
      [`${place}.long`],
    );
  if ("flick" in entry) return readFlick(reader, entry, place);
  const [kind, of] = "all" in entry ? (["all", entry.all] as const) : (["series", entry.series] as const);
  const places = of.map((_, n) => `${place}.${kind}.${n}`);
  if ("all" in entry) {
    if (new Set(of).size < of.length)
      reader.report("same-member", place, "names a control twice; it cannot be held twice");
    return withSources(reader, { kind: "all", spreadMs: entry.spreadMs }, of, places);
  }
  return withSources(reader, { kind: "series", gapMs: entry.gapMs ?? 250 }, of, places);
}

/** Only a stick can be flicked. */
function readFlick(reader: Reader, { flick, withinMs = FLICK_MS }: FlickEntry, place: string) {
  const read = withSources(reader, { kind: "flick", withinMs }, [flick], [`${place}.flick`]);
  const source = read?.of[0];
  if (source === undefined) return read;
  const isStick = "end" in source ? reader.hasStick(source.action) : source.control.family === "half";
  if (!isStick)
    reader.report(
      "flick-no-stick",
      `${place}.flick`,
      "end" in source
        ? `${source.action} has no stick, and a flick is a stick's; give it one, or take taps`
        : `${flick} is no side of a stick; a flick takes one (PadLeftStickRight), or a direction with a stick`,
    );
  return read;
}

function withSources<G extends object>(
  reader: Reader,
  what: G,
  names: readonly string[],
  places: readonly string[],
): (G & { of: Source[] }) | undefined {
  const of = names.map((name, n) => reader.source(name, places[n]!));
  return of.every((source) => source !== undefined) ? { ...what, of } : undefined;
}

/** A switch that needs itself, directly or not, could never settle. A chain of needs may be as long as the plan, so this does not recurse. */
export function findNeedsCircle(reader: Reader, actions: readonly CheckedAction[]): void {
  const needs = new Map(
    actions.map((action) => [
      action.name,
      action.kind === "switch" ? action.needs.map(({ name }) => name) : [],
    ]),
  );
  const done = new Set<string>();
  for (const begin of needs.keys()) {
    const path: { readonly name: string; next: number }[] = [{ name: begin, next: 0 }];
    const onPath = new Set([begin]);
    while (path.length > 0) {
      const here = path[path.length - 1]!;
      const name = done.has(here.name) ? undefined : needs.get(here.name)?.[here.next++];
      if (name === undefined) {
        done.add(here.name);
        onPath.delete(here.name);
        path.pop();
      } else if (onPath.has(name)) {
        const names = path.map((one) => one.name);
        const circle = [...names.slice(names.indexOf(name)), name].join(" -> ");
        reader.report("needs-circle", `actions.${name}.needs`, `goes in a circle: ${circle}`);
      } else if (!done.has(name)) {
        onPath.add(name);
        path.push({ name, next: 0 });
      }
    }
  }
}
