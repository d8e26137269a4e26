/** What must be so for a switch to be on, to begin, to come back; and which others it turns off. */
import { didYouMean } from "../../controls/nearest.js";
import { either, FLAGS, NAME_OF, TRUTH, WORDS } from "../language/fields.js";
import type { TimedWord } from "../types.js";
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
  field: FLAGS,
  read: (reader, { spends = [] }, place) => reader.flags(spends, place),
};

export const oneOf: Option<"oneOf"> = {
  field: NAME_OF,
  read: (_, { oneOf }) => oneOf,
};

export const resume: Option<"resume"> = {
  field: either(TRUTH, WORDS),
  read(reader, { resume = true, needs = [] }, place) {
    if (typeof resume === "boolean") return resume;
    const known = [needs].flat().map(textOf);
    [resume].flat().forEach((word, n) => {
      const text = textOf(word);
      if (!known.includes(text))
        reader.report(
          "unknown-word",
          Array.isArray(resume) ? `${place}.${n}` : place,
          `${JSON.stringify(word)} is none of its needs${didYouMean(text, known)}`,
        );
    });
    return reader.words(resume, place);
  },
  misfit: (resume, style) =>
    typeof resume !== "boolean" && style !== "hold"
      ? ["resume-hold", `only a hold comes back with some of its needs; this one's style is ${style}`]
      : undefined,
};

/** A word as one text, to compare. */
function textOf(word: string | TimedWord): string {
  return typeof word === "string" ? word : `${word.is} for ${word.forMs} ms`;
}

export const comesBack = truth("comesBack", true);
