/** Traces: what the devices did, recorded and replayed. */
export {
  parseTrace,
  TraceError,
  TraceReader,
  type ControlEntry,
  type DeviceEntry,
  type EndEntry,
  type ToldEntry,
  type TraceEntry,
  type TraceHead,
} from "./lines.js";
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
  type VectorRow,
} from "./replay.js";
export { record, type Recorder, type RecordOptions, type TraceTextOptions } from "./record.js";
export { explain, explainLayer, startExplaining, type Reason } from "./explain.js";
