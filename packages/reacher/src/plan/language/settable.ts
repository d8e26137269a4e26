/** Numbers that players set by name, wherever a switch has them: in its gestures or in its options. Pure. */
import type { CheckedEntry, CheckedSwitch } from "../checked.js";
import { GESTURES, writtenKind } from "../gestures/index.js";
import { OPTIONS } from "../options/index.js";
import type { Option, OptionName } from "../options/option.js";
import type { Field, Fields } from "./fields.js";

type Json = Readonly<Record<string, unknown>>;

/** A number with its name, and what a settings screen calls it. */
export interface Settable {
  readonly name: string;
  readonly about: string;
  /** What a switch must have for it. */
  readonly has: string;
}

/** The fields of a switch beside its entries. */
export const OPTION_FIELDS: Fields = Object.fromEntries(
  Object.entries(OPTIONS).map(([name, { field }]) => [name, field as Field]),
);

/** All of them, by name; one that several gestures have stands once. */
export const SETTABLE: ReadonlyMap<string, Settable> = collected();

function collected(): Map<string, Settable> {
  const all = new Map<string, Settable>();
  const look = (fields: Fields) => {
    for (const [name, field] of Object.entries(fields)) {
      if (field.is === "object") look(field.fields);
      if (field.is !== "number" || field.player === undefined) continue;
      const { about, has } = field.player;
      const known = all.get(name);
      all.set(name, { name, about, has: known === undefined ? has : `${known.has} or ${has}` });
    }
  };
  for (const { fields } of Object.values(GESTURES)) look(fields);
  look(OPTION_FIELDS);
  return all;
}

/** Its value in a switch; `undefined` where the switch has it nowhere. */
export function settableValue(action: CheckedSwitch, name: string): number | undefined {
  const entry = action.entries.find(({ kind }) => isSettable(GESTURES[kind].fields, name));
  if (entry !== undefined) return (entry as CheckedEntry & Json)[name] as number;
  const options = action as unknown as Json;
  const option = optionWith(name);
  if (option === undefined) return undefined;
  const { appliesTo = () => true } = OPTIONS[option] as Option<never>;
  if (option === name) return appliesTo(action) ? (options[name] as number) : undefined;
  return (options[option] as Json | undefined)?.[name] as number | undefined;
}

/** A switch as it is written, with the number set wherever it has it; `undefined` where that is nowhere. */
export function withSettable(action: Json, name: string, value: number): Json | undefined {
  if (action["kind"] !== "switch") return undefined;
  const option = optionWith(name);
  if (option === name) return { ...action, [name]: value };
  if (option !== undefined) {
    const given = action[option] as Json | undefined;
    return given && { ...action, [option]: { ...given, [name]: value } };
  }
  let isFound = false;
  const changed = (entry: unknown): unknown => {
    if (Array.isArray(entry)) return entry.map(changed);
    const kind = typeof entry === "object" && entry !== null ? writtenKind(entry) : undefined;
    if (kind === undefined || !isSettable(GESTURES[kind].fields, name)) return entry;
    isFound = true;
    return { ...(entry as Json), [name]: value };
  };
  const from = Object.entries(action["from"] as Json).map(([slot, entry]) => [slot, changed(entry)]);
  return isFound ? { ...action, from: Object.fromEntries(from) } : undefined;
}

/** The option that is this number, or has it. */
function optionWith(name: string): OptionName | undefined {
  return (Object.keys(OPTIONS) as OptionName[]).find((option) => {
    const field = OPTION_FIELDS[option]!;
    return option === name || (field.is === "object" && isSettable(field.fields, name));
  });
}

function isSettable(fields: Fields, name: string): boolean {
  const field = Object.hasOwn(fields, name) ? fields[name]! : undefined;
  return field?.is === "number" && field.player !== undefined;
}
