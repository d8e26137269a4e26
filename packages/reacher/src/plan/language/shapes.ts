/** Fields of sticks and triggers: dead zone, curve, gain, and from where on they count as pressed. */
import { PRESS_FROM } from "../../controls/thresholds.js";
import { ZONES } from "./defaults.js";
import {
  choice,
  CONTROL,
  either,
  factor,
  list,
  number,
  object,
  required,
  share,
  type Fields,
  type Value,
} from "./fields.js";
import { SANE_DEAD_ZONE } from "./saneRanges.js";

export const THRESHOLD: Value = object({
  press: share({ default: PRESS_FROM, least: 0.01 }),
  release: share({ least: 0.01 }),
});

/** A control; or a direction or the length of an axis or a vector, raw or as it comes out. */
export const SOURCE_FIELDS = {
  use: required(CONTROL),
  threshold: THRESHOLD,
  result: choice(true, "sector"),
} as const satisfies Fields;
export const SOURCE: Value = either(CONTROL, object(SOURCE_FIELDS));

export const SHAPE: Value = object({
  deadZone: object({
    kind: choice("round", "cross"),
    inner: share({ default: ZONES.stick.inner, sane: SANE_DEAD_ZONE, slider: [0, 0.6] }),
    outer: share({ default: ZONES.stick.outer, slider: [0, 0.6] }),
  }),
  curve: object({
    power: factor(0.1, 10, { default: 1, slider: [0.2, 4] }),
    points: list({ is: "pair", of: number(0, 1) }, 2, 32),
  }),
  gain: factor(0, 10, { default: 1, slider: [0.1, 4] }),
  invert: choice("x", "y", "both", true),
});
