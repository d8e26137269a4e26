/** What is said of settings that do not fit. Pure. */
import { shownShort } from "../depth.js";
import type { Range } from "../types.js";

export const NO_NUMBER = "it is a number";

export const noneOf = (choices: readonly string[]): string => `it is one of ${choices.join(", ")}`;

/** The nearest that is allowed. */
export const nearest = (value: number, [least, most]: Range): number =>
  Math.min(most, Math.max(least, value));

export const outside = (value: number, range: Range): string =>
  `${value} is not within ${range[0]} and ${range[1]}; ${nearest(value, range)} is taken`;

export const ofAnother = (plan: unknown, own: string): string =>
  `these are overrides of ${shownShort(plan, 60)}, and the plan is ${JSON.stringify(own)}`;
