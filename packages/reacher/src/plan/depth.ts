/** Limits how deep JSON from outside is nested, since deep nesting overflows the stack of recursive code. Pure. */

/** Nothing in a plan, in overrides or in a trace is nested deeper. */
const DEEPEST = 24;

/** Whether a value is nested deeper than anything valid. Walks level by level, so that no depth overflows the stack. */
export function isTooDeep(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST) return true;
    level = level.flatMap((one) =>
      typeof one === "object" && one !== null ? Object.values(one as object) : [],
    );
  }
  return false;
}

/** A value as JSON, in one short line. */
export function shownShort(value: unknown, most: number): string | undefined {
  if (isTooDeep(value)) return Array.isArray(value) ? "a list" : "an object";
  const text = JSON.stringify(value) as string | undefined;
  return text === undefined || text.length <= most ? text : text.slice(0, most - 3) + "...";
}
