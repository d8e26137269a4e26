/** How each kind of gesture explains an event, by its class. */
import type { GestureKind } from "../plan/gestures/gesture.js";
import { All, allWhy } from "./gestures/all.js";
import { Flick, flickWhy } from "./gestures/flick.js";
import type { Gesture } from "./gestures/gesture.js";
import { Long, longWhy, Short, shortWhy } from "./gestures/longAndShort.js";
import { Series, seriesWhy } from "./gestures/series.js";
import { Taps, tapsWhy } from "./gestures/taps.js";
import type { GestureWhy } from "./explaining.js";

type Explained = readonly [rule: unknown, why: GestureWhy<never>];

const BY_KIND: { readonly [K in Exclude<GestureKind, "plain">]: Explained } = {
  taps: [Taps, tapsWhy],
  series: [Series, seriesWhy],
  all: [All, allWhy],
  long: [Long, longWhy],
  short: [Short, shortWhy],
  flick: [Flick, flickWhy],
};

const GESTURES = new Map<unknown, GestureWhy<never>>(Object.values(BY_KIND));

/** How a gesture explains. */
export function whyOf(gesture: Gesture): GestureWhy<Gesture> {
  return GESTURES.get(gesture.constructor) as GestureWhy<Gesture>;
}
