/** The text of made code: a function that makes it for a seat. In: made functions. Out: JavaScript. Pure. */
import type { Made } from "./specialiser/frames.js";
import { APART, type MadeReading, type MadeSeat } from "./making.js";
import { merged, renamed, type Merged, type PlainFunction } from "./merge.js";
import type { Origin } from "./source.js";
import { Known, Rank, type Value } from "./values.js";

/** The code of seats. */
export interface SeatText {
  /** An expression: `(s, t, Reading, o) => ({ ... })`, with its constant tables around it; of several seats, `(seat) => ` stands before that. */
  readonly create: string;
  /** Where each of its lines comes from. */
  readonly origins: readonly (Origin | undefined)[];
}

/** The text of several seats' code, of which each function stands there once. */
export function seatsText(seats: readonly MadeSeat[]): SeatText {
  const texts = seats.map((seat, n) => new OneSeat(seat, n * APART));
  const tables = sharedTables(texts);
  const merging = bound(
    merged(
      texts.flatMap((one) => one.functions),
      new Set(tables.keys()),
    ),
  );
  const constants = [...tables].map(([name, text]) => `const ${name} = ${text};`);
  const isOne = seats.length === 1;
  const text = new Lines(...(constants.length > 0 ? ["(() => {", ...constants] : []));
  text.add(`${constants.length > 0 ? "return " : ""}${isOne ? "" : "(seat) => "}(s, t, Reading, o) => {`);
  text.add("const { f, i, b, clock } = s;");
  text.add(`const m = ${bySeat(texts.map(({ variables }) => `[${variables.join(", ")}]`))};`);
  for (const one of merging.functions) {
    const origin = originOf(one);
    if (origin !== "") text.add(origin);
    text
      .add(`function ${one.name}(${one.params.join(", ")}) {`)
      .addBody(one.body, one.origins)
      .add("}");
  }
  const listed = texts.map((one) => one.lists(merging));
  const names = [...new Set(listed.flatMap((lists) => [...lists.keys()]))];
  const lists = names.map(
    (name) => `${name}: ${bySeat(listed.map((lists) => lists.get(name) ?? "undefined"))}`,
  );
  text.add(`return { ${lists.join(",\n")} };`).add(constants.length > 0 ? "};" : "}");
  if (constants.length > 0) text.add("})()");
  return { create: text.text, origins: text.origins };
}

/** What stands there for each seat; once where it is the same. */
const bySeat = (texts: readonly string[]): string =>
  texts.every((text) => text === texts[0]) ? texts[0]! : `[${texts.join(", ")}][seat]`;

/** The constant tables of all seats, each once. */
function sharedTables(seats: readonly OneSeat[]): ReadonlyMap<string, string> {
  const tables = new Map<string, string>();
  for (const seat of seats) {
    const known = [...tables];
    for (const [name, text] of seat.tables) {
      const same = known.findIndex(([, other]) => other === text);
      if (same < 0) tables.set(name, text);
      // Of two that are written, each has its own.
      else seat.names.set(name, known.splice(same, 1)[0]![0]);
    }
  }
  return tables;
}

/** One seat's part of it. May change: the names that its tables go by. */
class OneSeat {
  readonly names = new Map<string, string>();
  private readonly classes: PlainFunction[] = [];
  private readonly all: readonly PlainFunction[];
  private readonly initials: readonly string[];
  private readonly readings: readonly string[];
  /** What stands in a list in place of a function with a name. */
  private readonly expressions = new Map<Made, string>();

  constructor(
    private readonly seat: MadeSeat,
    private readonly firstName: number,
  ) {
    const { readings, functions, roots, specialiser } = seat;
    this.readings = readings.map((reading) => this.classOf(reading));
    const listed = Object.values(roots)
      .flat()
      .filter((made) => made !== null && !isIdle(made)) as Made[];
    for (const made of listed) {
      const text = expressionOf(made, specialiser.textOfReturn(made));
      if (text !== undefined) this.expressions.set(made, text);
    }
    this.all = [
      ...functions.filter((made) => !isIdle(made)),
      ...listed.filter((made) => !this.expressions.has(made)),
    ].map((made) => ({
      name: made.name,
      rules: made.rule === "" ? [] : [made.rule],
      file: made.file,
      params: made.params,
      body: specialiser.bodyOf(made),
      origins: specialiser.originsIn(made),
    }));
    this.initials = [...specialiser.variables.values()].map(({ initial }) =>
      specialiser.text(new Known(initial), Rank.Assignment),
    );
  }

  /** Its constant tables: those that its text names. */
  get tables(): ReadonlyMap<string, string> {
    const bodies = [...this.all, ...this.classes].map(({ body }) => body);
    const named = new Set(
      [...bodies, ...this.initials, ...this.expressions.values()].join("\n").match(/\bT\$\d+/g),
    );
    return new Map([...this.seat.specialiser.tables].filter(([name]) => named.has(name)));
  }

  get functions(): readonly PlainFunction[] {
    return [...this.all, ...this.classes].map((one) => ({ ...one, body: this.renamed(one.body) }));
  }

  get variables(): readonly string[] {
    return this.initials.map((text) => this.renamed(text));
  }

  private renamed(text: string): string {
    return renamed(text, this.names);
  }

  private classOf(reading: MadeReading): string {
    const inner = reading.parts.map(({ name, reading }) => ({ name, className: this.classOf(reading) }));
    const name = `Reading$${this.firstName + this.classes.length}`;
    const parts = inner.map(({ name, className }) => `this.${name} = new (${className}())(s, n);`).join(" ");
    const text = new Lines("return class extends Reading {");
    if (parts !== "") text.add(`constructor(s, n) { super(s, n); ${parts} }`);
    for (const { name, made } of reading.getters)
      text
        .add(`get ${name}() {`)
        .addBody(this.seat.specialiser.bodyOf(made), this.seat.specialiser.originsIn(made))
        .add("}");
    text.add(reading.toJSON).add("};");
    this.classes.push({ name, params: [], body: `${text.text}\n`, origins: text.origins });
    return name;
  }

  /** What the library calls, by name: without what does nothing at the end. */
  lists({ asValue, rewritten }: Merged): Map<string, string> {
    const lists = new Map<string, string>();
    for (const [name, list] of Object.entries(this.seat.roots)) {
      const texts = list.map((made) => {
        if (made === null || isIdle(made)) return "";
        const own = this.expressions.get(made);
        return own === undefined
          ? asValue(made.name)
          : `(${made.params.join(", ")}) => ${rewritten(this.renamed(own))}`;
      });
      while (texts.at(-1) === "") texts.pop();
      if (texts.length > 0) lists.set(name, `[${texts.join(", ")}]`);
    }
    return lists.set("readings", `[${this.readings.map((name) => rewritten(`${name}()`)).join(", ")}]`);
  }
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
