/** Every field of a plan. */
import {
  choice,
  CONTROL,
  either,
  LABEL,
  list,
  listed,
  ms,
  NAME_OF,
  number,
  object,
  record,
  required,
  speed,
  TRUTH,
  type Fields,
  type Value,
} from "./fields.js";
import { OWN_KINDS } from "../../controls/ownControls.js";
import { OPTIONS } from "../options/index.js";
import { FEEL } from "../players/feel.js";
import { BOUNCE, ENTRIES } from "./entries.js";
import { AXIS, TURN, VECTOR } from "./movements.js";
import { FURTHEST_SPOT } from "./saneRanges.js";
import { OPTION_FIELDS, SETTABLE } from "./settable.js";

/** The least and the most that a player may set. */
const range: Value = { is: "pair", of: number(-Infinity, Infinity) };

/** How a stick or the mouse feels: numbers, and which way is turned round. */
const FEEL_RANGES = FEEL.filter((name) => name !== "invert");

const common: Fields = {
  label: LABEL,
  in: list(CONTROL, 1, Infinity),
  required: TRUTH,
  locked: TRUTH,
  was: list(NAME_OF, 0, Infinity),
  player: object({
    controls: TRUTH,
    both: TRUTH,
    style: list(OPTIONS.style.field, 0, Infinity),
    ...Object.fromEntries([...SETTABLE.keys(), ...FEEL_RANGES].map((name) => [name, range])),
    invert: TRUTH,
  }),
};

/** The fields of an action by its kind, and its entries below `from`. */
const ACTION: Readonly<Record<"switch" | "axis" | "vector" | "turn", Fields>> = {
  switch: { from: required(record(listed(ENTRIES.switch))), ...common, ...OPTION_FIELDS },
  axis: { ...AXIS, ...common },
  vector: { ...VECTOR, ...common },
  turn: { ...TURN, ...common },
};

/** All but `$schema` and `reacherPlan`. */
export const PLAN: Fields = {
  name: LABEL,
  version: number(0, Infinity, true),
  yAxis: choice("up", "down"),
  controls: record(
    either(
      choice(...OWN_KINDS),
      object({ kind: required(choice(...OWN_KINDS)), label: LABEL, device: NAME_OF, keepsFocus: TRUTH }),
    ),
  ),
  slots: record(object({ label: LABEL, device: NAME_OF })),
  flags: record(either(TRUTH, object({ start: TRUTH, lingerMs: ms(500, { default: 0 }) }))),
  numbers: record(speed()),
  spots: record({ is: "pair", of: number(-FURTHEST_SPOT, FURTHEST_SPOT) }),
  modes: record(object({ covers: choice("none", "same", "all") })),
  start: list({ is: "text" }, 0, Infinity),
  seats: record(object({ slots: required(list({ is: "text" }, 1, Infinity)) })),
  bounceMs: BOUNCE,
  protected: list(CONTROL, 0, Infinity),
  player: object({ bounceMs: range, swapSticks: TRUTH, holds: TRUTH }),
  actions: required(record({ is: "kinds", of: ACTION })),
};
