/** How deep JSON from outside is nested: what is deeper than anything that has a meaning would break whoever walks through it. Pure. */

/** Nothing in a plan, in overrides or in a trace is nested deeper. */
const DEEPEST = 24;

/** Whether a value is nested deeper than anything that has a meaning. Looks level by level, so that no depth breaks it. */
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

/** A value as it stands in a file, in one short line. */
export function shownShort(value: unknown, most: number): string | undefined {
  if (isTooDeep(value)) return Array.isArray(value) ? "a list" : "an object";
  const text = JSON.stringify(value) as string | undefined;
  return text === undefined || text.length <= most ? text : text.slice(0, most - 3) + "...";
}
