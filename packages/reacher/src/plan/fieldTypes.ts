/** The types of a plan's fields, entries and names, for whoever writes a plan in parts or a tool for plans. */
export type * from "./types.js";
export type * from "./fieldNames.js";
export type { ConditionName, DirectionName, NamesIn, OwnName, UsesSlots } from "./define.js";
export type * from "../controls/controlNames.js";
export type { OwnKind } from "../controls/ownControls.js";
