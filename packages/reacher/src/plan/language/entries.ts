/** What may be an entry of an action, by the action's kind. */
import { GESTURES } from "../gestures/index.js";
import { CONTROL, degrees, either, ms, object, required, type Value } from "./fields.js";
import { SHAPE, THRESHOLD } from "./shapes.js";

const used = object({ use: required(CONTROL), shape: SHAPE });
const end = either(CONTROL, object({ use: required(CONTROL), shape: SHAPE, threshold: THRESHOLD }));

export const ENTRIES: Readonly<Record<"switch" | "axis" | "vector" | "turn", Value>> = {
  switch: either(CONTROL, ...Object.values(GESTURES).map(({ fields }) => object(fields))),
  axis: either(CONTROL, used, object({ minus: end, plus: end }, end)),
  vector: either(CONTROL, used, object({ up: end, left: end, down: end, right: end })),
  turn: object({
    use: required(CONTROL),
    perPixel: degrees(1000, 1),
    perSecond: degrees(100_000, 720),
    perUnit: degrees(100_000, 10),
    shape: SHAPE,
  }),
};

/** How long a release of a worn key waits for a press that undoes it. */
export const BOUNCE: Value = ms(100, { default: 0, most: 1000 });
