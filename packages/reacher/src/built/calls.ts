/** What a game may call of a layer and need not bring along. In: names. Out: the features that they need. Pure. */
import { mustBeList } from "../plan/arguments.js";
import { didYouMean } from "../controls/nearest.js";
import { ReacherError } from "../plan/findings.js";
import { shown } from "../plan/depth.js";
import type { FeatureName } from "../engine/every.js";

/** Each call that may be left out, with its feature. */
export const CALLS = { drive: "drives", mute: "modes", unmute: "modes" } as const satisfies Record<
  string,
  FeatureName
>;
export type Call = keyof typeof CALLS;

/** Every one of them. */
export const ALL_CALLS = Object.keys(CALLS) as readonly Call[];

/** A call that straight code cannot serve: a game that names it brings the rules themselves. */
export const RULES_CALL = "setPlan";

/** @throws ReacherError naming a call that cannot be left out */
export function mustBeCalls(given: unknown): readonly Call[] {
  mustBeList(given, "calls");
  for (const call of given as readonly unknown[])
    if (typeof call !== "string" || !Object.hasOwn(CALLS, call))
      throw new ReacherError(
        `${shown(call)} is no call that can be left out; these can: ${ALL_CALLS.join(", ")}${typeof call === "string" ? didYouMean(call, ALL_CALLS) : ""}`,
      );
  return given as readonly Call[];
}

/** The calls whose names stand anywhere in a text: too many rather than too few. */
export function callsNamedIn(text: string): readonly Call[] {
  return ALL_CALLS.filter((call) => new RegExp(`\\b${call}\\b`).test(text));
}
