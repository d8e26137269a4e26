/** Traces: what the devices did, recorded and replayed. */
export type { ControlEntry, DeviceEntry, EndEntry, Stamped, ToldEntry, TraceEntry, TraceHead } from "./entry.js";
export { parseTrace, TraceError, TraceReader } from "./lines.js";
export {
  replay,
  startReplay,
  type AxisRow,
  type NowRow,
  type PulseRow,
  type Replay,
  type ReplayOptions,
  type ReplayRow,
  type SwitchRow,
  type TurnRow,
  type VectorRow,
} from "./replay.js";
export { record, type Recorder, type RecordOptions, type TraceTextOptions } from "./record.js";
export { explain, explainLayer, startExplaining, type Reason } from "./explain.js";
