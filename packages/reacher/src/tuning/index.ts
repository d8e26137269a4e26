/**
 * Measuring hands and devices instead of guessing: statistics over traces.
 *
 * @module reacher/tuning
 */
export { Histogram } from "./histogram.js";
export {
  allTimes,
  proposeTapWindow,
  TapCounter,
  tapWindows,
  type TapProposal,
  type TapTimes,
  type TapWindow,
} from "./taps.js";
export { proposeZone, StickMeter, type Place, type StickMeasure, type ZoneProposal } from "./sticks.js";
