/**
 * What nearly every event is, done in one go: a key that moves something, is tapped or drives a switch, or a stick that is
 * tilted. In: the event. Out: the movement it gives, and the switches and paces that have to be looked at.
 *
 * It does what `signals.ts` and `movement.ts` do, for channels that have nothing else to do (`ChannelTable.way`). Its
 * functions are long, since what they have looked up once stays at hand, and every call would look it up again.
 */
import { breakTaps, lowerGesture, pressGesture, raiseGesture, releaseGesture } from "./gestures.js";
import {
  Clock,
  EndInt,
  EntryInt,
  GestureFloat,
  GestureInt,
  HeadInt,
  MoverInt,
  SignalInt,
  StickFloat,
  StickInt,
  SwitchFloat,
  SwitchInt,
} from "./layout.js";
import { stickRests, updatePlainly, updateStick } from "./movement.js";
import { updatePace } from "./pace.js";
import { Slot } from "./queue.js";
import { bentTravel } from "./shape.js";
import { updateStickEnds } from "./signals.js";
import type { SeatState } from "./state.js";
import { Gesture, Level, type ChannelTable, type SignalTable, type SwitchTable } from "./tables.js";

/** A key or a button is at the value that stands at this place of the queue. */
export function runKey(state: SeatState, channel: ChannelTable, at: number): void {
  const { f, i, clock } = state;
  const value = state.events.slots[at + Slot.Value]!;
  if (f[channel.f] === value) return;
  f[channel.f] = value;
  const now = clock[Clock.Now]!;
  const { signals, laneMovers } = channel;
  if (value >= Level.Used) i[HeadInt.LastDevice] = channel.device;
  for (let n = 0; n < signals.length; n++) {
    const signal = signals[n]!;
    const { ends } = signal;
    if (i[signal.i] === 0) {
      if (value < signal.press) continue;
      const count = i[HeadInt.Presses]! + 1;
      i[signal.i] = 1;
      f[signal.f] = now;
      if (ends.length > 0) i[HeadInt.Presses] = count;
      for (let m = 0; m < ends.length; m++) {
        const end = ends[m]!;
        const { moverAt, direction } = end;
        const keys = i[moverAt + MoverInt.Keys]!;
        if (end.ordered && (keys & end.bits) === 0)
          i[end.newestAt + (MoverInt.First - MoverInt.Newest)] = count;
        i[end.newestAt] = count;
        i[moverAt + MoverInt.KeyDevice] = signal.device;
        i[end.i + EndInt.Down] = 1;
        if (i[end.i + EndInt.Hidden] === 0) i[moverAt + MoverInt.Keys] = keys + end.key;
        if (direction === undefined) continue;
        const sources = i[moverAt + MoverInt.Sources]!;
        i[moverAt + MoverInt.Sources] = sources + end.key;
        if ((sources & end.bits) !== 0) continue;
        i[direction.i] = 1;
        f[direction.f] = now;
        passPress(state, direction);
      }
      if (!signal.movesOnly) passPress(state, signal);
    } else if (value < signal.release) {
      i[signal.i] = 0;
      for (let m = 0; m < ends.length; m++) {
        const end = ends[m]!;
        const { moverAt, direction } = end;
        // One that was down before it came to do this is no press of it, and its release none either.
        if (i[end.i + EndInt.Down] === 0) continue;
        i[end.i + EndInt.Down] = 0;
        if (i[end.i + EndInt.Hidden] === 0) i[moverAt + MoverInt.Keys]! -= end.key;
        if (direction === undefined) continue;
        const sources = i[moverAt + MoverInt.Sources]! - end.key;
        i[moverAt + MoverInt.Sources] = sources;
        if ((sources & end.bits) !== 0) continue;
        i[direction.i] = 0;
        passRelease(state, direction);
      }
      if (!signal.movesOnly) passRelease(state, signal);
    }
  }
  for (let n = 0; n < laneMovers.length; n++) {
    const mover = laneMovers[n]!;
    // One that is not live is at rest.
    if (i[mover.live] === 1) updatePlainly(state, mover);
  }
}

/** A signal that went down is passed on to taps and the like, and to switches. */
function passPress(state: SeatState, signal: SignalTable): void {
  const { f, i, clock } = state;
  const { breaks, gestures, entries, id } = signal;
  const now = clock[Clock.Now]!;
  if (signal.long) i[signal.i + SignalInt.LongFired] = 0;
  for (let n = 0; n < breaks.length; n++) breakTaps(state, breaks[n]!);
  for (let n = 0; n < gestures.length; n++) {
    const gesture = gestures[n]!;
    if (gesture.kind !== Gesture.Taps) {
      pressGesture(state, gesture, id);
      continue;
    }
    const ints = gesture.i;
    if (i[gesture.live] === 0 || i[ints + GestureInt.Hidden] === 1) continue;
    const last = f[gesture.f + GestureFloat.LastAt]!;
    let count = i[ints + GestureInt.Count]!;
    f[gesture.f + GestureFloat.LastAt] = now;
    count = count > 0 && now - last <= gesture.ms ? count + 1 : 1;
    const fires = count >= gesture.taps;
    i[ints + GestureInt.Count] = fires ? 0 : count;
    if (fires) raiseGesture(state, gesture, id);
  }
  for (let n = 0; n < entries.length; n++) {
    const entry = entries[n]!;
    const { owner } = entry;
    const ints = owner.i;
    if ((i[entry.live] === 0 && !owner.carry) || i[entry.i + EntryInt.Hidden] === 1) continue;
    i[entry.i + EntryInt.Down] = 1;
    const down = i[ints + SwitchInt.Down]!;
    i[ints + SwitchInt.Down] = down + 1;
    if (down > 0) continue;
    i[ints + SwitchInt.By] = id;
    if (owner.waits || state.tell !== null || state.watcher !== null) state.markSwitch(owner.id);
    else if (i[ints + SwitchInt.Spent] === 0) {
      const step = clock[Clock.Step]!;
      const floats = owner.f;
      i[ints + SwitchInt.Up] = i[ints + SwitchInt.Told] = i[owner.factAt] = 1;
      i[ints + SwitchInt.Presses] =
        f[floats + SwitchFloat.OnStep] === step ? i[ints + SwitchInt.Presses]! + 1 : 1;
      f[floats + SwitchFloat.OnStep] = step;
      f[floats + SwitchFloat.OnAt] = now;
      if (owner.heard) hear(state, owner);
    }
  }
}

/** Whoever asks for the fact that a switch is on has to know. */
function hear(state: SeatState, { fact }: SwitchTable): void {
  const { pacedBy, neededBy, mover } = state.tables;
  const paced = pacedBy[fact]!;
  for (let n = 0; n < paced.length; n++) {
    const id = paced[n]!;
    if (mover[id]!.easeMs === 0) updatePace(state, id);
    else state.markPace(id);
  }
  if (neededBy[fact]!.length > 0) state.markNeedy(fact);
}

/** The same for one that went up. */
function passRelease(state: SeatState, signal: SignalTable): void {
  const { f, i, clock } = state;
  const { gestures, entries, id } = signal;
  for (let n = 0; n < gestures.length; n++) {
    const gesture = gestures[n]!;
    if (gesture.kind !== Gesture.Taps) {
      releaseGesture(state, gesture, id);
      continue;
    }
    if (i[gesture.i + GestureInt.Up] === 1) lowerGesture(state, gesture);
    if (
      gesture.eachMs !== Infinity &&
      clock[Clock.Now]! - f[gesture.f + GestureFloat.LastAt]! > gesture.eachMs
    )
      i[gesture.i + GestureInt.Count] = 0;
  }
  for (let n = 0; n < entries.length; n++) {
    const entry = entries[n]!;
    if (i[entry.i + EntryInt.Down] === 0) continue;
    i[entry.i + EntryInt.Down] = 0;
    if (i[entry.i + EntryInt.Hidden] === 1) continue;
    const { owner } = entry;
    const ints = owner.i;
    const down = i[ints + SwitchInt.Down]! - 1;
    i[ints + SwitchInt.Down] = down;
    if (down > 0) continue;
    if (owner.waits || state.tell !== null || state.watcher !== null) {
      state.markSwitch(owner.id);
      continue;
    }
    i[ints + SwitchInt.Spent] = i[ints + SwitchInt.Up] = 0;
    if (i[owner.factAt] === 0) continue;
    i[owner.factAt] = i[ints + SwitchInt.Told] = 0;
    f[owner.f + SwitchFloat.OffStep] = clock[Clock.Step]!;
    if (owner.heard) hear(state, owner);
  }
}

/** A stick is where this place of the queue has it, on one axis or on both. */
export function runStick(state: SeatState, channel: ChannelTable, place: number, at: number): void {
  const { f, i } = state;
  const { slots } = state.events;
  const { laneSticks, laneMovers, places } = channel;
  const first = channel.f + place;
  const second = channel.otherF + place;
  const value = slots[at + Slot.Value]!;
  const other = slots[at + Slot.Other]!;
  const moves = f[first] !== value;
  const movesOther = other === other && f[second] !== other;
  if (!moves && !movesOther) return;
  if (moves) f[first] = value;
  if (movesOther) f[second] = other;
  if (
    (moves && value * value >= Level.Used * Level.Used) ||
    (movesOther && other * other >= Level.Used * Level.Used)
  )
    i[HeadInt.LastDevice] = channel.device;
  for (let n = place; n < laneSticks.length; n += places) {
    const stick = laneSticks[n]!;
    if (stick.directionSignals !== undefined) updateStickEnds(state, stick);
    if (stick.unusual || i[stick.i + StickInt.Hidden] === 1) {
      updateStick(state, stick);
      continue;
    }
    const { shape, f: floats } = stick;
    const x = f[stick.rawX]! * stick.signX;
    const y = f[stick.rawY]! * stick.signY;
    const raw = Math.sqrt(x * x + y * y);
    const before = f[floats + StickFloat.Length]!;
    if (raw <= shape.inner) {
      if (before === 0) continue;
      stickRests(state, stick);
      f[floats + StickFloat.X] = f[floats + StickFloat.Y] = f[floats + StickFloat.Length] = 0;
      continue;
    }
    if (before === 0) {
      const away = i[stick.moverAt + MoverInt.SticksAway]! + 1;
      i[stick.moverAt + MoverInt.SticksAway] = away;
      if (away === 1) i[stick.moverAt + MoverInt.StickAway] = stick.number;
    }
    const length = bentTravel(shape, (raw - shape.inner) * shape.scale);
    const factor = length / raw;
    f[floats + StickFloat.X] = x * factor + 0;
    f[floats + StickFloat.Y] = y * factor + 0;
    f[floats + StickFloat.Length] = length;
  }
  for (let n = 0; n < laneMovers.length; n++) {
    const mover = laneMovers[n]!;
    // One that is not live is at rest.
    if (i[mover.live] === 1) updatePlainly(state, mover);
  }
}
