/**
 * Reads plans in a game that was built ahead: the author's plan was checked then, so only a player's changes are. In: the
 * plan, or the plan with a player's changes. Out: its checked form, or why it cannot run; in fewer words than the whole reader has.
 */
import { finding } from "./findings.js";
import { nameFault } from "./names.js";
import { readShaped, type PlanReading } from "./readShaped.js";
import type { Plan } from "./types.js";

type Check = (value: unknown) => boolean;
type Fields = Readonly<Record<string, Check>>;

const within =
  (least: number, most: number): Check =>
  (value) =>
    typeof value === "number" && value >= least && value <= most;
const oneOf =
  (...known: readonly unknown[]): Check =>
  (value) =>
    known.includes(value);
const listOf =
  (check: Check, least: number, most: number): Check =>
  (value) =>
    Array.isArray(value) && value.length >= least && value.length <= most && value.every(check);
const optional =
  (check: Check): Check =>
  (value) =>
    value === undefined || check(value);
/** An object with these fields and no others; one with `*` may have more, of that kind. */
const object =
  (fields: Fields): Check =>
  (value) =>
    typeof value === "object" &&
    value !== null &&
    Object.entries(fields).every(([name, check]) => name === "*" || check((value as Fields)[name])) &&
    Object.keys(value).every(
      (name) =>
        Object.hasOwn(fields, name) ||
        (fields["*"] !== undefined && nameFault(name) === undefined && fields["*"]((value as Fields)[name])),
    );

const text: Check = (value) => typeof value === "string";
const truth = oneOf(true, false);
const ms = optional(within(0, 60_000));
const share = optional(within(0, 1));
const press = optional(within(0.01, 1));
const point: Check = (value) => listOf(within(0, 1), 2, 2)(value);

const threshold = optional(object({ press, release: press }));
const shape = optional(
  object({
    deadZone: optional(object({ kind: optional(oneOf("round", "cross")), inner: share, outer: share })),
    curve: optional(object({ power: optional(within(0.1, 10)), points: optional(listOf(point, 2, 32)) })),
    gain: optional(within(0, 10)),
    invert: optional(oneOf("x", "y", "both", true)),
  }),
);
const isWhole: Check = (value) => Number.isInteger(value) && within(2, 9)(value);
const GESTURES: Readonly<Record<string, Check>> = {
  use: object({ use: text, waits: optional(truth), threshold }),
  taps: object({
    taps: isWhole,
    of: text,
    gapMs: ms,
    eachMs: ms,
    brokenBy: optional(oneOf("opposite", "any", "none")),
  }),
  short: object({ short: text, beforeMs: ms }),
  long: object({ long: text, afterMs: ms }),
  all: object({ all: listOf(text, 2, 8), spreadMs: ms }),
  series: object({ series: listOf(text, 2, 16), gapMs: ms }),
  flick: object({ flick: text, withinMs: ms }),
};
const gesture: Check = (entry) => {
  const meant = Object.keys(GESTURES).find((field) => Object.hasOwn(Object(entry), field));
  return meant !== undefined && GESTURES[meant]!(entry);
};
const used = object({ use: text, shape });
const usedEnd = object({ use: text, shape, threshold });
const end = optional((value) => text(value) || usedEnd(value));
const movement =
  (ends: Check): Check =>
  (entry) =>
    text(entry) || (Object.hasOwn(Object(entry), "use") ? used : ends)(entry);
const ENTRIES: Readonly<Record<string, Check>> = {
  switch: (entry) => text(entry) || gesture(entry),
  axis: movement(object({ "*": end })),
  vector: movement(object({ up: end, left: end, down: end, right: end })),
  turn: object({
    use: text,
    perPixel: optional(within(-1000, 1000)),
    perSecond: optional(within(-100_000, 100_000)),
    shape,
  }),
};
const repeat = optional(object({ everyMs: within(1, 60_000), "*": within(0, 60_000) }));

/** Reads without throwing. `isPlayers`: the plan has a player's changes. */
export function readPlan(raw: unknown, isPlayers = false): PlanReading {
  const plan = raw as Plan;
  if (isPlayers)
    for (const [name, action] of Object.entries(plan.actions)) {
      const place = faultIn(action as unknown as Readonly<Record<string, unknown>>);
      if (place !== undefined)
        return { ok: false, findings: [finding("wrong-value", `actions.${name}.${place}`, NOTHING)] };
    }
  if (!within(0, 1000)(plan.bounceMs ?? 0))
    return { ok: false, findings: [finding("wrong-value", "bounceMs", "is 0 to 1000 ms")] };
  return readShaped(plan, isPlayers);
}

const NOTHING = "is nothing that a plan could have there";

/** The places that a player may change with a value of the wrong shape. */
function faultIn(action: Readonly<Record<string, unknown>>): string | undefined {
  const entry = ENTRIES[action["kind"] as string]!;
  for (const [slot, given] of Object.entries(action["from"] as object))
    if (!(Array.isArray(given) ? listOf(entry, 1, 16)(given) : entry(given))) return `from.${slot}`;
  if (!shape(action["shape"])) return "shape";
  if (!ms(action["tapMs"])) return "tapMs";
  return repeat(action["repeat"]) ? undefined : "repeat";
}
