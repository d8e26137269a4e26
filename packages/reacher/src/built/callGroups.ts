/** The groups of calls that a game made for its plan brings, by the names under which modules import them. */
import { DriveCalls } from "../layer/calls/driveCalls.js";
import { FixedStepCalls } from "../layer/calls/fixedSteps.js";
import { FlagCalls } from "../layer/calls/flagCalls.js";
import { ListenCalls } from "../layer/calls/listenCalls.js";
import { ModeCalls } from "../layer/calls/modeCalls.js";
import { MuteCalls } from "../layer/calls/muteCalls.js";
import { NumberCalls } from "../layer/calls/numberCalls.js";
import { CopyCalls, LiveCalls } from "../layer/calls/readCalls.js";
import { SnapshotCalls } from "../layer/calls/snapshotCalls.js";
import { SpotCalls } from "../layer/calls/spotCalls.js";
import { ResetCalls, SetSwitchCalls, TakeCalls } from "../layer/calls/switchCalls.js";

/** A group of calls of a layer. Its contents are internal. */
export interface Calls {
  readonly part: "calls";
}

/** `drive`. */
export const driveCalls = DriveCalls as unknown as Calls;
/** `setFlag`, `flags`. */
export const flagCalls = FlagCalls as unknown as Calls;
/** `on`. */
export const listenCalls = ListenCalls as unknown as Calls;
/** `enter`, `leave`, `modes`. */
export const modeCalls = ModeCalls as unknown as Calls;
/** `mute`, `unmute`, `mutes`. */
export const muteCalls = MuteCalls as unknown as Calls;
/** `setNumber`, `number`. */
export const numberCalls = NumberCalls as unknown as Calls;
/** `copy`. */
export const copyCalls = CopyCalls as unknown as Calls;
/** `live`. */
export const liveCalls = LiveCalls as unknown as Calls;
/** `snapshot`, `restore`. */
export const snapshotCalls = SnapshotCalls as unknown as Calls;
/** `setSpot`. */
export const spotCalls = SpotCalls as unknown as Calls;
/** `reset`. */
export const resetCalls = ResetCalls as unknown as Calls;
/** `setSwitch`. */
export const setSwitchCalls = SetSwitchCalls as unknown as Calls;
/** `take`. */
export const takeCalls = TakeCalls as unknown as Calls;
/** `fixedSteps`. */
export const fixedStepCalls = FixedStepCalls as unknown as Calls;
