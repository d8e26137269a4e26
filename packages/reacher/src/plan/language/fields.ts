/**
 * What a field of a plan may hold, as data: the schema, the check of a built game, sliders and players' settings are loops over it.
 * Pure.
 */
import { MOST_NUMBER, type SaneRange } from "./saneRanges.js";

/** The fields of an object by name. */
export type Fields = Readonly<Record<string, Field>>;

/** A field, and whether an object must have it. */
export type Field = Value & { readonly required?: true };

export type Value =
  | NumberValue
  | { readonly is: "choice"; readonly of: readonly (string | number | true)[] }
  /** `word`: a condition. */
  | { readonly is: "truth" | "text" | "label" | "name" | "control" | "word" }
  | { readonly is: "list"; readonly of: Value; readonly least: number; readonly most: number }
  | { readonly is: "pair"; readonly of: Value }
  /** `rest`: what further fields may hold. */
  | { readonly is: "object"; readonly fields: Fields; readonly rest?: Value }
  /** Any name, each with such a value. */
  | { readonly is: "record"; readonly of: Value }
  /** What may be said in several ways; which one is meant shows in its JSON type, or in the fields that it has. */
  | { readonly is: "either"; readonly of: readonly Value[] }
  /** An object whose field `kind` says which fields it has. */
  | { readonly is: "kinds"; readonly of: Readonly<Record<string, Fields>> };

export interface NumberValue {
  readonly is: "number";
  /** What a plan may have. */
  readonly least: number;
  readonly most: number;
  readonly whole?: true;
  /** What it counts in, where people tune it; missing where they do not. */
  readonly unit?: Unit;
  /** What a slider covers; of a speed the value itself asks for it. */
  readonly slider?: readonly [least: number, most: number];
  readonly default?: number;
  /** Outside of this `checkPlan` warns. */
  readonly sane?: SaneRange;
  /** Whether it is shown where the plan does not say it, since its default is felt. */
  readonly felt?: true;
  /** What a settings screen calls it, and what an action must have for it; missing where players cannot set it. */
  readonly player?: { readonly about: string; readonly has: string };
}

/** `ms`; a share 0..1; a factor; degrees, or whatever a turn counts in; a speed in the pace's own unit. */
export type Unit = "ms" | "share" | "factor" | "degrees" | "speed" | "presses";

type More = Partial<Omit<NumberValue, "is" | "unit">>;

function tuned(unit: Unit, least: number, most: number, more: More): NumberValue {
  return { is: "number", unit, least, most, ...more };
}

/** A time in ms, with a slider up to `upTo`. */
export function ms(upTo: number, more?: More): NumberValue {
  return tuned("ms", 0, 60_000, { slider: [0, upTo], ...more });
}

/** A part of the whole, 0..1. */
export function share(more?: More): NumberValue {
  return tuned("share", 0, 1, { slider: [0, 1], ...more });
}

export function factor(least: number, most: number, more?: More): NumberValue {
  return tuned("factor", least, most, { slider: [0, 4], ...more });
}

export function degrees(most: number, upTo: number): NumberValue {
  return tuned("degrees", -most, most, { slider: [0, upTo] });
}

/** A speed in the plan's own unit. */
export function speed(least = -MOST_NUMBER): NumberValue {
  return tuned("speed", least, MOST_NUMBER, {});
}

export function presses(least: number, most: number): NumberValue {
  return tuned("presses", least, most, { whole: true, slider: [least, most] });
}

/** A number that nobody tunes. */
export function number(least: number, most: number, whole = false): NumberValue {
  return { is: "number", least, most, ...(whole && { whole }) };
}

export function choice(...of: readonly (string | number | true)[]): Value {
  return { is: "choice", of };
}

export function object(fields: Fields, rest?: Value): Value {
  return { is: "object", fields, ...(rest && { rest }) };
}

export function record(of: Value): Value {
  return { is: "record", of };
}

export function list(of: Value, least: number, most: number): Value {
  return { is: "list", of, least, most };
}

export function either(...of: readonly Value[]): Value {
  return { is: "either", of };
}

export const TRUTH: Value = { is: "truth" };
/** A control, or a direction of an axis or a vector. */
export const CONTROL: Value = { is: "control" };
export const NAME_OF: Value = { is: "name" };
export const LABEL: Value = { is: "label" };
const WORD: Value = { is: "word" };

export function required<V extends Value>(value: V): V & { required: true } {
  return { ...value, required: true };
}

/** One word, or several: flags. */
export const FLAGS: Value = either(WORD, list(WORD, 0, Infinity));

const TIMED: Value = either(WORD, object({ is: required(WORD), forMs: required(ms(3000, { least: 1 })) }));
/** One condition, or several that must all be so; each may say for how long. */
export const WORDS: Value = either(TIMED, list(TIMED, 0, Infinity));

/** One of these, or a list of them. */
export function listed(value: Value): Value {
  return either(value, list(value, 1, 16));
}

/** The member of an `either` that was meant, by what it looks like; the first where it looks like none. */
export function meantOf(of: readonly Value[], given: unknown): Value {
  const fitting = of.filter(({ is }) => fits(is, given));
  const first = fitting[0] ?? of[0]!;
  if (first.is === "either") return meantOf(first.of, given);
  if (first.is !== "object" || fitting.length === 0) return first;
  return (
    fitting.find((value) => Object.hasOwn(given as object, signOf(value) ?? "")) ??
    fitting.find((value) => signOf(value) === undefined) ??
    first
  );
}

function fits(is: Value["is"], given: unknown): boolean {
  if (Array.isArray(given)) return is === "list";
  if (typeof given === "object" && given !== null) return is === "object" || is === "either";
  if (typeof given === "string")
    return is === "control" || is === "name" || is === "word" || is === "choice" || is === "either";
  return is === "number" || is === "truth";
}

/** The field that tells what an object is. */
function signOf(value: Value): string | undefined {
  const fields = value.is === "object" ? value.fields : {};
  return Object.keys(fields).find((name) => fields[name]!.required);
}
