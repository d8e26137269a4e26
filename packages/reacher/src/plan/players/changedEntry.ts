/** Puts a player's control into a slot of an action as it is written. In: the slot's entry, the rest of the address, the value. Pure. */
import { GESTURES, writtenKind } from "../gestures/index.js";
import { ORDINALS } from "../names.js";

type Json = Record<string, unknown>;

/** A slot with one control changed; `entry: null` if nothing is left, `undefined` if the address is invalid. */
export function withControl(
  given: unknown,
  part: readonly string[],
  value: unknown,
): { entry: unknown } | undefined {
  const [first, ...rest] = part;
  if (first !== undefined && /^\d+$/.test(first)) {
    const list: readonly unknown[] = Array.isArray(given) ? given : given === undefined ? [] : [given];
    const at = Number(first);
    if (at > list.length) return undefined;
    const changed =
      at === list.length
        ? rest.length === 0
          ? { entry: value }
          : undefined
        : withControl(list[at], rest, value);
    if (changed === undefined) return undefined;
    const entries = [
      ...list.slice(0, at),
      ...(changed.entry === null ? [] : [changed.entry]),
      ...list.slice(at + 1),
    ];
    return { entry: entries.length === 0 ? null : entries };
  }
  // In a list, an address without a number is its first entry.
  if (Array.isArray(given)) return withControl(given, ["0", ...part], value);
  const members = membersOf(given);
  const member = first === undefined ? members.length - 1 : ORDINALS.indexOf(first);
  if (members.length > 0 && (first === undefined ? typeof value === "string" : rest.length === 0)) {
    if (member < 0 || member >= members.length || typeof value !== "string") return undefined;
    return {
      entry: {
        ...(given as Json),
        [sourceField(given)!]: members.map((one, n) => (n === member ? value : one)),
      },
    };
  }
  if (first === undefined)
    return { entry: value === null || typeof value !== "string" ? value : inPlace(given, value) };
  if (rest.length > 0) return undefined;
  const ends = isObject(given) && !("use" in given) ? given : {};
  const { [first]: before, ...others } = ends;
  if (value !== null)
    return { entry: { ...ends, [first]: typeof value === "string" ? inPlace(before, value) : value } };
  return { entry: Object.keys(others).length === 0 ? null : others };
}

/** The field of an entry that holds its source, or lists its members; `undefined` for what is not written out. */
function sourceField(entry: unknown): string | undefined {
  const kind = isObject(entry) ? writtenKind(entry) : undefined;
  return kind && GESTURES[kind].source;
}

function membersOf(entry: unknown): readonly unknown[] {
  const members = (entry as Json | undefined)?.[sourceField(entry) ?? ""];
  return Array.isArray(members) ? members : [];
}

/** Replaces the control of an entry, which keeps its gesture and its options. */
function inPlace(entry: unknown, control: string): unknown {
  const field = sourceField(entry);
  return field === undefined || membersOf(entry).length > 0
    ? control
    : { ...without(entry as Json, OF_SOURCE), [field]: control };
}

/** What belongs to the control that was there, and goes with it. */
const OF_SOURCE: readonly string[] = ["result", "around", "fullFrom"];

function without(entry: Json, names: readonly string[]): Json {
  return Object.fromEntries(Object.entries(entry).filter(([name]) => !names.includes(name)));
}

function isObject(value: unknown): value is Json {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
