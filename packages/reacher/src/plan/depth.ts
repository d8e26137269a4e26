/** Values from outside in messages, and how deep they may be nested: deep nesting overflows the stack of recursive code. Pure. */

/** Nothing in a plan, in overrides or in a trace is nested deeper. */
const DEEPEST = 24;

/**
 * Whether a value is nested deeper than anything valid, or refers to itself. Walks level by level, each object once, so that neither
 * depth nor size matters.
 */
export function isTooDeep(value: unknown): boolean {
  const seen = new Set<object>();
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST) return true;
    const next: unknown[] = [];
    for (const one of level) {
      if (typeof one !== "object" || one === null || seen.has(one)) continue;
      seen.add(one);
      if (isForeign(one)) return true;
      for (const inner of Object.values(one)) next.push(inner);
    }
    level = next;
  }
  return false;
}

/** Whether this is an object that JSON does not know: a layer, a window, a class's own. */
export function isForeign(value: object): boolean {
  if (Array.isArray(value)) return false;
  const kind = Object.getPrototypeOf(value) as object | null;
  return kind !== null && Object.getPrototypeOf(kind) !== null;
}

/** A value as JSON, in one short line; `undefined` for what JSON has no text for. */
export function shownShort(value: unknown, most: number): string | undefined {
  if (typeof value === "bigint") return `${value}n`;
  if (typeof value === "function") return "a function";
  if (typeof value === "symbol") return "a symbol";
  if (typeof value === "number") return String(value);
  if (isTooDeep(value)) return Array.isArray(value) ? "a list" : "an object";
  let text: string | undefined;
  try {
    text = JSON.stringify(value);
  } catch {
    return "an object";
  }
  return text === undefined || text.length <= most ? text : text.slice(0, most - 3) + "...";
}

/** The same for a sentence: what is missing is "nothing". */
export function shown(value: unknown): string {
  return shownShort(value, 60) ?? "nothing";
}
