/** Fields of axes, vectors and turns, besides those that every action has. */
import {
  choice,
  either,
  factor,
  LABEL,
  list,
  listed,
  ms,
  NAME_OF,
  object,
  record,
  required,
  share,
  speed,
  WORDS,
  type Fields,
  type Value,
} from "./fields.js";
import { EASE, FACING_FROM, GAIT_MARGIN, SETTLE_MS } from "./defaults.js";
import { ENTRIES } from "./entries.js";
import { MOST_NUMBER } from "./saneRanges.js";
import { SHAPE } from "./shapes.js";

/** A speed or a factor, or the name of a number. */
const amount = speed();
const times = factor(-MOST_NUMBER, MOST_NUMBER);
const named = (value: Value) => either(value, NAME_OF);

const movement: Fields = {
  opposed: choice("latest", "earliest", "neutral"),
  shape: SHAPE,
  ease: object({
    riseMs: ms(600, { default: EASE.riseMs }),
    fallMs: ms(600, { default: EASE.fallMs }),
    turn: choice("instant", "through"),
  }),
  combine: choice("longest", "sum"),
  facingFrom: share({ default: FACING_FROM }),
  // By length at most a square diagonal's; by speed whatever the game's unit gives. The reader looks closer.
  gaits: record(speed(1e-6)),
  gaitsBy: choice("length", "speed"),
  gaitMargin: share({ default: GAIT_MARGIN, slider: [0, 0.3], most: MOST_NUMBER }),
  lingerMs: ms(500, { default: 0 }),
  pace: object({
    unit: LABEL,
    base: required(named(amount)),
    rules: list(object({ when: required(WORDS), set: named(amount), times: named(times) }), 0, Infinity),
    easeMs: ms(1000, { default: 0 }),
  }),
};

const from = (entry: Value) => ({ from: required(record(listed(entry))) });

export const AXIS: Fields = {
  ...from(ENTRIES.axis),
  ...movement,
  ends: { is: "pair", of: NAME_OF },
  faces: NAME_OF,
};

export const VECTOR: Fields = {
  ...from(ENTRIES.vector),
  ...movement,
  directions: choice("free", 8, 4),
  diagonal: choice("round", "square"),
  faces: choice("up", "left", "down", "right"),
  settleMs: ms(300, { default: SETTLE_MS }),
};

export const TURN: Fields = {
  ...from(ENTRIES.turn),
  shape: SHAPE,
  pace: object({
    rules: required(list(object({ when: required(WORDS), times: required(named(times)) }), 0, Infinity)),
  }),
};
