/**
 * For tests: a script of presses played into a layer, and a pad that stands in for a real one.
 *
 * @module reacher/testing
 */
export { play, type Hands, type PlayOptions } from "./script.js";
export { installPads, simulatePad, type SimulatedPad } from "./simulatedPad.js";
