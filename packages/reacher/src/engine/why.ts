/** How each kind of gesture explains an event, by its class. */
import { All, allWhy } from "./gestures/all.js";
import { Flick, flickWhy } from "./gestures/flick.js";
import type { Gesture } from "./gestures/gesture.js";
import { Long, longWhy, Short, shortWhy } from "./gestures/longAndShort.js";
import { Series, seriesWhy } from "./gestures/series.js";
import { Taps, tapsWhy } from "./gestures/taps.js";
import type { GestureWhy } from "./explaining.js";

const GESTURES = new Map<unknown, GestureWhy<never>>([
  [Taps, tapsWhy],
  [Series, seriesWhy],
  [All, allWhy],
  [Long, longWhy],
  [Short, shortWhy],
  [Flick, flickWhy],
]);

/** How a gesture explains. */
export function whyOf(gesture: Gesture): GestureWhy<Gesture> {
  return GESTURES.get(gesture.constructor) as GestureWhy<Gesture>;
}
