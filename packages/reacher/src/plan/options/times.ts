/** Pulses, rests, and presses that are kept. */
import { ms, object, required } from "../language/fields.js";
import type { Option } from "./option.js";

export const repeat: Option<"repeat"> = {
  field: object({
    everyMs: required(ms(1000, { least: 1, player: { about: "Repeat time", has: "repeat" } })),
    afterMs: ms(2000, { least: 1 }),
    apartMs: ms(1000, { default: 0 }),
  }),
  read(reader, { repeat }, place) {
    if (repeat === undefined) return undefined;
    const { everyMs, afterMs = everyMs, apartMs = 0 } = repeat;
    if (apartMs > everyMs)
      reader.report(
        "wrong-value",
        `${place}.apartMs`,
        `${apartMs} is more than everyMs ${everyMs}; no pulse would come at its time`,
      );
    return { everyMs, afterMs, apartMs };
  },
};

export const restMs: Option<"restMs"> = {
  field: ms(3000, { default: 0 }),
  read: (_, { restMs = 0 }) => restMs,
  decides: "rests",
};

export const keepMs: Option<"keepMs"> = {
  field: ms(500, { default: 0 }),
  read: (_, { keepMs = 0 }) => keepMs,
  decides: "kept",
};
