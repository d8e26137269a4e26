/** Pulses, cooldowns, and presses that are kept. */
import { ms, object, required } from "../language/fields.js";
import { numeric, type Option } from "./option.js";

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

export const cooldownMs = numeric("cooldownMs", ms(3000, { default: 0 }), { decides: "cooldown" });
export const bufferMs = numeric("bufferMs", ms(500, { default: 0 }), { decides: "kept" });
