/** Switches of a plan, as tables: their entries, their groups, and the order in which they are looked at. */
import type { CheckedEntry, CheckedSwitch } from "../../plan/checked.js";
import { EntryInt, SwitchFloat, SwitchInt } from "../layout.js";
import { listOf } from "../lists.js";
import { Due, Style, type EntryTable, type SwitchTable } from "../tables.js";
import type { Draft } from "./draft.js";
import { addGesture } from "./gestures.js";
import type { Growing } from "./ways.js";

const STYLES = { hold: Style.Hold, toggle: Style.Toggle, either: Style.Either };

export function addSwitch(draft: Draft, action: CheckedSwitch, number: number, firstDue: number): void {
  const id = draft.switch.length;
  draft.action[number]!.switch = id;
  const waits = !isSimple(action) || action.repeat !== undefined || action.carry;
  let due = firstDue;
  const table: Growing<SwitchTable> = {
    name: action.name,
    action: number,
    id,
    fact: draft.facts.get(action.name)!,
    factAt: draft.factsAt + draft.facts.get(action.name)!,
    live: draft.liveAt + number,
    heard: false,
    simple: isSimple(action),
    waits,
    style: STYLES[action.style],
    tapMs: action.tapMs,
    startsOn: action.startsOn,
    needs: draft.words(action.needs, draft.neededBy, id),
    rank: 0,
    resume: action.resume,
    group: [],
    everyMs: action.repeat?.everyMs ?? 0,
    afterMs: action.repeat?.afterMs ?? 0,
    repeat: action.repeat === undefined ? -1 : draft.addDue(due++, { kind: Due.Repeat, target: id }),
    restMs: action.restMs,
    keepMs: action.keepMs,
    carry: action.carry,
    keeps: action.keeps,
    entries: listOf(),
    gestures: listOf(),
    longs: listOf(),
    f: draft.takeFloats(waits ? SwitchFloat.Size : SwitchFloat.Plain),
    i: draft.takeInts(waits ? SwitchInt.Size : SwitchInt.Plain),
  };
  draft.switch.push(table);
  for (const entry of action.entries) {
    if (entry.kind === "plain") addEntry(draft, entry, table, id);
    // Each direction of `swim.each` is counted on its own.
    else if (entry.kind === "taps")
      for (const source of entry.of) addGesture(draft, entry, [source], table, id, -1);
    else addGesture(draft, entry, entry.of, table, id, entry.kind === "long" ? due++ : -1);
  }
}

function addEntry(
  draft: Draft,
  { of, waits }: CheckedEntry & { kind: "plain" },
  table: Growing<SwitchTable>,
  id: number,
): void {
  const signal = draft.signalOf(of[0]!);
  const known = table.entries.find((entry) => entry.signal === signal.id);
  // The same control in two slots is one source: one press of it counts once.
  if (known !== undefined) return;
  const number = draft.entry.length;
  const entry: Growing<EntryTable> = {
    id: number,
    switch: id,
    action: table.action,
    signal: signal.id,
    i: draft.takeInts(waits ? EntryInt.Size : EntryInt.Plain),
    owner: table,
    live: draft.liveAt + table.action,
    deadline: waits ? draft.addWindow({ kind: Due.Claim, target: number }) : -1,
    rivals: listOf(),
  };
  draft.entry.push(entry);
  table.entries.push(entry);
  signal.entries.push(entry);
  draft.hideable(table.action, entry.i + EntryInt.Hidden, [signal.id], { entry });
}

export function joinGroups(draft: Draft): void {
  const groups = new Map<string, number[]>();
  const switches = draft.plan.actions.filter((action) => action.kind === "switch");
  switches.forEach(({ oneOf }, id) => {
    if (oneOf !== undefined) groups.set(oneOf, [...(groups.get(oneOf) ?? []), id]);
  });
  for (const ids of groups.values())
    for (const id of ids) draft.switch[id]!.group = ids.filter((other) => other !== id);
}

/** Those that are needed come first, else the plan's order. */
export function rankSwitches(draft: Draft): void {
  const byFact = new Map(draft.switch.map((table) => [table.fact, table]));
  const ranked = new Set<Growing<SwitchTable>>();
  const rank = (table: Growing<SwitchTable>): void => {
    if (ranked.has(table)) return;
    for (const { fact } of table.needs) if (byFact.has(fact)) rank(byFact.get(fact)!);
    table.rank = ranked.size;
    ranked.add(table);
  };
  draft.switch.forEach(rank);
}

/** A hold that nothing but its controls turns on and off. */
function isSimple({ style, needs, oneOf, restMs, keepMs }: CheckedSwitch): boolean {
  return style === "hold" && needs.length === 0 && oneOf === undefined && restMs === 0 && keepMs === 0;
}
