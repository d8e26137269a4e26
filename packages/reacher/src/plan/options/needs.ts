/** What must be so for a switch to be on, to begin, to come back; and which others it turns off. */
import { NAME_OF, WORDS } from "../language/fields.js";
import { truth, type Option } from "./option.js";

export const needs: Option<"needs"> = {
  field: WORDS,
  read: (reader, { needs = [] }, place) => reader.words(needs, place),
};

export const beginsIf: Option<"beginsIf"> = {
  field: WORDS,
  read: (reader, { beginsIf = [] }, place) => reader.words(beginsIf, place),
};

export const spends: Option<"spends"> = {
  field: WORDS,
  read: (reader, { spends = [] }, place) => reader.flags(spends, place),
};

export const oneOf: Option<"oneOf"> = {
  field: NAME_OF,
  read: (_, { oneOf }) => oneOf,
};

export const resume = truth("resume", true);
export const comesBack = truth("comesBack", true);
