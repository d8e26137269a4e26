/** What a plan promises: names that stay known, actions that are never bare, ranges for players. */
import type { CheckedAction } from "../checked.js";
import type { Reader } from "./reader.js";

/** What the plan promises of names and of required actions. */
export function checkPromises(reader: Reader, actions: readonly CheckedAction[]): void {
  for (const action of actions) {
    const { was = [], required, player } = reader.plan.actions[action.name]!;
    checkRanges(reader, player, `actions.${action.name}.player`);
    was.forEach((name, n) => {
      if (Object.hasOwn(reader.plan.actions, name))
        reader.report(
          "name-taken",
          `actions.${action.name}.was.${n}`,
          `another action is called ${name} now`,
        );
    });
    const missing = required === true ? missingControls(action) : undefined;
    if (missing !== undefined)
      reader.report("required-bare", `actions.${action.name}`, `it is required, and has ${missing}`);
  }
}

/** A range goes from the least to the most. */
export function checkRanges(reader: Reader, player: object | undefined, place: string): void {
  for (const [field, range] of Object.entries(player ?? {})) {
    if (!Array.isArray(range) || typeof range[0] !== "number" || !(range[0] > range[1])) continue;
    const fix = `[${range[1]}, ${range[0]}]`;
    reader.report(
      "range-order",
      `${place}.${field}`,
      `the least, ${range[0]}, is above the most, ${range[1]}; write ${fix}`,
    );
  }
}

/** What a required action lacks, or `undefined` where it has all that it needs. */
export function missingControls(action: CheckedAction): string | undefined {
  if (action.kind === "switch") return action.entries.length > 0 ? undefined : "no control";
  if (action.sticks.length > 0) return undefined;
  if (action.kind === "turn") return action.mice.length > 0 ? undefined : "no control";
  const missing = action.endNames.filter((end) => !action.ends.some((one) => one.end === end));
  return missing.length === 0 ? undefined : `no control for ${missing.join(" and ")}`;
}
