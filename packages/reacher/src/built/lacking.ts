/** Finds what no feature of a built game supports. In: an action with a player's changes, and the features. Out: what is missing. Pure. */
import type { CheckedAction, CheckedSwitch } from "../plan/checked.js";
import type { Feature } from "../engine/compile.js";

type EntryKind = keyof NonNullable<Feature["entries"]>;

/** The feature that makes an entry. */
export function kindOf(entry: CheckedSwitch["entries"][number]): EntryKind {
  return entry.kind === "plain" && entry.waits ? "waits" : entry.kind;
}

/** Whether an entry of it is pressed by what comes out of a movement. */
export function hasResults(action: CheckedAction): boolean {
  return (
    action.kind === "switch" &&
    action.entries.some((entry) =>
      [...entry.of, ...("with" in entry ? entry.with : [])].some((source) => "result" in source),
    )
  );
}

/** The first kind of entry, or the style, of an action that none of these features supports. */
export function lackingIn(action: CheckedAction, features: readonly Feature[]): string | undefined {
  if (action.kind !== "switch") return undefined;
  const kind = action.entries.map(kindOf).find((one) => !features.some(({ entries }) => entries?.[one]));
  if (kind !== undefined) return kind;
  if (hasResults(action) && !features.some(({ results }) => results !== undefined)) return "result";
  const isMade = features.some(({ options = [] }) => options.some(({ name }) => name === "style"));
  return action.style === "hold" || isMade ? undefined : action.style;
}
