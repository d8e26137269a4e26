/** The text of made code: a function that makes it for a seat. In: made functions. Out: JavaScript. Pure. */
import type { Made } from "./specialiser/frames.js";
import type { MadeReading, MadeSeat } from "./making.js";
import { merged, type Merged, type PlainFunction } from "./merge.js";
import { Known, Rank, type Value } from "./values.js";

/** The code of one seat. */
export interface SeatText {
  /** An expression: `(s, t, Reading) => ({ ... })`, with its constant tables around it. */
  readonly create: string;
}

export function seatText({ roots, readings, functions, specialiser }: MadeSeat): SeatText {
  const plain = (made: Made): PlainFunction => ({
    name: made.name,
    rules: made.rule === "" ? [] : [made.rule],
    file: made.file,
    params: made.params,
    body: specialiser.bodyOf(made),
  });
  const classes: PlainFunction[] = [];
  const classOf = (reading: MadeReading): string => {
    const inner = reading.parts.map(({ name, reading }) => ({ name, className: classOf(reading) }));
    const name = `Reading$${classes.length}`;
    const parts = inner.map(({ name, className }) => `this.${name} = new (${className}())(s, n);`).join(" ");
    const getters = reading.getters.map(
      ({ name, made }) => `get ${name}() {\n${specialiser.bodyOf(made)}}\n`,
    );
    const own = parts === "" ? "" : `constructor(s, n) { super(s, n); ${parts} }\n`;
    classes.push({
      name,
      params: [],
      body: `return class extends Reading {\n${own}${getters.join("")}${reading.toJSON}\n};\n`,
    });
    return name;
  };
  const names = readings.map(classOf);
  const textOf = (made: Made) => specialiser.textOfReturn(made);
  const listed = Object.values(roots)
    .flat()
    .filter(
      (made) => made !== null && !isIdle(made) && expressionOf(made, textOf(made)) === undefined,
    ) as Made[];
  const all = [...functions.filter((made) => !isIdle(made)), ...listed];
  const {
    functions: shared,
    rewritten,
    asValue,
  } = bound(merged([...all.map(plain), ...classes], new Set(specialiser.tables.keys())));
  const lists = Object.entries(roots).flatMap(([name, list]) => {
    const texts = list.map((made) => {
      if (made === null || isIdle(made)) return "";
      const own = expressionOf(made, textOf(made));
      return own === undefined ? asValue(made.name) : `(${made.params.join(", ")}) => ${rewritten(own)}`;
    });
    while (texts.at(-1) === "") texts.pop();
    return texts.length === 0 ? [] : [`${name}: [${texts.join(", ")}]`];
  });
  const variables = [...specialiser.variables.values()].map(({ initial }) =>
    specialiser.text(new Known(initial), Rank.Assignment),
  );
  const tables = [...specialiser.tables].map(([name, text]) => `const ${name} = ${text};\n`).join("");
  const own = `(s, t, Reading) => {
const { f, i, b, clock } = s;
const m = [${variables.join(", ")}];
${shared.map((one) => `${originOf(one)}function ${one.name}(${one.params.join(", ")}) {\n${one.body}}`).join("\n")}
return { ${[...lists, `readings: [${names.map((name) => rewritten(`${name}()`)).join(", ")}]`].join(",\n")} };
}`;
  const create = tables === "" ? own : `(() => {\n${tables}return ${own};\n})()`;
  return { create };
}

/** More rules than these are not named. */
const MOST_NAMED = 6;

/** Where the code comes from, for whoever stands in it in a debugger. */
function originOf({ rules = [], file = "" }: PlainFunction): string {
  const names = [...new Set(rules)];
  if (names.length > MOST_NAMED) names.splice(MOST_NAMED, names.length, `${names.length - MOST_NAMED} more`);
  const of = names.length === 0 ? "" : `${names.join(", ")}: `;
  const place = /(?:dist|src)\/(.*)\.[jt]s$/.exec(file.replaceAll("\\", "/"))?.[1];
  return place === undefined ? "" : `// ${of}${place}.ts\n`;
}

const bound = (merging: Merged): Merged => ({
  functions: merging.functions,
  rewritten: (text) => merging.rewritten(text),
  asValue: (name) => merging.asValue(name),
});

/** What is a single expression needs no function with a name. */
function expressionOf(
  { lines: [line, ...more] }: Made,
  textOf: (value: Value) => string,
): string | undefined {
  if (more.length > 0) return undefined;
  return line!.kind === "do" ? line!.text : line!.kind === "return" ? textOf(line!.value) : undefined;
}

/** Whether it does nothing, and says no. */
function isIdle({ lines, returns }: Made): boolean {
  if (lines.length === 0) return true;
  const [only] = lines;
  if (lines.length > 1 || only!.kind !== "return" || returns !== null) return false;
  return only!.value instanceof Known && (only!.value.value === false || only!.value.value === 0);
}
