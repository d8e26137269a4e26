/** How a press becomes on and off, and what a key that is already down does. */
import { choice, ms, TRUTH } from "../language/fields.js";
import type { Option } from "./option.js";

export const style: Option<"style"> = {
  field: choice("hold", "toggle", "either"),
  read: (_, { style = "hold" }) => style,
};

export const tapMs: Option<"tapMs"> = {
  field: ms(600, { default: 250, player: { about: "Short press that stays on", has: "style" } }),
  read: (_, { tapMs = 250 }) => tapMs,
  counts: ({ style }) => style === "either",
  decides: "held",
};

export const startsOn: Option<"startsOn"> = {
  field: TRUTH,
  read: (_, { startsOn = false }) => startsOn,
};

export const carry: Option<"carry"> = {
  field: TRUTH,
  read(reader, { carry = false, style = "hold" }, place) {
    if (carry && style !== "hold")
      reader.report("carry-hold", place, `only a hold can carry a key over; this one's style is ${style}`);
    return carry;
  },
};
