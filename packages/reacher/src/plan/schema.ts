/**
 * The shape of a plan as a schema: what `parsePlan` checks and what the JSON Schema is made from.
 *
 * It knows fields and types only; what the words in them refer to is read in `read.ts`.
 */
import * as v from "valibot";
import { NAME } from "./names.js";

const name = v.pipe(v.string(), v.regex(NAME));
const finite = v.pipe(v.number(), v.finite());
const share = between(0, 1);
const ms = between(0, 60_000);
const text = v.pipe(v.string(), v.maxLength(200));
const control = v.string();

const common = { label: v.optional(text) };

const shape = v.strictObject({
  deadZone: v.optional(
    v.strictObject({
      kind: v.optional(v.picklist(["round"])),
      inner: v.optional(share),
      outer: v.optional(share),
    }),
  ),
  curve: v.optional(v.strictObject({ power: between(0.1, 10) })),
});

const movement = {
  ...common,
  opposed: v.optional(v.picklist(["latest", "earliest", "neutral"])),
  shape: v.optional(shape),
};

const pace = v.strictObject({
  unit: v.optional(text),
  base: finite,
  rules: v.optional(
    v.array(
      v.strictObject({
        when: v.union([v.string(), v.array(v.string())]),
        set: v.optional(finite),
        times: v.optional(finite),
      }),
    ),
  ),
  easeMs: v.optional(ms),
});

const switchAction = v.strictObject({
  kind: v.literal("switch"),
  from: v.record(name, control),
  ...common,
  style: v.optional(v.picklist(["hold", "toggle", "either"])),
  tapMs: v.optional(ms),
  startsOn: v.optional(v.boolean()),
});

const axisAction = v.strictObject({
  kind: v.literal("axis"),
  from: v.record(name, v.union([control, v.strictObject({ minus: v.optional(control), plus: v.optional(control) })])),
  ...movement,
});

const vectorAction = v.strictObject({
  kind: v.literal("vector"),
  from: v.record(
    name,
    v.union([
      control,
      v.strictObject({
        up: v.optional(control),
        left: v.optional(control),
        down: v.optional(control),
        right: v.optional(control),
      }),
    ]),
  ),
  ...movement,
  directions: v.optional(v.picklist(["free", 8, 4])),
  diagonal: v.optional(v.picklist(["round", "square"])),
  faces: v.optional(v.picklist(["up", "left", "down", "right"])),
  facingFrom: v.optional(share),
  settleMs: v.optional(ms),
  gaits: v.optional(v.record(name, between(1e-6, Math.SQRT2))),
  gaitMargin: v.optional(share),
  pace: v.optional(pace),
});

/** The schema of a plan (valibot). */
export const planSchema = v.strictObject({
  $schema: v.optional(v.string()),
  reacherPlan: v.literal(1),
  name: v.optional(text),
  version: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0))),
  yAxis: v.optional(v.picklist(["up", "down"])),
  slots: v.optional(
    v.record(
      name,
      v.strictObject({
        label: v.optional(text),
        device: v.optional(v.picklist(["keyboard", "mouse", "pad"])),
      }),
    ),
  ),
  flags: v.optional(v.record(name, v.union([v.boolean(), v.strictObject({ start: v.optional(v.boolean()) })]))),
  actions: v.record(name, v.variant("kind", [switchAction, axisAction, vectorAction])),
});

function between(low: number, high: number) {
  return v.pipe(v.number(), v.finite(), v.minValue(low), v.maxValue(high));
}
