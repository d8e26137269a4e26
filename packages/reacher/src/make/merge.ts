/**
 * Functions that differ only in numbers become one with parameters: a rule's code for ten keys is written once. In: functions as text. Out: fewer of
 * them, and what to write where they are called. Pure.
 */

import type { Origin } from "./source.js";

export interface PlainFunction {
  readonly name: string;
  /** The rules that it is made of, and the file that they stand in. */
  readonly rules?: readonly string[];
  readonly file?: string;
  readonly params: readonly string[];
  readonly body: string;
  /** Where each line of the body comes from. */
  readonly origins?: readonly (Origin | undefined)[];
}

export interface Merged {
  readonly functions: readonly PlainFunction[];
  /** A text with the calls of functions as they are now. */
  rewritten(text: string): string;
  /** A function as a value. */
  asValue(name: string): string;
}

/** More numbers than these are not worth a function of their own. */
const MOST_PARAMS = 14;

/** What a function costs beside its body: its head, in characters. */
const HEAD = 20;

/** What it may cost more than it gains: then those that call it can be one as well. */
const SPARED = 40;

const TOKEN = /"(?:[^"\\]|\\.)*"|[A-Za-z_][\w$]*|\d+(?:\.\d+)?(?:e[-+]?\d+)?|\s+|[^]/g;
const tokensOf = (text: string): readonly string[] => text.match(TOKEN) ?? [];
const isNumber = (token: string) => /^\d/.test(token);
const isMade = (token: string) => /^[A-Za-z_]\w*\$\d+$/.test(token);

export function merged(given: readonly PlainFunction[], tables: ReadonlySet<string>): Merged {
  return new Merging(given, tables);
}

/** A function's text without what may differ, and what stands there. */
interface Skeleton {
  readonly key: string;
  readonly holes: readonly string[];
}

class Merging implements Merged {
  readonly functions: PlainFunction[] = [];
  private readonly byName: ReadonlyMap<string, PlainFunction>;
  /** What is called in the place of a function, with which numbers. */
  private readonly instead = new Map<
    string,
    { readonly name: string; readonly numbers: readonly string[] }
  >();

  constructor(
    given: readonly PlainFunction[],
    private readonly tables: ReadonlySet<string>,
  ) {
    this.byName = new Map(given.map((one) => [one.name, one]));
    const heights = heightsOf(this.byName);
    const levels = [...new Set(heights.values())].sort((a, b) => a - b);
    // What is called comes before what calls it: equal calls make equal callers.
    for (const level of levels) this.mergeLevel(given.filter(({ name }) => heights.get(name) === level));
    for (const one of given)
      if (!heights.has(one.name)) this.functions.push({ ...one, body: this.rewritten(one.body) });
  }

  rewritten(text: string): string {
    return text.replace(/([A-Za-z_][\w$]*)\((\)?)/g, (all, name: string, end: string) => {
      const other = this.instead.get(name);
      if (other === undefined) return all;
      const numbers = other.numbers.join(", ");
      return `${other.name}(${numbers}${end === "" && numbers !== "" ? ", " : ""}${end}`;
    });
  }

  asValue(name: string): string {
    const other = this.instead.get(name);
    if (other === undefined) return name;
    if (other.numbers.length === 0) return other.name;
    const params = this.byName.get(name)!.params.join(", ");
    return `(${params}) => ${this.rewritten(`${name}(${params})`)}`;
  }

  private mergeLevel(level: readonly PlainFunction[]): void {
    const groups = new Map<string, { readonly one: PlainFunction; readonly holes: readonly string[] }[]>();
    for (const given of level) {
      const one = { ...given, body: this.rewritten(given.body) };
      const { key, holes } = this.skeletonOf(one);
      const group = groups.get(key);
      if (group === undefined) groups.set(key, [{ one, holes }]);
      else group.push({ one, holes });
    }
    for (const group of groups.values()) this.mergeGroup(group);
  }

  private mergeGroup(
    group: readonly { readonly one: PlainFunction; readonly holes: readonly string[] }[],
  ): void {
    const { one } = group[0]!;
    const { params, texts } = columnsOf(group.map(({ holes }) => holes));
    const count = group.length;
    const cost = params.reduce((sum, column) => sum + column.join("").length + count, HEAD);
    const gain = (count - 1) * shortLength(one.body);
    if (count === 1 || params.length > MOST_PARAMS || gain + SPARED <= cost) {
      this.functions.push(...group.map(({ one }) => one));
      return;
    }
    // It keeps the name of the first.
    const { name } = one;
    const own = params.map((_, n) => `k${n}`);
    let hole = 0;
    const body = tokensOf(one.body)
      .map((token) =>
        this.isHole(token) ? texts[hole++]!.replace(/%(\d+)%/g, (_, n: string) => own[Number(n)]!) : token,
      )
      .join("");
    const rules = group.flatMap(({ one: { rules = [] } }) => rules);
    this.functions.push({ ...one, rules, params: [...own, ...one.params], body });
    group.forEach(({ one }, n) =>
      this.instead.set(one.name, { name, numbers: params.map((column) => column[n]!) }),
    );
  }

  private isHole(token: string): boolean {
    return isNumber(token) || this.tables.has(token);
  }

  private skeletonOf({ params, body }: PlainFunction): Skeleton {
    const locals = new Map<string, string>(params.map((param, n) => [param, `@${n}`]));
    const holes: string[] = [];
    const parts = tokensOf(body).map((token) => {
      if (this.isHole(token)) {
        holes.push(token);
        return "#";
      }
      if (locals.has(token)) return locals.get(token)!;
      if (!isMade(token) || this.byName.has(token)) return token;
      const local = `@${locals.size}`;
      locals.set(token, local);
      return local;
    });
    return { key: `${params.length} ${parts.join("")}`, holes };
  }
}

/** How high a function stands above those that it calls; none for those that call themselves. */
function heightsOf(all: ReadonlyMap<string, PlainFunction>): Map<string, number> {
  const heights = new Map<string, number>();
  const calls = new Map(
    [...all].map(([name, { body }]) => [
      name,
      [...new Set(tokensOf(body).filter((token) => all.has(token)))],
    ]),
  );
  const heightOf = (name: string, path: Set<string>): number => {
    const known = heights.get(name);
    if (known !== undefined) return known;
    if (path.has(name)) return Infinity;
    path.add(name);
    const height = 1 + Math.max(0, ...calls.get(name)!.map((called) => heightOf(called, path)));
    path.delete(name);
    if (height < Infinity) heights.set(name, height);
    return height;
  };
  for (const name of all.keys()) heightOf(name, new Set());
  return heights;
}

/** What stands at each hole: a constant, or a parameter, also at a fixed distance from it. */
function columnsOf(rows: readonly (readonly string[])[]): { params: string[][]; texts: string[] } {
  const params: string[][] = [];
  const texts = rows[0]!.map((first, at) => {
    const column = rows.map((row) => row[at]!);
    if (column.every((one) => one === first)) return first;
    for (const [n, base] of params.entries()) {
      if (column.every((one, row) => one === base[row])) return `%${n}%`;
      const distance = Number(first) - Number(base[0]);
      const isNear = column.every(
        (one, row) =>
          /^\d+$/.test(one) && /^\d+$/.test(base[row]!) && Number(one) - Number(base[row]) === distance,
      );
      if (isNear) return distance > 0 ? `(%${n}% + ${distance})` : `(%${n}% - ${-distance})`;
    }
    return `%${params.push(column) - 1}%`;
  });
  return { params, texts };
}

/** A text with other names in it. */
export function renamed(text: string, names: ReadonlyMap<string, string>): string {
  return names.size === 0
    ? text
    : tokensOf(text)
        .map((token) => names.get(token) ?? token)
        .join("");
}

/** About how long a text is once it is minified. */
export function shortLength(text: string): number {
  return tokensOf(text).reduce(
    (sum, token) => sum + (/^\s/.test(token) ? 0 : isMade(token) ? 1 : token.length),
    0,
  );
}

/** About how it reads once it is minified: without comments and spaces, and with short names, in each function anew. */
export function minified(text: string): string {
  const ofModule = new Set(
    [...text.matchAll(/^(?:function|const) ([A-Za-z_]\w*\$\d+)/gm)].map(([, name]) => name!),
  );
  const names = new Map<string, string>();
  let locals = new Map<string, string>();
  const shortOf = (token: string) => {
    const own = ofModule.has(token) ? names : locals;
    if (!own.has(token)) own.set(token, `${own === names ? "_" : "$"}${own.size.toString(36)}`);
    return own.get(token)!;
  };
  return tokensOf(text.replace(/^\/\/.*$/gm, ""))
    .map((token) => {
      if (token === "function") locals = new Map();
      return /^\s/.test(token) ? "" : isMade(token) ? shortOf(token) : token;
    })
    .join("");
}
