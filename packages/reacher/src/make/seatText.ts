/** The text of made code: a function that makes it for a seat. In: made functions. Out: JavaScript. Pure. */
import type { Made, Specialiser } from "./specialiser.js";
import type { MadeReading, MadeSeat } from "./making.js";
import { merged, type PlainFunction } from "./merge.js";
import { Known, Rank } from "./values.js";

/** The code of one seat. */
export interface SeatText {
  /** Constant tables, for the top of a module. */
  readonly tables: string;
  /** `(s, t, Reading) => ({ ... })` */
  readonly create: string;
}

export function seatText({ roots, readings, functions, specialiser }: MadeSeat): SeatText {
  const plain = (made: Made): PlainFunction => ({ name: made.name, params: made.params, body: specialiser.bodyOf(made) });
  const all = [...functions, ...Object.values(roots).flat()].filter((made) => made !== null);
  const { functions: own, rewritten, called } = merged(all.map(plain));
  const classes: string[] = [];
  const classOf = (reading: MadeReading): string => {
    const inner = reading.parts.map(({ name, reading }) => ({ name, className: classOf(reading) }));
    const name = `Reading$${classes.length}`;
    const made = inner.map(({ name, className }) => `this.${name} = new ${className}(s, n);`).join(" ");
    const getters = reading.getters.map(({ name, made }) => `  get ${name}() {\n${rewritten(specialiser.bodyOf(made))}  }\n`);
    classes.push(
      `class ${name} extends Reading {\n${made === "" ? "" : `  constructor(s, n) { super(s, n); ${made} }\n`}${getters.join("")}  ${reading.toJSON}\n}`,
    );
    return name;
  };
  const names = readings.map(classOf);
  const lists = Object.entries(roots).flatMap(([name, list]) => {
    const texts = list.map((made) => (made === null || isIdle(made) ? "" : called(made.name)));
    while (texts.at(-1) === "") texts.pop();
    return texts.length === 0 ? [] : [`${name}: [${texts.join(", ")}]`];
  });
  const variables = [...specialiser.variables.values()].map(({ name, initial }) => `let ${name} = ${specialiser.text(new Known(initial), Rank.Assignment)};`);
  return {
    tables: [...specialiser.tables].map(([name, text]) => `const ${name} = ${text};\n`).join(""),
    create: `(s, t, Reading) => {
const { f, i, b, clock } = s;
${variables.join("\n")}
${own.map(({ name, params, body }) => `function ${name}(${params.join(", ")}) {\n${body}}`).join("\n")}
${classes.join("\n")}
return { ${[...lists, `readings: [${names.join(", ")}]`].join(",\n")} };
}`,
  };
}

/** Whether it does nothing, and says no. */
function isIdle({ lines, returns }: Made): boolean {
  if (lines.length === 0) return true;
  const [only] = lines;
  if (lines.length > 1 || only!.kind !== "return" || returns !== null) return false;
  return only!.value instanceof Known && (only!.value.value === false || only!.value.value === 0);
}

export type { Specialiser };
