/**
 * Traces: what the devices did, recorded and replayed.
 *
 * @module reacher/trace
 */
export type { ControlEntry, DeviceEntry, Stamped, CommandEntry, TraceEntry, TraceHead } from "./entry.js";
export { packEvents, unpackEvents, type PackedEvent, type PackedLoss } from "./packed.js";
export { parseTrace, TraceError, TraceReader } from "./lines.js";
export type { OnMoved } from "./movementRows.js";
export { replay, startReplay, type Replay, type ReplayOptions } from "./replay.js";
export type {
  AxisRow,
  GrantRow,
  NowRow,
  PulseRow,
  ReplayRow,
  SwitchRow,
  TurnRow,
  VectorRow,
} from "./rows.js";
export { record, type Recorder, type RecordOptions } from "./record.js";
export type { TraceTextOptions } from "./textOptions.js";
export { parseReport, replayReport, type Report } from "./report.js";
export { explain, explainLayer, startExplaining, type Reason } from "./explain.js";
