/**
 * Press patterns: taps, short, long, all, series. In: presses and releases of their signals, in order of time, and their own
 * deadlines. Out: entries of switches that rise and fall. A gesture sees presses only while its action is live.
 */
import { GestureFloat, GestureInt, Clock, SignalInt } from "./layout.js";
import { clearDeadline, setDeadline } from "./deadlines.js";
import { dropPending } from "./claims.js";
import type { SeatState } from "./state.js";
import { pressSwitch, releaseSwitch } from "./switches.js";
import { Gesture, type GestureTable } from "./tables.js";

/** A signal of the gesture went down. */
export function pressGesture(state: SeatState, gesture: GestureTable, signal: number): void {
  const { f, i } = state;
  if (!sees(state, gesture, signal)) return;
  const now = state.clock[Clock.Now]!;
  const last = f[gesture.f + GestureFloat.LastAt]!;
  const at = gesture.i + GestureInt.Count;
  f[gesture.f + GestureFloat.LastAt] = now;
  switch (gesture.kind) {
    case Gesture.Taps:
      i[at] = i[at]! > 0 && now - last <= gesture.ms ? i[at]! + 1 : 1;
      if (i[at]! < gesture.taps) return;
      // A press counts once: the count starts again.
      i[at] = 0;
      raiseGesture(state, gesture, signal);
      return;
    case Gesture.Series:
      if (now - last > gesture.ms) i[at] = 0;
      while (i[at]! > 0 && gesture.of[i[at]!] !== signal) i[at] = gesture.fallback[i[at]!]!;
      if (gesture.of[i[at]!] === signal) i[at]!++;
      if (i[at]! < gesture.of.length) return;
      i[at] = 0;
      raiseGesture(state, gesture, signal);
      return;
    default:
      i[at] = 1;
      if (gesture.kind === Gesture.Long) setDeadline(state, gesture.deadline, now + gesture.ms);
  }
}

/** A signal of the gesture went up. */
export function releaseGesture(state: SeatState, gesture: GestureTable, signal: number): void {
  const { f, i } = state;
  const held = state.clock[Clock.Now]! - f[gesture.f + GestureFloat.LastAt]!;
  const counted = i[gesture.i + GestureInt.Count]!;
  if (gesture.kind === Gesture.Series) {
    if (signal === gesture.of[gesture.of.length - 1]) lowerGesture(state, gesture);
    return;
  }
  lowerGesture(state, gesture);
  if (gesture.kind === Gesture.Taps) {
    if (held > gesture.eachMs) i[gesture.i + GestureInt.Count] = 0;
    return;
  }
  if (counted === 0) return;
  i[gesture.i + GestureInt.Count] = 0;
  if (gesture.kind === Gesture.Long) clearDeadline(state, gesture.deadline);
  else if (held <= gesture.ms && i[state.tables.signal[signal]!.i + SignalInt.LongFired] === 0) {
    claim(state, gesture);
    state.blip(gesture.switch, signal);
  }
}

/** A press has lasted as long as a long press has to. */
export function fireLong(state: SeatState, gesture: GestureTable): void {
  const [signal] = gesture.of;
  state.i[gesture.i + GestureInt.Count] = 0;
  state.i[state.tables.signal[signal!]!.i + SignalInt.LongFired] = 1;
  raiseGesture(state, gesture, signal!);
}

/** A press that ends the count of taps. */
export function breakTaps(state: SeatState, gesture: GestureTable): void {
  state.i[gesture.i + GestureInt.Count] = 0;
}

/** A member of an `all` went down. True where that makes it complete. */
export function pressMember(state: SeatState, gesture: GestureTable, signal: number): boolean {
  const { f, i, tables } = state;
  if (!sees(state, gesture, signal)) return false;
  const at = gesture.i + GestureInt.Count;
  i[at]! |= 1 << gesture.of.indexOf(signal);
  if (i[at] !== (1 << gesture.of.length) - 1) return false;
  let first = Infinity;
  for (const member of gesture.of) first = Math.min(first, f[tables.signal[member]!.f]!);
  return state.clock[Clock.Now]! - first <= gesture.ms;
}

/** Of the `all`s that one event completes, this is the one that fires. */
export function fireAll(state: SeatState, gesture: GestureTable, signal: number): void {
  raiseGesture(state, gesture, signal);
}

/** A member of an `all` went up. */
export function releaseMember(state: SeatState, gesture: GestureTable, signal: number): void {
  state.i[gesture.i + GestureInt.Count]! &= ~(1 << gesture.of.indexOf(signal));
  lowerGesture(state, gesture);
}

/** All that it has seen so far counts no more. */
export function forgetGesture(state: SeatState, gesture: GestureTable): void {
  state.i[gesture.i + GestureInt.Count] = 0;
  if (gesture.deadline >= 0) clearDeadline(state, gesture.deadline);
  lowerGesture(state, gesture);
}

/** Until when it may still claim the press that it saw last, in ms; -Infinity where it cannot. */
export function claimEnd(state: SeatState, gesture: GestureTable): number {
  const { f, i, tables } = state;
  const counted = i[gesture.i + GestureInt.Count]!;
  if (counted === 0) return -Infinity;
  if (gesture.kind !== Gesture.All) return f[gesture.f + GestureFloat.LastAt]! + gesture.ms;
  // An `all` without a limit could claim for ever; it takes only the press that completes it.
  if (gesture.ms === Infinity || i[gesture.i + GestureInt.Up] === 1) return -Infinity;
  let first = Infinity;
  gesture.of.forEach((member, n) => {
    if ((counted & (1 << n)) !== 0) first = Math.min(first, f[tables.signal[member]!.f]!);
  });
  return first + gesture.ms;
}

function sees(state: SeatState, gesture: GestureTable, signal: number): boolean {
  return (
    state.i[gesture.i + GestureInt.Hidden] === 0 &&
    state.isLive(gesture.action) &&
    !(state.tables.hasAlls && state.isTaken(signal, gesture.switch))
  );
}

/** It has fired: a press of its switch, and of nobody else. */
export function raiseGesture(state: SeatState, gesture: GestureTable, signal: number): void {
  claim(state, gesture);
  if (state.i[gesture.i + GestureInt.Up] === 1) return;
  state.i[gesture.i + GestureInt.Up] = 1;
  pressSwitch(state, gesture.switch, signal);
}

/** What has fired it is over. */
export function lowerGesture(state: SeatState, gesture: GestureTable): void {
  if (state.i[gesture.i + GestureInt.Up] === 0) return;
  state.i[gesture.i + GestureInt.Up] = 0;
  releaseSwitch(state, gesture.switch);
}

/** Presses that waited for this gesture are its own. */
function claim(state: SeatState, gesture: GestureTable): void {
  const { claims } = gesture;
  for (let n = 0; n < claims.length; n++) dropPending(state, claims[n]!);
}
