/** Reads switches: their entries and options. */
import type { CheckedAction, CheckedEntry, CheckedSwitch } from "../checked.js";
import { GESTURES, writtenKind } from "../gestures/index.js";
import { readOptions } from "../options/index.js";
import { STYLES } from "../options/style.js";
import type { Style, SwitchEntry, SwitchFields } from "../types.js";
import type { Reader } from "./reader.js";

export function readSwitch(reader: Reader, name: string, action: SwitchFields): CheckedSwitch {
  const place = `actions.${name}`;
  const entries: CheckedEntry[] = [];
  for (const { slot, entry, place: at, address } of reader.entries(name, action.from)) {
    const read = readEntry(reader, entry, at);
    if (read !== undefined) entries.push({ address, slot, ...read } as CheckedEntry);
  }
  return {
    kind: "switch",
    name,
    label: action.label ?? name,
    in: reader.modeNames(action.in ?? [], `${place}.in`),
    ...readOptions(reader, action, place),
    entries,
    mayBeEither: stylesOf(action).includes("either"),
  };
}

/** The styles that it has or that a player may give it. */
export function stylesOf({ style = "hold", locked, player }: SwitchFields): readonly Style[] {
  return [style, ...(locked === true ? [] : (player?.style ?? STYLES))];
}

/** An entry without its address; `undefined` if a source in it is invalid. */
function readEntry(reader: Reader, entry: SwitchEntry, place: string) {
  if (typeof entry === "object") return GESTURES[writtenKind(entry)!].read(reader, entry as never, place);
  const source = reader.source(entry, place);
  return source && { kind: "plain", waits: false, of: [source] };
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
