/**
 * The shape of a plan as a schema: what `parsePlan` checks and what the JSON Schema is made from.
 *
 * It knows fields and types only; what the words in them refer to is read in `read.ts`.
 */
import * as v from "valibot";
import { NAME } from "./names.js";
import { MOST_NUMBER } from "./saneRanges.js";

const name = v.pipe(v.string(), v.regex(NAME));
const finite = v.pipe(v.number(), v.finite());
const share = between(0, 1);
const ms = between(0, 60_000);
const text = v.pipe(v.string(), v.maxLength(200));
const control = v.string();

const words = v.union([v.string(), v.array(v.string())]);

const range = v.optional(v.strictTuple([finite, finite]));

const common = {
  label: v.optional(text),
  in: v.optional(v.pipe(v.array(v.string()), v.minLength(1))),
  required: v.optional(v.boolean()),
  locked: v.optional(v.boolean()),
  was: v.optional(v.array(name)),
  player: v.optional(
    v.strictObject({
      controls: v.optional(v.boolean()),
      both: v.optional(v.boolean()),
      style: v.optional(v.array(v.picklist(["hold", "toggle", "either"]))),
      gapMs: range,
      tapMs: range,
      afterMs: range,
      everyMs: range,
      "deadZone.inner": range,
      "deadZone.outer": range,
      gain: range,
      perPixel: range,
      perSecond: range,
      invert: v.optional(v.boolean()),
    }),
  ),
};

const threshold = v.strictObject({
  press: v.optional(between(0.01, 1)),
  release: v.optional(between(0.01, 1)),
});

/** What can drive a switch, by the field that says which it is. */
const gestures = {
  use: v.strictObject({
    use: control,
    waits: v.optional(v.boolean()),
    threshold: v.optional(threshold),
  }),
  taps: v.strictObject({
    taps: v.pipe(between(2, 9), v.integer()),
    of: control,
    gapMs: v.optional(ms),
    eachMs: v.optional(ms),
    brokenBy: v.optional(v.picklist(["opposite", "any", "none"])),
  }),
  short: v.strictObject({ short: control, beforeMs: v.optional(ms) }),
  long: v.strictObject({ long: control, afterMs: v.optional(ms) }),
  all: v.strictObject({
    all: v.pipe(v.array(control), v.minLength(2), v.maxLength(8)),
    spreadMs: v.optional(ms),
  }),
  series: v.strictObject({
    series: v.pipe(v.array(control), v.minLength(2), v.maxLength(16)),
    gapMs: v.optional(ms),
  }),
  flick: v.strictObject({ flick: control, withinMs: v.optional(ms) }),
};
const anyGesture: v.GenericSchema = v.union([control, ...Object.values(gestures)]);

/** Faults are reported for the one gesture that the author meant, not for every alternative. */
const switchEntry = v.lazy((entry: unknown): v.GenericSchema => {
  if (typeof entry !== "object" || entry === null) return entry === undefined ? anyGesture : control;
  const meant = Object.keys(gestures).find((key) => Object.hasOwn(entry, key)) as
    keyof typeof gestures | undefined;
  return meant === undefined ? gestures.use : gestures[meant];
});

/** One of these, or a list of them. */
function listed(entry: v.GenericSchema) {
  const list = v.pipe(v.array(entry), v.minLength(1), v.maxLength(16));
  const either = v.union([entry, list]);
  return v.lazy((given: unknown): v.GenericSchema =>
    given === undefined ? either : Array.isArray(given) ? list : entry,
  );
}

/** A text, or one of these objects: the one that has the field `use` where the author wrote that, else the other. */
function written(used: v.GenericSchema, other?: v.GenericSchema) {
  const any = v.union(other === undefined ? [control, used] : [control, used, other]);
  return v.lazy((entry: unknown): v.GenericSchema => {
    if (entry === undefined) return any;
    if (typeof entry !== "object" || entry === null) return control;
    return other === undefined || Object.hasOwn(entry, "use") ? used : other;
  });
}

const shape = v.strictObject({
  deadZone: v.optional(
    v.strictObject({
      kind: v.optional(v.picklist(["round", "cross"])),
      inner: v.optional(share),
      outer: v.optional(share),
    }),
  ),
  curve: v.optional(
    v.strictObject({
      power: v.optional(between(0.1, 10)),
      points: v.optional(v.pipe(v.array(v.strictTuple([share, share])), v.minLength(2), v.maxLength(32))),
    }),
  ),
  gain: v.optional(between(0, 10)),
  invert: v.optional(v.union([v.picklist(["x", "y", "both"]), v.literal(true)])),
});

const usedControl = v.strictObject({ use: control, shape: v.optional(shape) });
const end = v.optional(
  written(v.strictObject({ use: control, shape: v.optional(shape), threshold: v.optional(threshold) })),
);

/** A number, or the name of one. */
const number = between(-MOST_NUMBER, MOST_NUMBER);
const amount = v.lazy((given: unknown): v.GenericSchema =>
  given === undefined ? v.union([number, name]) : typeof given === "string" ? name : number,
);

const pace = v.strictObject({
  unit: v.optional(text),
  base: amount,
  rules: v.optional(
    v.array(
      v.strictObject({
        when: words,
        set: v.optional(amount),
        times: v.optional(amount),
      }),
    ),
  ),
  easeMs: v.optional(ms),
});

const movement = {
  ...common,
  opposed: v.optional(v.picklist(["latest", "earliest", "neutral"])),
  shape: v.optional(shape),
  ease: v.optional(
    v.strictObject({
      riseMs: v.optional(ms),
      fallMs: v.optional(ms),
      turn: v.optional(v.picklist(["instant", "through"])),
    }),
  ),
  combine: v.optional(v.picklist(["longest", "sum"])),
  facingFrom: v.optional(share),
  // By length at most a square diagonal's; by speed whatever the game's unit gives. The reader looks closer.
  gaits: v.optional(record(name, between(1e-6, MOST_NUMBER))),
  gaitsBy: v.optional(v.picklist(["length", "speed"])),
  gaitMargin: v.optional(between(0, MOST_NUMBER)),
  lingerMs: v.optional(ms),
  pace: v.optional(pace),
};

const switchAction = v.strictObject({
  kind: v.literal("switch"),
  from: record(name, listed(switchEntry)),
  ...common,
  style: v.optional(v.picklist(["hold", "toggle", "either"])),
  tapMs: v.optional(ms),
  startsOn: v.optional(v.boolean()),
  needs: v.optional(words),
  resume: v.optional(v.boolean()),
  oneOf: v.optional(name),
  repeat: v.optional(
    v.strictObject({
      everyMs: between(1, 60_000),
      afterMs: v.optional(between(1, 60_000)),
      apartMs: v.optional(between(0, 60_000)),
    }),
  ),
  restMs: v.optional(ms),
  beginsIf: v.optional(words),
  spends: v.optional(words),
  keepMs: v.optional(ms),
  carry: v.optional(v.boolean()),
  comesBack: v.optional(v.boolean()),
});

const axisAction = v.strictObject({
  kind: v.literal("axis"),
  from: record(name, listed(written(usedControl, v.objectWithRest({ minus: end, plus: end }, end)))),
  ...movement,
  ends: v.optional(v.strictTuple([name, name])),
  faces: v.optional(name),
});

const vectorAction = v.strictObject({
  kind: v.literal("vector"),
  from: record(
    name,
    listed(written(usedControl, v.strictObject({ up: end, left: end, down: end, right: end }))),
  ),
  ...movement,
  directions: v.optional(v.picklist(["free", 8, 4])),
  diagonal: v.optional(v.picklist(["round", "square"])),
  faces: v.optional(v.picklist(["up", "left", "down", "right"])),
  settleMs: v.optional(ms),
});

const turnAction = v.strictObject({
  kind: v.literal("turn"),
  from: record(
    name,
    listed(
      v.strictObject({
        use: control,
        perPixel: v.optional(between(-1000, 1000)),
        perSecond: v.optional(between(-100_000, 100_000)),
        shape: v.optional(shape),
      }),
    ),
  ),
  ...common,
  shape: v.optional(shape),
  pace: v.optional(v.strictObject({ rules: v.array(v.strictObject({ when: words, times: amount })) })),
});

/** The schema of a plan (valibot). */
export const planSchema = v.strictObject({
  $schema: v.optional(v.string()),
  reacherPlan: v.literal(1),
  name: v.optional(text),
  version: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0))),
  yAxis: v.optional(v.picklist(["up", "down"])),
  slots: v.optional(
    record(
      name,
      v.strictObject({
        label: v.optional(text),
        device: v.optional(v.picklist(["keyboard", "mouse", "pad"])),
      }),
    ),
  ),
  flags: v.optional(
    record(
      name,
      v.union([v.boolean(), v.strictObject({ start: v.optional(v.boolean()), lingerMs: v.optional(ms) })]),
    ),
  ),
  numbers: v.optional(record(name, number)),
  modes: v.optional(
    record(name, v.strictObject({ covers: v.optional(v.picklist(["none", "same", "all"])) })),
  ),
  start: v.optional(v.array(v.string())),
  seats: v.optional(record(name, v.strictObject({ slots: v.pipe(v.array(v.string()), v.minLength(1)) }))),
  bounceMs: v.optional(between(0, 1000)),
  protected: v.optional(v.array(control)),
  player: v.optional(
    v.strictObject({
      bounceMs: range,
      swapSticks: v.optional(v.boolean()),
      holds: v.optional(v.boolean()),
    }),
  ),
  actions: record(name, v.variant("kind", [switchAction, axisAction, vectorAction, turnAction])),
});

const noObject = v.custom<never>(() => false, "an object");

/** A record that is no list, which the schema library takes for one. */
function record<T extends v.GenericSchema>(
  key: typeof name,
  value: T,
): v.RecordSchema<typeof name, T, undefined> {
  const schema = v.record(key, value);
  return {
    ...schema,
    "~run": (dataset, config) => (Array.isArray(dataset.value) ? noObject : schema)["~run"](dataset, config),
  };
}

function between(low: number, high: number) {
  return v.pipe(v.number(), v.finite(), v.minValue(low), v.maxValue(high));
}
