/**
 * Reacher: plan, layer, readings.
 *
 * @module reacher
 */
export { definePlan, type TypedPlan } from "./plan/define.js";
export type { ControlName } from "./controls/controlNames.js";
export { parsePlan } from "./plan/resolve.js";
export { type Finding, type FindingId, type Severity } from "./plan/findings.js";
export { findingText, PlanError, ReacherError } from "./plan/errors.js";
export {
  parseOverrides,
  type OverriddenPlan,
  type OverrideFault,
  type Overrides,
} from "./plan/players/overrides.js";
export { applyOverrides } from "./plan/players/applyOverrides.js";
export type { Action, Direction, Kind, Kinds, Plan, PlayerFields, Range, Style } from "./plan/types.js";
export type { OtherNames } from "./plan/fieldNames.js";
export type * as PlanFields from "./plan/fieldTypes.js";
export type { Moment } from "./plan/arguments.js";
export { createInputLayer } from "./layer/createInputLayer.js";
export type {
  Counters,
  DriveOptions,
  FlagOptions,
  Held,
  InputLayer,
  Interceptor,
  LayerWatcher,
  Unsubscribe,
  PadChange,
  Press,
  RawEvent,
  Seat,
  SwitchChange,
  When,
} from "./layer/types.js";
export type * as Inferred from "./layer/inferred.js";
export type { Command, DeviceCommand, SeatCommand, WatchedCommand } from "./layer/command.js";
export type {
  ActionReading,
  AxisReading,
  EndedBy,
  FacingReading,
  MovementReading,
  Reading,
  SwitchReading,
  TurnReading,
  VectorReading,
} from "./engine/readings.js";
export {
  allControls,
  findControl,
  type Control,
  type ControlFamily,
  type Device,
} from "./controls/catalogue.js";
export { placeLabel } from "./controls/labels.js";
