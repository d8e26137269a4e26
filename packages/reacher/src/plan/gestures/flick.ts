/** A stick thrown from rest to its rim. */
import { FLICK_MS } from "../language/defaults.js";
import { ms, required } from "../language/fields.js";
import { SOURCE } from "../language/shapes.js";
import { sourcesOf, type Language, type Shown } from "./gesture.js";

export const flick: Language<"flick"> = {
  fields: { flick: required(SOURCE), withinMs: ms(300, { default: FLICK_MS, felt: true }) },
  source: "flick",
  read(reader, { flick: given, withinMs = FLICK_MS }, place) {
    const of = sourcesOf(reader, [given], () => `${place}.flick`);
    const source = of?.[0];
    if (source === undefined) return undefined;
    const { name } = source;
    if ("result" in source) {
      reader.report(
        "flick-no-stick",
        `${place}.flick`,
        `a flick measures the stick itself, not what comes out of ${source.action}; leave out result, and take up, left, down or right`,
      );
      return undefined;
    }
    const isStick = "end" in source ? reader.hasStick(source.action) : source.control.family === "half";
    if (!isStick)
      reader.report(
        "flick-no-stick",
        `${place}.flick`,
        "end" in source
          ? `${source.action} has no stick, and a flick is a stick's; give it one, or take taps`
          : `${name} is no side of a stick; a flick takes one (PadLeftStickRight), or a direction with a stick`,
      );
    return { kind: "flick", of: [source], withinMs };
  },
  pattern: () => "flick",
  words: { verb: () => "flick" },
};

export const flickShown: Shown<"flick"> = {
  use: ({ withinMs }) => `flick within ${withinMs} ms`,
  brief: ({ of: [source] }) => `flick ${source!.name}`,
  decides: { flick: ["withinMs"] },
};
