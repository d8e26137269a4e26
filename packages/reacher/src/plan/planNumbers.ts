/**
 * The numbers of a plan, as people tune them. In: a plan as it was written. Out: each number with its place, unit, default and range,
 * those that stand at their default included. Pure.
 */
import { isTooDeep } from "./depth.js";
import { meantOf, share, type Fields, type NumberValue, type Value } from "./language/fields.js";
import { OPTIONS } from "./options/index.js";
import type { Option } from "./options/option.js";
import { PLAN } from "./language/plan.js";

/** One number of a plan. */
export interface PlanNumber {
  /** Where it stands in the plan's JSON: object keys, and places in lists. */
  readonly path: readonly (string | number)[];
  /** The path as findings write it: `actions.surge.from.main.gapMs`. */
  readonly place: string;
  /** The action that it belongs to; absent for what belongs to the whole plan. */
  readonly action?: string;
  /** The field, or the name that the plan gives it. */
  readonly name: string;
  readonly value: number;
  /** False where the plan does not say it, and the default counts. */
  readonly isWritten: boolean;
  /** `ms`; a share 0..1; a factor; degrees, or whatever a turn counts in; a speed in the pace's own unit. */
  readonly unit: "ms" | "share" | "factor" | "degrees" | "speed" | "presses";
  readonly default?: number;
  /** What a slider may cover. The value itself may lie beyond. */
  readonly least: number;
  readonly most: number;
  readonly step: number;
  /** Outside of this `checkPlan` warns; absent where it never does. */
  readonly sane?: { readonly least: number; readonly most: number };
}

/** All numbers of a plan, in its own order. What is no plan has none. */
export function planNumbers(plan: unknown): PlanNumber[] {
  const found: PlanNumber[] = [];
  if (isObject(plan) && !isTooDeep(plan)) walk({ is: "object", fields: PLAN }, plan, [], found);
  return found;
}

type Path = readonly (string | number)[];
type Json = Readonly<Record<string, unknown>>;

/** Collects the numbers of a value, where the language has fields for them. */
function walk(field: Value, value: unknown, path: Path, found: PlanNumber[]): void {
  if (field.is === "either") walk(meantOf(field.of, value), value, path, found);
  else if (field.is === "number") {
    if (typeof value === "number" && field.unit !== undefined) found.push(made(path, value, true, field));
  } else if (field.is === "list") {
    if (Array.isArray(value)) value.forEach((one, n) => walk(field.of, one, [...path, n], found));
  } else if (isObject(value)) walkObject(field, value, path, found);
}

function walkObject(field: Value, value: Json, path: Path, found: PlanNumber[]): void {
  const fields = field.is === "object" ? field.fields : field.is === "kinds" ? kindOf(field, value) : {};
  const rest = field.is === "record" ? field.of : field.is === "object" ? field.rest : undefined;
  for (const [name, one] of Object.entries(value)) {
    const own = Object.hasOwn(fields, name) ? fields[name] : rest;
    if (own !== undefined) walk(own, one, [...path, name], found);
  }
  for (const unwritten of [...feltIn(fields, value), ...(field.is === "kinds" ? feltByAction(value) : [])]) {
    const tuned = unwritten.reduce<Value>((of, name) => (of as Container).fields[name]!, {
      is: "object",
      fields,
    }) as NumberValue;
    found.push(made([...path, ...unwritten], tuned.default!, false, tuned));
  }
}

type Container = Value & { readonly is: "object" };

function kindOf(field: Value & { readonly is: "kinds" }, { kind }: Json): Fields {
  return Object.hasOwn(field.of, String(kind)) ? field.of[String(kind)]! : {};
}

/** What an entry does not say and a player feels all the same. */
function feltIn(fields: Fields, value: Json): (readonly string[])[] {
  return Object.entries(fields).flatMap(([name, field]) =>
    field.is === "number" && field.felt === true && value[name] === undefined ? [[name]] : [],
  );
}

/** The same of an action. */
function feltByAction(action: Json): (readonly string[])[] {
  const isSwitch = action["kind"] === "switch";
  const options = Object.entries(OPTIONS) as [string, Option<never>][];
  const names = isSwitch
    ? options.flatMap(([name, { appliesTo }]) => (appliesTo?.(action) === true ? [[name]] : []))
    : [];
  if (!isSwitch && /"Pad\w*Stick/.test(JSON.stringify(action["from"] ?? null)))
    names.push(["shape", "deadZone", "inner"], ["shape", "deadZone", "outer"]);
  return names.filter((path) => at(action, path) === undefined);
}

/** A band of a length is a part of it. */
const BAND = share();

/** How finely a slider moves; degrees by how many there are. */
const STEPS = { ms: 5, share: 0.01, factor: 0.05, presses: 1 } as const;

function made(path: Path, value: number, isWritten: boolean, field: NumberValue): PlanNumber {
  const own = path.at(-2) === "gaits" && value <= 1 ? BAND : field;
  const unit = own.unit!;
  // A speed's slider follows from what the plan says.
  const [least, most] = own.slider ?? [0, roomFor(value)];
  return {
    path,
    place: path.join("."),
    ...(path[0] === "actions" && { action: String(path[1]) }),
    name: String(path.at(-1)),
    value,
    isWritten,
    unit,
    ...(own.default !== undefined && { default: own.default }),
    least,
    most,
    step: unit === "speed" ? fineness(value) : unit === "degrees" ? (most > 1 ? 5 : 0.01) : STEPS[unit],
    ...(own.sane && { sane: own.sane }),
  };
}

/** A round number at least twice as large, so that a slider has room. */
function roomFor(value: number): number {
  const size = 10 ** Math.floor(Math.log10(Math.max(Math.abs(value), 0.1)));
  return Math.ceil((2 * Math.abs(value)) / size) * size || 1;
}

/** About a hundredth of that, and a power of ten, so that what people wrote stays as they wrote it. */
function fineness(value: number): number {
  return 10 ** (Math.floor(Math.log10(roomFor(value))) - 2);
}

function at(node: unknown, path: Path): unknown {
  return path.reduce<unknown>((inner, key) => (isObject(inner) ? inner[key] : undefined), node);
}

function isObject(value: unknown): value is Json {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
