/** A plain press: a control or a direction, which may wait for the gestures that could claim it. */
import { CONTROL, required, TRUTH } from "../language/fields.js";
import { THRESHOLD } from "../language/shapes.js";
import { readThreshold } from "../reader/shapes.js";
import { sourcesOf, type Language, type Shown } from "./gesture.js";

export const plain: Language<"plain"> = {
  fields: { use: required(CONTROL), waits: TRUTH, threshold: THRESHOLD },
  source: "use",
  read(reader, { use, waits = false, threshold }, place) {
    const of = sourcesOf(reader, [use], () => `${place}.use`);
    const source = of?.[0];
    if (source === undefined) return undefined;
    if (threshold !== undefined && !("control" in source))
      reader.report("threshold-none", `${place}.threshold`, "a direction is pressed where its controls are");
    if (threshold === undefined || !("control" in source)) return { kind: "plain", waits, of: [source] };
    return {
      kind: "plain",
      waits,
      of: [{ ...source, ...readThreshold(reader, threshold, source.control, place) }],
    };
  },
  pattern: () => "press",
  words: { verb: () => "" },
};

export const plainShown: Shown<"plain"> = {
  use: ({ waits }) => (waits ? "waits" : ""),
  brief: ({ of: [source] }) => source!.name,
  decides: {},
};
