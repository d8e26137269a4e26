/** The situation of a seat by its class, for those who do not bring that along. Types alone but for a cast. */
import type { Situation } from "./modes.js";

/** The situation of compiled tables, for explanations. */
export function situationOf({
  situation,
}: {
  readonly situation?: object | undefined;
}): Situation | undefined {
  return situation as Situation | undefined;
}
