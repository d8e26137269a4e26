/** Fields of sticks and triggers: dead zone, curve, gain, and from where on they count as pressed. */
import { choice, factor, list, number, object, share, type Value } from "./fields.js";
import { SANE_DEAD_ZONE } from "./saneRanges.js";

export const THRESHOLD: Value = object({
  press: share({ default: 0.5 }, 1, [0.01, 1]),
  release: share({}, 1, [0.01, 1]),
});

export const SHAPE: Value = object({
  deadZone: object({
    kind: choice("round", "cross"),
    inner: share({ default: 0.12, sane: SANE_DEAD_ZONE }, 0.6),
    outer: share({ default: 0.04 }, 0.6),
  }),
  curve: object({
    power: factor([0.1, 10], 0.2, { default: 1 }),
    points: list({ is: "pair", of: number(0, 1) }, 2, 32),
  }),
  gain: factor([0, 10], 0.1, { default: 1 }),
  invert: choice("x", "y", "both", true),
});
