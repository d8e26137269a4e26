/** Fields of axes, vectors and turns, besides those that every action has. */
import {
  choice,
  CONTROL,
  degrees,
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
import { MOST_NUMBER } from "./saneRanges.js";
import { SHAPE, THRESHOLD } from "./shapes.js";

const used = object({ use: required(CONTROL), shape: SHAPE });
const end = either(CONTROL, object({ use: required(CONTROL), shape: SHAPE, threshold: THRESHOLD }));

/** A speed or a factor, or the name of a number. */
const amount = speed();
const times = factor([-MOST_NUMBER, MOST_NUMBER], 0);
const named = (value: Value) => either(value, NAME_OF);

const movement: Fields = {
  opposed: choice("latest", "earliest", "neutral"),
  shape: SHAPE,
  ease: object({
    riseMs: ms(600, { default: 90 }),
    fallMs: ms(600, { default: 60 }),
    turn: choice("instant", "through"),
  }),
  combine: choice("longest", "sum"),
  facingFrom: share({ default: 0.25 }),
  // By length at most a square diagonal's; by speed whatever the game's unit gives. The reader looks closer.
  gaits: record(speed(1e-6)),
  gaitsBy: choice("length", "speed"),
  gaitMargin: share({ default: 0.04 }, 0.3, [0, MOST_NUMBER]),
  lingerMs: ms(500, { default: 0 }),
  pace: object({
    unit: LABEL,
    base: required(named(amount)),
    rules: list(object({ when: required(WORDS), set: named(amount), times: named(times) }), 0, Infinity),
    easeMs: ms(1000, { default: 0 }),
  }),
};

/** What may be an entry of an axis, a vector, a turn. */
export const MOVEMENT_ENTRIES = {
  axis: either(CONTROL, used, object({ minus: end, plus: end }, end)),
  vector: either(CONTROL, used, object({ up: end, left: end, down: end, right: end })),
  turn: object({
    use: required(CONTROL),
    perPixel: degrees(1000, 1, 0.01),
    perSecond: degrees(100_000, 720, 5),
    shape: SHAPE,
  }),
} as const;

const from = (entry: Value) => ({ from: required(record(listed(entry))) });

export const AXIS: Fields = {
  ...from(MOVEMENT_ENTRIES.axis),
  ...movement,
  ends: { is: "pair", of: NAME_OF },
  faces: NAME_OF,
};

export const VECTOR: Fields = {
  ...from(MOVEMENT_ENTRIES.vector),
  ...movement,
  directions: choice("free", 8, 4),
  diagonal: choice("round", "square"),
  faces: choice("up", "left", "down", "right"),
  settleMs: ms(300, { default: 60 }),
};

export const TURN: Fields = {
  ...from(MOVEMENT_ENTRIES.turn),
  shape: SHAPE,
  pace: object({
    rules: required(list(object({ when: required(WORDS), times: required(named(times)) }), 0, Infinity)),
  }),
};
