/** What of an action no feature makes. In: an action as a player has it, and the features of a built game. Out: what is lacking. Pure. */
import type { CheckedAction, CheckedSwitch } from "../plan/checked.js";
import type { Feature } from "../engine/compile.js";

type EntryKind = keyof NonNullable<Feature["entries"]>;

/** What has to make an entry. */
export function kindOf(entry: CheckedSwitch["entries"][number]): EntryKind {
  return entry.kind === "plain" && entry.waits ? "waits" : entry.kind;
}

/** The first kind of entry, or the style, that an action has and none of these features makes. */
export function lackingIn(action: CheckedAction, features: readonly Feature[]): string | undefined {
  if (action.kind !== "switch") return undefined;
  const kind = action.entries.map(kindOf).find((one) => !features.some(({ entries }) => entries?.[one]));
  if (kind !== undefined) return kind;
  const isMade = features.some(({ options = [] }) => options.some(({ name }) => name === action.style));
  return action.style === "hold" || isMade ? undefined : action.style;
}
