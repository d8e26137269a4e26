/** A plain press: a control or a direction, which may wait for the gestures that could claim it. */
import { TRUTH } from "../language/fields.js";
import { SOURCE_FIELDS } from "../language/shapes.js";
import { sourcesOf, type Language, type Shown } from "./gesture.js";

export const plain: Language<"plain"> = {
  fields: { ...SOURCE_FIELDS, waits: TRUTH },
  source: "use",
  read(reader, entry, place) {
    const of = sourcesOf(reader, [entry], () => place);
    return of && { kind: "plain", waits: entry.waits ?? false, of };
  },
  pattern: () => "press",
  words: { verb: () => "" },
};

export const plainShown: Shown<"plain"> = {
  use: ({ waits }) => (waits ? "waits" : ""),
  brief: ({ of: [source] }) => source!.name,
  decides: {},
};
