/** Measuring hands and devices, in place of guessing: statistics over traces. */
export { Histogram } from "./histogram.js";
export {
  allTimes,
  proposeTapWindow,
  TapCounter,
  tapWindows,
  PAIR_MS,
  type TapProposal,
  type TapTimes,
  type TapWindow,
} from "./taps.js";
export {
  CLOUD,
  proposeZone,
  StickMeter,
  WAYS,
  type Place,
  type StickMeasure,
  type ZoneProposal,
} from "./sticks.js";
