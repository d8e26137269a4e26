/**
 * The features of the engine, by the names under which modules of built plans import them. A bundler takes those that are imported, and leaves the others.
 */
import { bounce as bounceFeature } from "../engine/bounce.js";
import { all as allFeature } from "../engine/gestures/all.js";
import { flick as flickFeature } from "../engine/gestures/flick.js";
import { long as longFeature, short as shortFeature } from "../engine/gestures/longAndShort.js";
import { series as seriesFeature } from "../engine/gestures/series.js";
import { taps as tapsFeature } from "../engine/gestures/taps.js";
import { movements as movementsFeature } from "../engine/movement/make.js";
import {
  ease as easeFeature,
  gaits as gaitsFeature,
  pace as paceFeature,
  speedGaits as speedGaitsFeature,
  sticks as sticksFeature,
} from "../engine/movement/options.js";
import { lasting as lastingFeature } from "../engine/lasting.js";
import { pointer as pointerFeature } from "../engine/movement/makePointer.js";
import { results as resultsFeature } from "../engine/movement/results.js";
import { drives as drivesFeature } from "../engine/drives.js";
import { flags as flagsFeature } from "../engine/situations/flags.js";
import { losses as lossesFeature } from "../engine/situations/losses.js";
import { modes as modesFeature } from "../engine/situations/modes.js";
import { numbers as numbersFeature } from "../engine/situations/numbers.js";
import { beginsIf as beginsIfFeature } from "../engine/switches/beginsIf.js";
import { buffer as bufferFeature } from "../engine/switches/buffer.js";
import { switches as switchesFeature } from "../engine/switches/make.js";
import { needs as needsFeature } from "../engine/switches/needs.js";
import { anew as anewFeature } from "../engine/switches/anew.js";
import { oneOf as oneOfFeature } from "../engine/switches/oneOf.js";
import { repeat as repeatFeature } from "../engine/switches/repeat.js";
import { cooldown as cooldownFeature } from "../engine/switches/cooldown.js";
import { spends as spendsFeature } from "../engine/switches/spends.js";
import { styles as stylesFeature } from "../engine/switches/styles.js";
import { waits as waitsFeature } from "../engine/switches/waits.js";
import { turns as turnsFeature } from "../engine/turns/make.js";

/** A part of the library that a plan uses. Its contents are internal. */
export interface Part {
  readonly part: "feature";
}

/** Releases of worn keys that a press follows at once count as none. */
export const bounce = bounceFeature as unknown as Part;
/** Several controls held together, which take the press that completes them. */
export const all = allFeature as unknown as Part;
/** A stick flicked to its rim. */
export const flick = flickFeature as unknown as Part;
/** A press that lasts. */
export const long = longFeature as unknown as Part;
/** A press that ends soon. */
export const short = shortFeature as unknown as Part;
/** Presses of several controls, one after the other. */
export const series = seriesFeature as unknown as Part;
/** Presses that follow each other closely. */
export const taps = tapsFeature as unknown as Part;
/** Sticks that move an axis or a vector. */
export const sticks = sticksFeature as unknown as Part;
/** The pointer as a direction, from a spot that the game tells. */
export const pointer = pointerFeature as unknown as Part;
/** A ramp for what keys give. */
export const ease = easeFeature as unknown as Part;
/** The speed that goes with a movement. */
export const pace = paceFeature as unknown as Part;
/** Named bands of a length. */
export const gaits = gaitsFeature as unknown as Part;
/** Named bands of a speed. */
export const speedGaits = speedGaitsFeature as unknown as Part;
/** Directions and lengths as they come out. */
export const results = resultsFeature as unknown as Part;
/** What must have been true for a while. */
export const lasting = lastingFeature as unknown as Part;
/** Axes and vectors. */
export const movements = movementsFeature as unknown as Part;
/** The game drives an action itself: `drive`. */
export const drives = drivesFeature as unknown as Part;
/** Facts that the game tells, and how long they linger. */
export const flags = flagsFeature as unknown as Part;
/** A lost focus or pad puts what it held to rest. */
export const losses = lossesFeature as unknown as Part;
/** Situations, what they cover, and mutes: which actions are live. */
export const modes = modesFeature as unknown as Part;
/** Named numbers that the game may set. */
export const numbers = numbersFeature as unknown as Part;
/** What must be true for a switch to begin. */
export const beginsIf = beginsIfFeature as unknown as Part;
/** A press that comes too early is kept until it may begin. */
export const buffer = bufferFeature as unknown as Part;
/** Actions that are on or off. */
export const switches = switchesFeature as unknown as Part;
/** What must be true for a switch to be on. */
export const needs = needsFeature as unknown as Part;
/** Each press of any of its keys is one of its own. */
export const anew = anewFeature as unknown as Part;
/** Of several switches the newest alone is on. */
export const oneOf = oneOfFeature as unknown as Part;
/** Pulses while a switch is on. */
export const repeat = repeatFeature as unknown as Part;
/** A cooldown after each beginning. */
export const cooldown = cooldownFeature as unknown as Part;
/** Flags that a beginning uses up. */
export const spends = spendsFeature as unknown as Part;
/** A press turns on, the next turns off; or a short press stays on, a long one ends with the key. */
export const styles = stylesFeature as unknown as Part;
/** A press that waits for the gestures that may claim it. */
export const waits = waitsFeature as unknown as Part;
/** Amounts turned in each step, by mouse or stick. */
export const turns = turnsFeature as unknown as Part;
