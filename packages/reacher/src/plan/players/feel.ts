/**
 * How sticks and the mouse feel, as a player sets it: for a whole action or for one slot of it, so that mouse and stick differ. In: an
 * action as it is written. Out: the action with the setting, as its author would have written it.
 */
import type { Control, ControlFamily } from "../../controls/catalogue.js";
import type { Shape } from "../types.js";

/** Settings that may be given for a slot alone, as well as for the whole action. */
export const FEEL: readonly string[] = [
  "gain",
  "invert",
  "deadZone.inner",
  "deadZone.outer",
  "perPixel",
  "perSecond",
];

/** Which axes of a stick or a mouse are inverted. */
export const INVERTED: readonly string[] = ["none", "x", "y", "both"];

type Json = Record<string, unknown>;
type Find = (name: string) => Control | undefined;

/** Analog controls: those with an amount. */
export const ANALOG: readonly ControlFamily[] = ["stick", "axis", "trigger", "half"];

/** An action with a feel setting for one slot, or without a slot for all; `undefined` if nothing there takes it. */
export function withFeel(
  find: Find,
  action: Json,
  slot: string | undefined,
  setting: string,
  value: unknown,
): Json | undefined {
  let taken = 0;
  const change = (entry: unknown): unknown => {
    if (Array.isArray(entry)) return entry.map(change);
    const changed = withEntryFeel(find, entry, slot === undefined, setting, value);
    if (changed !== undefined) taken++;
    return changed ?? entry;
  };
  const from = Object.entries(action["from"] as Json).map(([name, entry]) => [
    name,
    slot === undefined || name === slot ? change(entry) : entry,
  ]);
  const changed = { ...action, from: Object.fromEntries(from) as Json };
  if (slot !== undefined || setting.startsWith("per")) return taken > 0 ? changed : undefined;
  // For the whole action it replaces the plan's own value.
  const shape = (action["shape"] ?? {}) as Shape;
  return { ...changed, shape: setting === "invert" ? turned(shape, value) : shaped(shape, setting, value) };
}

/** An entry with the setting; `undefined` if it does not take it. */
function withEntryFeel(
  find: Find,
  entry: unknown,
  isWhole: boolean,
  setting: string,
  value: unknown,
): unknown {
  if (typeof entry === "string") return isWhole ? undefined : withShape(find, { use: entry }, setting, value);
  if (typeof entry !== "object" || entry === null) return undefined;
  if (!("use" in entry)) {
    const ends = Object.entries(entry).map(
      ([end, one]) => [end, one, withEntryFeel(find, one, isWhole, setting, value)] as const,
    );
    if (ends.every(([, , changed]) => changed === undefined)) return undefined;
    return Object.fromEntries(ends.map(([end, one, changed]) => [end, changed ?? one]));
  }
  const used = entry as Json;
  if (setting.startsWith("per")) return setting in used ? { ...used, [setting]: value } : undefined;
  if (!isWhole) return withShape(find, used, setting, value);
  // A player's setting for the whole action overrides the plan's for one entry; but factors multiply.
  return setting.startsWith("deadZone") && "shape" in used
    ? withShape(find, used, setting, value)
    : undefined;
}

function withShape(find: Find, used: Json, setting: string, value: unknown): Json | undefined {
  const control = find(used["use"] as string);
  const isMouse = control?.family === "motion";
  if (control === undefined || !(isMouse || ANALOG.includes(control.family))) return undefined;
  if (isMouse && setting.startsWith("deadZone")) return undefined;
  const shape = (used["shape"] ?? {}) as Shape;
  const isOne = !isMouse && control.family !== "stick";
  const own =
    setting === "gain"
      ? { ...shape, gain: (shape.gain ?? 1) * (value as number) }
      : setting === "invert"
        ? turned(shape, both(shape.invert, value as string, isOne))
        : shaped(shape, setting, value);
  return { ...used, shape: own };
}

function shaped(shape: Shape, setting: string, value: unknown): Shape {
  const [field, side] = setting.split(".");
  if (side === undefined) return { ...shape, [field!]: value };
  return { ...shape, [field!]: { ...((shape as Json)[field!] as Json | undefined), [side]: value } };
}

function turned({ invert: _, ...shape }: Shape, value: unknown): Shape {
  return value === "none" ? shape : { ...shape, invert: value as "x" };
}

/** Inverting twice cancels out. */
function both(one: Shape["invert"], other: string, isOne: boolean): string {
  const has = (way: "x" | "y", invert: unknown) => invert === way || invert === "both" || invert === true;
  if (isOne) return (one === undefined) === (other === "none") ? "none" : "both";
  const x = has("x", one) !== has("x", other);
  const y = has("y", one) !== has("y", other);
  return x ? (y ? "both" : "x") : y ? "y" : "none";
}
