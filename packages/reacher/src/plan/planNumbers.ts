/**
 * The numbers of a plan, as people tune them. In: a plan as it was written. Out: each number with its place, unit, default and range,
 * those that stand at their default included. Pure.
 */
import { isTooDeep } from "./depth.js";
import { SANE_DEAD_ZONE, SANE_TAP_GAP, type SaneRange } from "./saneRanges.js";

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
  readonly sane?: SaneRange;
}

/** All numbers of a plan, in its own order. What is no plan has none. */
export function planNumbers(plan: unknown): PlanNumber[] {
  const found: PlanNumber[] = [];
  if (isObject(plan) && !isTooDeep(plan)) walk(plan, [], found);
  return found;
}

type Field = Pick<PlanNumber, "unit" | "least" | "most" | "step" | "sane" | "default">;
type Path = readonly (string | number)[];

const time = (most: number, byDefault?: number, sane?: SaneRange): Field => ({
  unit: "ms",
  least: 0,
  most,
  step: 5,
  ...(byDefault !== undefined && { default: byDefault }),
  ...(sane !== undefined && { sane }),
});
const share = (byDefault?: number, sane?: SaneRange, most = 1): Field => ({
  unit: "share",
  least: 0,
  most,
  step: 0.01,
  ...(byDefault !== undefined && { default: byDefault }),
  ...(sane !== undefined && { sane }),
});
const factor = (least: number, most: number, byDefault?: number): Field => ({
  unit: "factor",
  least,
  most,
  step: 0.05,
  ...(byDefault !== undefined && { default: byDefault }),
});

/** By field. What is not here is no number to tune: versions, counts of ways, what players may change. */
const FIELDS: Readonly<Record<string, Field>> = {
  gapMs: time(600, 250, SANE_TAP_GAP),
  eachMs: time(600),
  tapMs: time(600, 250),
  beforeMs: time(1000, 250),
  afterMs: time(2000, 400),
  spreadMs: time(500),
  withinMs: time(300, 80),
  restMs: time(3000, 0),
  keepMs: time(500, 0),
  lingerMs: time(500, 0),
  settleMs: time(300, 60),
  easeMs: time(1000, 0),
  riseMs: time(600, 90),
  fallMs: time(600, 60),
  everyMs: time(1000),
  apartMs: time(1000, 0),
  bounceMs: time(100, 0),
  inner: share(0.12, SANE_DEAD_ZONE, 0.6),
  outer: share(0.04, undefined, 0.6),
  press: share(0.5),
  release: share(),
  facingFrom: share(0.25),
  gaitMargin: share(0.04, undefined, 0.3),
  power: factor(0.2, 4, 1),
  gain: factor(0.1, 4, 1),
  times: factor(0, 4),
  perPixel: { unit: "degrees", least: 0, most: 1, step: 0.01 },
  perSecond: { unit: "degrees", least: 0, most: 720, step: 5 },
  taps: { unit: "presses", least: 2, most: 9, step: 1 },
};

/** Numbers that stand at their default where an object with this field does not say them. */
const EXPECTED: readonly (readonly [has: string, name: string])[] = [
  ["taps", "gapMs"],
  ["series", "gapMs"],
  ["short", "beforeMs"],
  ["long", "afterMs"],
  ["flick", "withinMs"],
];

function walk(node: Readonly<Record<string, unknown>>, path: Path, found: PlanNumber[]): void {
  for (const [name, value] of Object.entries(node)) {
    const own = [...path, name];
    if (typeof value === "number") {
      const field = fieldAt(own, value);
      if (field !== undefined) found.push(made(own, value, true, field));
    } else if (Array.isArray(value) && name !== "points") {
      value.forEach((item, n) => isObject(item) && walk(item, [...own, n], found));
    } else if (isObject(value) && name !== "player") walk(value, own, found);
  }
  for (const name of expectedIn(node, path)) {
    const field = FIELDS[name.at(-1) as string]!;
    if (at(node, name) === undefined) found.push(made([...path, ...name], field.default!, false, field));
  }
}

/** What an object does not say and a player feels all the same. */
function expectedIn(node: Readonly<Record<string, unknown>>, path: Path): (readonly string[])[] {
  const names = EXPECTED.filter(([has]) => has in node).map(([, name]) => [name]);
  if (path.length !== 2 || path[0] !== "actions") return names;
  if (node["style"] === "either") names.push(["tapMs"]);
  if (node["kind"] !== "switch" && /"Pad\w*Stick/.test(JSON.stringify(node["from"] ?? null)))
    names.push(["shape", "deadZone", "inner"], ["shape", "deadZone", "outer"]);
  return names;
}

function fieldAt(path: Path, value: number): Field | undefined {
  const [name, parent] = [path.at(-1)!, path.at(-2)];
  const speed: Field = { unit: "speed", least: 0, most: roomFor(value), step: fineness(value) };
  if (path.length === 2 && path[0] === "numbers") return speed;
  if (parent === "gaits") return value > 1 ? speed : share();
  if (name === "base" || name === "set") return speed;
  const field = typeof name === "string" && Object.hasOwn(FIELDS, name) ? FIELDS[name] : undefined;
  // A repeat's second pulse is no long press.
  return name === "afterMs" && parent === "repeat" ? time(2000) : field;
}

function made(path: Path, value: number, isWritten: boolean, field: Field): PlanNumber {
  const action = path[0] === "actions" ? { action: String(path[1]) } : {};
  return { path, place: path.join("."), ...action, name: String(path.at(-1)), value, isWritten, ...field };
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

function isObject(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
