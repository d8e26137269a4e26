/**
 * Reacher: plan, layer, readings.
 *
 * @module reacher
 */
export {
  definePlan,
  type ConditionName,
  type DirectionName,
  type NamesIn,
  type UsesSlots,
  type TypedPlan,
} from "./plan/define.js";
export type {
  AxisControlName,
  ControlName,
  KeyName,
  MouseButtonName,
  PadButtonName,
  PressName,
  TurnControlName,
  VectorControlName,
} from "./controls/controlNames.js";
export { parsePlan } from "./plan/resolve.js";
export {
  findingText,
  PlanError,
  ReacherError,
  type Finding,
  type FindingId,
  type Severity,
} from "./plan/findings.js";
export {
  parseOverrides,
  type OverriddenPlan,
  type OverrideFault,
  type AddressedBy,
  type Overrides,
} from "./plan/players/overrides.js";
export { applyOverrides } from "./plan/players/applyOverrides.js";
export type * from "./plan/fieldNames.js";
export type * from "./plan/types.js";
export type { Moment } from "./plan/arguments.js";
export { createInputLayer } from "./layer/createInputLayer.js";
export type {
  Counters,
  DriveOf,
  DriveOptions,
  DrivenNames,
  FlagOptions,
  Held,
  InputLayer,
  Interceptor,
  LayerWatcher,
  NamesOf,
  Unsubscribe,
  PadChange,
  Press,
  RawEvent,
  Seat,
  SwitchChange,
  When,
} from "./layer/types.js";
export type { Command, DeviceCommand, SeatCommand, WatchedCommand } from "./layer/command.js";
export type {
  ActionReading,
  AxisReading,
  EndedBy,
  FacingReading,
  MovementReading,
  Reading,
  ReadingOf,
  SwitchReading,
  TurnReading,
  VectorReading,
  WithGaits,
} from "./engine/readings.js";
export {
  allControls,
  findControl,
  type Control,
  type ControlFamily,
  type Device,
} from "./controls/catalogue.js";
export { placeLabel } from "./controls/labels.js";
