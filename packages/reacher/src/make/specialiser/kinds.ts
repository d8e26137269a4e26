/** Kinds of values: what is known, a rule, a list, or given to a function. Pure. */
import { namesIn } from "../analysis.js";
import { Choice, Closure, Code, Fields, Known, type Value, type Variable } from "../values.js";
import { Unmakeable, AnySeat } from "./frames.js";

/** The views of a seat's buffer, by their names in the code. */
export const VIEWS = new Set(["f", "i", "b"]);

/** Where it is asked whether there is one: an index outside the list is an answer, and not merely what never happens. */
export function orNone(of: Value): Value {
  const isCertain = !(of instanceof Choice) || of.other != null || of.list.some((one) => one == null);
  return isCertain ? of : new Choice([...of.list, undefined], of.index, undefined);
}

export function isInstance(value: unknown, className: string): boolean {
  if (!isObject(value)) return false;
  for (
    let proto = Object.getPrototypeOf(value) as object | null;
    proto !== null;
    proto = Object.getPrototypeOf(proto) as object | null
  )
    if (proto.constructor.name === className) return true;
  return false;
}

export function known(value: Value): unknown {
  if (value instanceof Known) return value.value;
  throw new Unmakeable("something is computed that has to be known");
}

export function isObject(value: unknown): value is object {
  return typeof value === "object" && value !== null;
}

/** Rules, or nothing: what is chosen by a number. */
export function isThing(value: Value): boolean {
  if (value instanceof Choice) return value.list.some(isObject);
  return (
    value instanceof Known &&
    !(value.value instanceof AnySeat) &&
    (value.value == null || (isObject(value.value) && !ArrayBuffer.isView(value.value)))
  );
}

/** A list, also one that was written as an object with numbers for keys. */
export function listIn(object: object): readonly unknown[] | undefined {
  if (Array.isArray(object)) return object;
  if (Object.getPrototypeOf(object) !== Object.prototype) return undefined;
  const keys = Object.keys(object);
  if (!keys.every((key) => /^\d+$/.test(key))) return undefined;
  const list: unknown[] = Array.from({ length: Math.max(...keys.map(Number)) + 1 });
  for (const key of keys) list[Number(key)] = (object as Record<string, unknown>)[key];
  return list;
}

export function isSameList(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a === b || (a.length === b.length && a.every((one, n) => one === b[n]));
}

export class ClassName {
  constructor(readonly text: string) {}
}

/** The variables of its surroundings that a function within a method names. */
export function seenBy({ node, scope }: Closure): [string, Variable][] {
  return [...namesIn(node)].flatMap((text): [string, Variable][] => {
    const found = scope?.find(text);
    return found === undefined ? [] : [[text, found]];
  });
}

/** Whether all that a function within a method sees is known. */
export function isFixed(closure: Closure): boolean {
  return seenBy(closure).every(
    ([, { isMade, value }]) =>
      !isMade &&
      (value instanceof Known || (value instanceof Closure && value.node !== closure.node && isFixed(value))),
  );
}

/** What stands in the key of a function, and is no parameter. */
export function isGiven(value: Value): boolean {
  return (
    value instanceof Known ||
    value instanceof Closure ||
    value instanceof Fields ||
    (value instanceof Code && (VIEWS.has(value.text) || value.text === "clock"))
  );
}
