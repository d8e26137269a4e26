/**
 * Repairs a plan that the schema rejects, so that the rest of it can be read and all of its faults reported at once. In: a plan as it
 * came, and the places that are wrong. Out: a copy that has something harmless there. Pure.
 */
import { LISTED_NAMES, NAMED_GROUPS, nameFault } from "./names.js";

export type Path = readonly string[];
type Json = Record<string, unknown>;

/** A copy of a plan while it is repaired. */
export class RepairedPlan {
  readonly raw: Json;
  /** Places where nothing more is to be said. */
  private readonly gone: string[] = [];
  /** Names of which nothing is known any more. */
  private readonly unknown = new Set<string>();

  constructor(raw: object) {
    this.raw = copyOf(raw, 0) as Json;
  }

  /** Removes what is wrong at this place. False if nothing of the plan would be left. */
  repair(path: Path, isMissing: boolean): boolean {
    const [group, name, field] = path;
    if (group === undefined || (path.length === 1 && group === "actions")) return false;
    if (group === "reacherPlan") this.raw["reacherPlan"] = 1;
    else if (group === "actions") this.mendAction(name!, path, isMissing);
    else if (path.length === 1) delete this.raw[group];
    else this.mendNamed(group, name!);
    if (group !== "actions" && name !== undefined && group !== "player") this.unknown.add(name);
    if (path.length === 1) this.unknown.add(group);
    this.gone.push((isMissing && field !== "from" ? path.slice(0, -1) : path).join("."));
    return true;
  }

  /** Removes invalid names, with what they name. */
  dropBadNames(): void {
    const drop = (all: unknown, place: string) => {
      if (typeof all !== "object" || all === null) return;
      for (const name of Object.keys(all)) {
        if (nameFault(name) === undefined) continue;
        delete (all as Json)[name];
        this.unknown.add(name);
        this.gone.push(`${place}.${name}`);
      }
    };
    for (const group of NAMED_GROUPS) drop(this.raw[group], group);
    const { actions } = this.raw;
    if (typeof actions !== "object" || actions === null) return;
    for (const [name, action] of Object.entries(actions as Json)) {
      for (const field of ["from", "gaits"])
        drop((action as Json | null)?.[field], `actions.${name}.${field}`);
      for (const field of LISTED_NAMES) {
        const names = [(action as Json | null)?.[field]].flat();
        if (names.every((name) => typeof name !== "string" || nameFault(name) === undefined)) continue;
        delete (action as Json)[field];
        this.gone.push(`actions.${name}.${field}`);
      }
    }
  }

  private mendNamed(group: string, name: string): void {
    const all = this.raw[group] as Json;
    const harmless = { flags: false, numbers: 1, modes: {}, slots: {} }[group];
    if (typeof all !== "object" || harmless === undefined) delete this.raw[group];
    else all[name] = harmless;
  }

  private mendAction(name: string, path: Path, isMissing: boolean): void {
    const actions = this.raw["actions"] as Json;
    const action = actions[name] as Json;
    const isObject = typeof action === "object" && action !== null && !Array.isArray(action);
    const [, , field] = path;
    if (!isObject || field === "kind") {
      actions[name] = { kind: "switch", from: {} };
      this.unknown.add(name);
    } else if (field === "from") mendEntries(action, path.slice(3));
    else if (path.length === 3 || isMissing) delete action[field!];
    else take(action, path.slice(2));
  }

  /** Whether a finding of the repaired plan is one of the plan as it came. */
  holds({
    place,
    message,
    id,
  }: {
    readonly place: string;
    readonly message: string;
    readonly id: string;
  }): boolean {
    if (this.gone.some((one) => place === one || place.startsWith(`${one}.`))) return false;
    const owner = place.split(".").slice(0, 2).join(".");
    const isTouched = this.gone.some((one) => one === owner || one.startsWith(`${owner}.`));
    if (isTouched && (id === "required-bare" || id === "missing-field")) return false;
    if (message.includes(" is no end") && this.gone.some((one) => one.startsWith(`${owner}.ends`)))
      return false;
    const isOfNames = id.startsWith("unknown-") && id !== "unknown-control";
    return !(isOfNames && [...this.unknown].some((name) => message.includes(JSON.stringify(name))));
  }
}

/** Something harmless instead of an entry, so that the others keep their positions. */
function mendEntries(action: Json, [slot, ...rest]: Path): void {
  const from = action["from"] as Json;
  if (slot === undefined || typeof from !== "object" || from === null || Array.isArray(from)) {
    action["from"] = {};
    return;
  }
  const list = from[slot];
  const [number, end] = Array.isArray(list) ? rest : ["", rest[0]];
  const entry = Array.isArray(list) ? (list as unknown[])[Number(number)] : list;
  const harmless = harmlessEntry(action, entry, end);
  if (harmless === undefined) delete from[slot];
  else if (Array.isArray(list) && number !== undefined) (list as unknown[])[Number(number)] = harmless;
  else from[slot] = harmless;
}

/** An entry without the wrong end, or with an unused control. */
function harmlessEntry({ kind }: Json, entry: unknown, end: string | undefined): unknown {
  if (
    (kind === "axis" || kind === "vector") &&
    typeof entry === "object" &&
    entry !== null &&
    !("use" in entry)
  ) {
    const { [end ?? ""]: _, ...others } = entry as Json;
    return Object.keys(others).length === 0 || end === undefined ? undefined : others;
  }
  if (kind === "switch") return UNUSED;
  return undefined;
}

/** Deeper than any plan; what lies deeper is no part of it. */
const DEEPEST = 16;

function copyOf(value: unknown, depth: number): unknown {
  if (typeof value !== "object" || value === null) return value;
  if (depth === DEEPEST) return null;
  if (Array.isArray(value)) return value.map((one) => copyOf(one, depth + 1));
  const copy = Object.create(null) as Json;
  for (const [key, one] of Object.entries(value)) copy[key] = copyOf(one, depth + 1);
  return { ...copy };
}

/** A key that hardly any plan uses. */
const UNUSED = "F24";

/** Takes a field out; of a list, the list. */
function take(object: Json, [first, ...rest]: Path): void {
  const value = object[first!];
  if (rest.length === 0 || typeof value !== "object" || value === null || Array.isArray(value))
    delete object[first!];
  else take(value as Json, rest);
}
