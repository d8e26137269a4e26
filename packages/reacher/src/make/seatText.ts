/** The text of made code: a function that makes it for a seat. In: made functions. Out: JavaScript. Pure. */
import type { Made } from "./specialiser/frames.js";
import type { MadeReading, MadeSeat } from "./making.js";
import { merged, type Merged, type PlainFunction } from "./merge.js";
import type { Origin } from "./source.js";
import { Known, Rank, type Value } from "./values.js";

/** The code of one seat. */
export interface SeatText {
  /** An expression: `(s, t, Reading) => ({ ... })`, with its constant tables around it. */
  readonly create: string;
  /** Where each of its lines comes from. */
  readonly origins: readonly (Origin | undefined)[];
}

export function seatText({ roots, readings, functions, specialiser }: MadeSeat): SeatText {
  const plain = (made: Made): PlainFunction => ({
    name: made.name,
    rules: made.rule === "" ? [] : [made.rule],
    file: made.file,
    params: made.params,
    body: specialiser.bodyOf(made),
    origins: specialiser.originsIn(made),
  });
  const classes: PlainFunction[] = [];
  const classOf = (reading: MadeReading): string => {
    const inner = reading.parts.map(({ name, reading }) => ({ name, className: classOf(reading) }));
    const name = `Reading$${classes.length}`;
    const parts = inner.map(({ name, className }) => `this.${name} = new (${className}())(s, n);`).join(" ");
    const text = new Lines("return class extends Reading {");
    if (parts !== "") text.add(`constructor(s, n) { super(s, n); ${parts} }`);
    for (const { name, made } of reading.getters)
      text.add(`get ${name}() {`).addBody(specialiser.bodyOf(made), specialiser.originsIn(made)).add("}");
    text.add(reading.toJSON).add("};");
    classes.push({ name, params: [], body: `${text.text}\n`, origins: text.origins });
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
  const tables = [...specialiser.tables].map(([name, text]) => `const ${name} = ${text};`);
  const text = new Lines(...(tables.length > 0 ? ["(() => {", ...tables] : []));
  text.add(`${tables.length > 0 ? "return " : ""}(s, t, Reading) => {`);
  text.add("const { f, i, b, clock } = s;").add(`const m = [${variables.join(", ")}];`);
  for (const one of shared) {
    const origin = originOf(one);
    if (origin !== "") text.add(origin);
    text
      .add(`function ${one.name}(${one.params.join(", ")}) {`)
      .addBody(one.body, one.origins)
      .add("}");
  }
  const made = [...lists, `readings: [${names.map((name) => rewritten(`${name}()`)).join(", ")}]`];
  text.add(`return { ${made.join(",\n")} };`).add(tables.length > 0 ? "};" : "}");
  if (tables.length > 0) text.add("})()");
  return { create: text.text, origins: text.origins };
}

/** A text that grows line by line. */
class Lines {
  text: string;
  readonly origins: (Origin | undefined)[];

  constructor(...first: readonly string[]) {
    this.text = first.join("\n");
    this.origins = first.map(() => undefined);
  }

  add(line: string): this {
    this.text += this.origins.length === 0 ? line : `\n${line}`;
    for (let n = line.split("\n").length; n > 0; n--) this.origins.push(undefined);
    return this;
  }

  /** Lines that each end themselves. */
  addBody(body: string, origins: readonly (Origin | undefined)[] = []): this {
    if (body === "") return this;
    const from = this.origins.length;
    this.add(body.slice(0, -1));
    origins.forEach((origin, n) => (this.origins[from + n] = origin));
    return this;
  }
}

/** More rules than these are not named. */
const MOST_NAMED = 6;

/** Where the code comes from, for whoever stands in it in a debugger. */
function originOf({ rules = [], file = "" }: PlainFunction): string {
  const names = [...new Set(rules)];
  if (names.length > MOST_NAMED) names.splice(MOST_NAMED, names.length, `${names.length - MOST_NAMED} more`);
  const of = names.length === 0 ? "" : `${names.join(", ")}: `;
  const place = /(?:dist|src)\/(.*)\.[jt]s$/.exec(file.replaceAll("\\", "/"))?.[1];
  return place === undefined ? "" : `// ${of}${place}.ts`;
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
