/** What may be an entry of an action, by the action's kind. */
import { GESTURES } from "../gestures/index.js";
import { CONTROL, degrees, either, ms, NAME_OF, object, required, share, type Value } from "./fields.js";
import { FULL_FROM } from "./defaults.js";
import { SHAPE, THRESHOLD } from "./shapes.js";

const used = { fields: { use: required(CONTROL), shape: SHAPE } };
/** Of the pointer: from where it is measured, and from which distance on it counts in full. */
const POINTED = { around: NAME_OF, fullFrom: share({ default: FULL_FROM, least: 1 / 256 }) };
const end = either(CONTROL, object({ use: required(CONTROL), shape: SHAPE, threshold: THRESHOLD }));

export const ENTRIES: Readonly<Record<"switch" | "axis" | "vector" | "turn", Value>> = {
  switch: either(CONTROL, ...Object.values(GESTURES).map(({ fields }) => object(fields))),
  axis: either(CONTROL, object(used.fields), object({ minus: end, plus: end }, end)),
  vector: either(
    CONTROL,
    object({ ...used.fields, ...POINTED }),
    object({ up: end, left: end, down: end, right: end }),
  ),
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
