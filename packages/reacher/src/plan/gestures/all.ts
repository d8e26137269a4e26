/** Several controls held together. */
import { list, ms, required } from "../language/fields.js";
import { SOURCE } from "../language/shapes.js";
import { nameOf, sourcesOf, type Language, type Shown } from "./gesture.js";

export const all: Language<"all"> = {
  fields: { all: required(list(SOURCE, 2, 8)), spreadMs: ms(500) },
  source: "all",
  read(reader, { all: names, spreadMs }, place) {
    if (new Set(names.map(nameOf)).size < names.length)
      reader.report("same-member", place, "names a control twice; it cannot be held twice");
    const of = sourcesOf(reader, names, (n) => `${place}.all.${n}`);
    return of && { kind: "all", of, spreadMs };
  },
  pattern: ({ of }) =>
    `all ${of
      .map(({ name }) => name)
      .sort()
      .join(" ")}`,
  words: { joint: "+", sign: " + ", spoken: " together with " },
};

export const allShown: Shown<"all"> = {
  use: ({ of }, control) =>
    `with ${of.flatMap(({ name }) => (name === control ? [] : [name])).join(" and ")}`,
  brief: ({ of }) => of.map(({ name }) => name).join("+"),
  decides: { all: ["spreadMs"] },
};
