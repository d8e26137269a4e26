/** Types that are worked out of a plan's own: which names a call takes, which readings come back. Nobody has to write them. */
export type { ReadingOf, WithGaits } from "../engine/readings.js";
export type { AddressedBy } from "../plan/players/overrides.js";
export type { DriveOf, DrivenNames, NamesOf } from "./types.js";
