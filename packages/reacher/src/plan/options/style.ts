/** How a press becomes on and off, and what a key that is already down does. */
import { choice, ms } from "../language/fields.js";
import type { Style } from "../types.js";
import { numeric, truth, type Option } from "./option.js";

export const STYLES: readonly Style[] = ["hold", "toggle", "either"];

export const style: Option<"style"> = {
  field: choice(...STYLES),
  read: (_, { style = "hold" }) => style,
};

export const tapMs = numeric(
  "tapMs",
  ms(600, { default: 250, player: { about: "Short press that stays on", has: "style" } }),
  { appliesTo: ({ style }) => style === "either", decides: "held" },
);

export const startsOn = truth("startsOn", false);

export const anew: Option<"anew"> = {
  ...truth("anew", false),
  misfit: (anew, style) =>
    anew === true && style === "either"
      ? [
          "anew-either",
          "an either tells a short press from a long one, so that a second key is none of its presses; take hold or toggle",
        ]
      : undefined,
};

export const carry: Option<"carry"> = {
  ...truth("carry", false),
  misfit: (carry, style) =>
    carry === true && style !== "hold"
      ? ["carry-hold", `only a hold can carry a key over; this one's style is ${style}`]
      : undefined,
};
