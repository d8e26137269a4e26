/**
 * Raw values as pressed and released. In: a channel whose value has changed. Out: counts of what is down on switches and
 * movers, which are marked to be looked at again.
 */
import { EndInt, Clock, HeadInt, MoverInt, SignalInt, StickInt } from "./layout.js";
import { strongest } from "./channels.js";
import { pressEntry, releaseEntry } from "./entries.js";
import { breakTaps, fireAll, pressGesture, pressMember, releaseGesture, releaseMember } from "./gestures.js";
import { pressEnd, releaseEnd } from "./movement.js";
import { endBits, oneMore } from "./keys.js";
import type { NumberList } from "./lists.js";
import type { SeatState } from "./state.js";
import { End, type ChannelTable, type GestureTable, type SignalTable, type StickTable } from "./tables.js";

/** A stick counts as pressed to a side from here, and as released below there. */
const STICK_PRESS = 0.5;
const STICK_RELEASE = 0.4;

/** Passes on that a channel has another value on one place. `alone`: nothing else happens in this event. */
export function spreadChannel(state: SeatState, channel: ChannelTable, place: number, alone: boolean): void {
  const { signals, sticks, analogEnds, places, f: at } = channel;
  const { f, i } = state;
  for (let n = 0; n < signals.length; n++) {
    const signal = signals[n]!;
    const value = places === 1 ? f[at]! * signal.sign : strongest(f, at, places, signal.sign);
    if (i[signal.i] === 0) {
      if (value >= signal.press) rise(state, signal, alone);
    } else if (value < signal.release) fall(state, signal, alone);
  }
  for (let n = place; n < sticks.length; n += places) state.markStick(sticks[n]!);
  for (let n = 0; n < analogEnds.length; n++) state.markMover(analogEnds[n]!.mover);
}

function rise(state: SeatState, signal: SignalTable, alone: boolean): void {
  const { f, i } = state;
  const { ends, breaks } = signal;
  i[signal.i + SignalInt.Up] = 1;
  if (signal.long) i[signal.i + SignalInt.LongFired] = 0;
  f[signal.f] = state.clock[Clock.Now]!;
  if (ends.length > 0) i[HeadInt.Presses]!++;
  for (let n = 0; n < ends.length; n++) {
    const end = ends[n]!;
    pressEnd(state, end, signal.device);
    if (end.direction !== undefined) addSource(state, end.moverAt, end.end, end.direction, alone);
  }
  for (let n = 0; n < breaks.length; n++) breakTaps(state, breaks[n]!);
  if (alone && signal.direct) {
    const { gestures } = signal;
    for (let n = 0; n < gestures.length; n++) pressGesture(state, gestures[n]!, signal.id);
  } else if (signal.ruled) {
    state.noteRise(signal.id);
    return;
  }
  for (let n = 0; n < signal.entries.length; n++) pressEntry(state, signal.entries[n]!);
}

function fall(state: SeatState, signal: SignalTable, alone: boolean): void {
  const { ends } = signal;
  state.i[signal.i + SignalInt.Up] = 0;
  for (let n = 0; n < ends.length; n++) {
    const end = ends[n]!;
    // One that was down before it came to do this is no press of it, and its release none either.
    if (state.i[end.i + EndInt.Down] === 0) continue;
    releaseEnd(state, end);
    if (end.direction !== undefined) dropSource(state, end.moverAt, end.end, end.direction, alone);
  }
  if (alone && signal.direct) {
    const { gestures } = signal;
    for (let n = 0; n < gestures.length; n++) releaseGesture(state, gestures[n]!, signal.id);
  } else if (signal.ruled) {
    state.noteFall(signal.id);
    return;
  }
  for (let n = 0; n < signal.entries.length; n++) releaseEntry(state, signal.entries[n]!);
}

/** One more key or stick gives a direction. A second one on a direction already held is no new press. */
function addSource(
  state: SeatState,
  mover: number,
  end: number,
  direction: SignalTable,
  alone: boolean,
): void {
  const { i } = state;
  const sources = i[mover + MoverInt.Sources]!;
  i[mover + MoverInt.Sources] = sources + oneMore(end);
  if ((sources & endBits(end)) === 0) rise(state, direction, alone);
}

/** One key or stick fewer gives a direction. */
function dropSource(
  state: SeatState,
  mover: number,
  end: number,
  direction: SignalTable,
  alone: boolean,
): void {
  const { i } = state;
  const sources = i[mover + MoverInt.Sources]! - oneMore(end);
  i[mover + MoverInt.Sources] = sources;
  if ((sources & endBits(end)) === 0) fall(state, direction, alone);
}

/** Works out to which ends a stick is tilted, for gestures: after invert, before dead zone and ease. */
export function updateStickEnds(state: SeatState, stick: StickTable): void {
  const signals = stick.directionSignals;
  if (signals === undefined) return;
  const { f, i, tables } = state;
  const { up } = tables.mover[stick.mover]!;
  const x = f[stick.rawX]! * stick.signX;
  const y = stick.rawY < 0 ? 0 : f[stick.rawY]! * stick.signY * up;
  const was = i[stick.i + StickInt.Ends]!;
  let is = x >= level(was, End.Right) ? 1 << End.Right : -x >= level(was, End.Left) ? 1 << End.Left : 0;
  if (y >= level(was, End.Up)) is |= 1 << End.Up;
  else if (-y >= level(was, End.Down)) is |= 1 << End.Down;
  if (is === was) return;
  i[stick.i + StickInt.Ends] = is;
  for (let end = 0; end < 4; end++) {
    const signal = signals[end];
    if (signal === undefined || ((is ^ was) & (1 << end)) === 0) continue;
    if ((is & (1 << end)) !== 0) addSource(state, stick.moverAt, end, signal, false);
    else dropSource(state, stick.moverAt, end, signal, false);
  }
}

/** From where on an end counts as pressed; one that is pressed stays so a little longer. */
function level(ends: number, end: number): number {
  return (ends & (1 << end)) === 0 ? STICK_PRESS : STICK_RELEASE;
}

/**
 * Hands the presses and releases of one event to gestures and to the entries that come after them, in the design's order:
 * `all`, other gestures, plain entries.
 */
export function applyRules(state: SeatState, rose: NumberList, fell: NumberList): void {
  const { signal } = state.tables;
  if (state.tables.hasAlls) applyAlls(state, rose, fell);
  for (let n = 0; n < fell.count; n++) {
    const { id, gestures } = signal[fell.items[n]!]!;
    for (let m = 0; m < gestures.length; m++) releaseGesture(state, gestures[m]!, id);
  }
  for (let n = 0; n < rose.count; n++) {
    const { id, gestures } = signal[rose.items[n]!]!;
    for (let m = 0; m < gestures.length; m++) pressGesture(state, gestures[m]!, id);
  }
  for (let n = 0; n < fell.count; n++) {
    const { entries } = signal[fell.items[n]!]!;
    for (let m = 0; m < entries.length; m++) releaseEntry(state, entries[m]!);
  }
  for (let n = 0; n < rose.count; n++) {
    const { entries } = signal[rose.items[n]!]!;
    for (let m = 0; m < entries.length; m++) pressEntry(state, entries[m]!);
  }
  if (state.tables.hasAlls) for (let n = 0; n < fell.count; n++) state.take(fell.items[n]!, -1);
}

/** Of the `all`s that the event completes, the one with the most members fires; of equal ones the first in the plan. */
function applyAlls(state: SeatState, rose: NumberList, fell: NumberList): void {
  const { signal } = state.tables;
  let best: GestureTable | undefined;
  let completing = -1;
  for (let n = 0; n < fell.count; n++) {
    const { id, alls } = signal[fell.items[n]!]!;
    for (let m = 0; m < alls.length; m++) releaseMember(state, alls[m]!, id);
  }
  for (let n = 0; n < rose.count; n++) {
    const { id, alls } = signal[rose.items[n]!]!;
    for (let m = 0; m < alls.length; m++) {
      const gesture = alls[m]!;
      if (!pressMember(state, gesture, id)) continue;
      const longer = best === undefined || gesture.of.length > best.of.length;
      if (longer || (gesture.of.length === best!.of.length && gesture.id < best!.id)) {
        best = gesture;
        completing = id;
      }
    }
  }
  if (best === undefined) return;
  fireAll(state, best, completing);
  for (let n = 0; n < rose.count; n++)
    if (best.of.includes(rose.items[n]!)) state.take(rose.items[n]!, best.switch);
}
