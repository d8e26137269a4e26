/**
 * What an event does to a seat. In: a control's value, or what the game tells. Out: raw values in the state, and what hangs on them
 * marked to be looked at; then `resolve.ts` has its turn.
 */
import { dropPending } from "./claims.js";
import { clearDeadline, setDeadline } from "./deadlines.js";
import { forgetGesture } from "./gestures.js";
import { runKey, runStick } from "./lane.js";
import { Clock, HeadInt, SwitchInt } from "./layout.js";
import { enterMode, leaveMode, setMutes, startModes } from "./live.js";
import { startMover } from "./movement.js";
import { startPace } from "./pace.js";
import { Bits, Kind, type EventQueues } from "./queue.js";
import { finish, resolve } from "./resolve.js";
import { spreadChannel } from "./signals.js";
import type { SeatState } from "./state.js";
import { startSwitch } from "./switches.js";
import { Level, PAD, Way, type ChannelTable } from "./tables.js";
import { addPixels } from "./turns.js";

/** Handles the event that comes first, which stands at this place. */
export function handleEvent(state: SeatState, at: number): void {
  const { events, f, tables } = state;
  const next = events.drop(state.number, at);
  const what = events.whatAt(at);
  if ((what & Bits.KindMask) !== Kind.Control) {
    apply(state, events, at);
    return;
  }
  const channel = tables.channel[what >> (Bits.Kind + Bits.Place)]!;
  // Whoever is told of each event is told of each axis of a stick.
  if (state.watcher === null || state.watcher.handled === undefined) {
    if (channel.way === Way.Key) {
      runKey(state, channel, at);
      finish(state, false);
      return;
    }
    // Another stick that moved at this moment is part of the event.
    if (channel.way === Way.Stick && (next < 0 || events.timeAt(next) !== events.timeAt(at))) {
      runStick(state, channel, (what >> Bits.Kind) & Bits.PlaceMask, at);
      finish(state, false);
      return;
    }
  }
  if (channel.isAxis) {
    if (handleAxes(state, at, what)) resolve(state, false);
    return;
  }
  const place = (what >> Bits.Kind) & Bits.PlaceMask;
  if (state.watcher !== null) tellHandled(state, what, at);
  if (channel.special && isSpent(state, channel, place, at)) return;
  const value = events.valueAt(at);
  const slot = channel.f + place;
  if (f[slot] === value) return;
  f[slot] = value;
  if (value >= Level.Used) state.i[HeadInt.LastDevice] = channel.device;
  spreadChannel(state, channel, place, true);
  resolve(state, false);
}

function tellHandled(state: SeatState, what: number, at: number): void {
  const value = state.events.valueAt(at);
  state.watcher!.handled?.(state.clock[Clock.Now]!, Kind.Control, what >> Bits.Kind, value);
}

/** Moves of the mouse are spent on turns, and releases that may be none wait. */
function isSpent(state: SeatState, channel: ChannelTable, place: number, at: number): boolean {
  const value = state.events.valueAt(at);
  const { mice } = channel;
  if (mice.length === 0) return isBounce(state, channel, place, value);
  if (value !== 0) state.i[HeadInt.LastDevice] = channel.device;
  for (let n = 0; n < mice.length; n++) addPixels(state, mice[n]!, value);
  return true;
}

/** Axis events of one pad and stamp are one event. True where any has another value. */
function handleAxes(state: SeatState, first: number, kind: number): boolean {
  const { events, tables, number } = state;
  let at = first;
  let what = kind;
  let touched = false;
  for (;;) {
    const channel = tables.channel[what >> (Bits.Kind + Bits.Place)]!;
    if (moveAxis(state, channel, what, at)) touched = true;
    const second = events.otherAt(at);
    if (second === second) {
      events.turnOver(at);
      const bits = what & (Bits.PlaceMask << Bits.Kind);
      if (moveAxis(state, tables.channel[channel.other]!, channel.otherWhat | bits, at)) touched = true;
    }
    const after = events.first(number);
    if (after < 0 || events.timeAt(after) !== events.timeAt(first)) return touched;
    const next = events.whatAt(after);
    // Kind and place must both be those of the first; a control's kind is 0.
    if (((what ^ next) & ((Bits.PlaceMask << Bits.Kind) | Bits.KindMask)) !== 0) return touched;
    if (!tables.channel[next >> (Bits.Kind + Bits.Place)]!.isAxis) return touched;
    what = next;
    at = after;
    events.drop(number, at);
  }
}

/** An axis is at the value that stands in this place of the queue. False where it was there. */
function moveAxis(state: SeatState, channel: ChannelTable, what: number, at: number): boolean {
  const { f } = state;
  if (state.watcher !== null) tellHandled(state, what, at);
  const value = state.events.valueAt(at);
  const place = (what >> Bits.Kind) & Bits.PlaceMask;
  const slot = channel.f + place;
  if (f[slot] === value) return false;
  f[slot] = value;
  if (value >= Level.Used || value <= -Level.Used) state.i[HeadInt.LastDevice] = channel.device;
  if (channel.special) spreadChannel(state, channel, place, false);
  else {
    const { sticks, places } = channel;
    for (let n = place; n < sticks.length; n += places) state.scratch.sticks.mark(sticks[n]!);
  }
  return true;
}

/** Whether a release is held back until it is known that no press follows, or a press is only the end of one that was. */
function isBounce(state: SeatState, channel: ChannelTable, place: number, value: number): boolean {
  if (channel.bounce < 0) return false;
  const id = channel.bounce + place;
  const isSet = state.f[state.tables.deadlinesAt + id] !== Infinity;
  if (value < Level.Release) {
    if (state.f[channel.f + place]! < Level.Release) return false;
    if (!isSet) setDeadline(state, id, state.clock[Clock.Now]! + state.tables.plan.bounceMs);
    return true;
  }
  if (isSet) clearDeadline(state, id);
  return false;
}

/** No press has followed a release: it was one. */
export function releaseLate(state: SeatState, what: number): void {
  rest(state, state.tables.channel[what >> (Bits.Kind + Bits.Place)]!, (what >> Bits.Kind) & Bits.PlaceMask);
}

export function apply(state: SeatState, queue: EventQueues, at: number): void {
  const kind = queue.whatAt(at) & Bits.KindMask;
  const index = queue.whatAt(at) >> Bits.Kind;
  state.watcher?.handled?.(state.clock[Clock.Now]!, kind, index, queue.valueAt(at));
  const value = queue.valueAt(at);
  state.hiding = kind >= Kind.Enter;
  if (kind === Kind.Flag) setFlag(state, index, value);
  else if (kind === Kind.Lose) lose(state, index);
  else if (kind === Kind.Reset) begin(state);
  else if (kind === Kind.Enter) enterMode(state, index);
  else if (kind === Kind.Leave) leaveMode(state, index);
  else {
    const mutes = state.i[state.tables.mutesAt + index]!;
    setMutes(state, index, kind === Kind.Mute ? mutes | value : mutes & ~value);
  }
  state.roster.work[0]!++;
  resolve(state, kind === Kind.Reset);
  state.cancelling = state.hiding = false;
}

/** All lost devices go to rest in one event, as a cancellation: `place` of a lost pad, or -1 for everything. */
function lose(state: SeatState, place: number): void {
  const { gesture, signal, entry } = state.tables;
  state.cancelling = true;
  for (const one of gesture) {
    if (place < 0 || one.of.some((of) => signal[of]!.channel < 0 || signal[of]!.device === PAD))
      forgetGesture(state, one);
  }
  for (const one of entry) if (place < 0 || signal[one.signal]!.device === PAD) dropPending(state, one);
  for (const table of state.tables.switch) if (table.keepMs > 0) state.i[table.i + SwitchInt.Kept] = 0;
  for (const channel of state.tables.channel) {
    if (place < 0) for (let n = 0; n < channel.places; n++) rest(state, channel, n);
    else if (channel.device === PAD) rest(state, channel, place);
  }
}

function rest(state: SeatState, channel: ChannelTable, place: number): void {
  if (state.f[channel.f + place] === 0) return;
  if (channel.bounce >= 0) clearDeadline(state, channel.bounce + place);
  state.f[channel.f + place] = 0;
  spreadChannel(state, channel, place, false);
}

/** A flag that lingers counts as true a while longer. */
function setFlag(state: SeatState, flag: number, value: number): void {
  const { deadline, ms } = state.tables.linger[flag]!;
  if (deadline >= 0) {
    if (value === 1) clearDeadline(state, deadline);
    else if (state.fact(flag) === 1) {
      // Set false again while it lingers: the time runs from the first.
      if (state.f[state.tables.deadlinesAt + deadline] === Infinity)
        setDeadline(state, deadline, state.clock[Clock.Now]! + ms);
      return;
    }
  }
  state.setFact(flag, value);
}

/** Modes, flags, switches, axes and vectors as at the start. */
export function begin(state: SeatState): void {
  const { tables } = state;
  for (const gesture of tables.gesture) forgetGesture(state, gesture);
  for (const entry of tables.entry) dropPending(state, entry);
  for (const { deadline } of tables.linger) if (deadline >= 0) clearDeadline(state, deadline);
  startModes(state);
  tables.plan.flags.forEach((flag, fact) => state.setFact(fact, flag.start ? 1 : 0));
  for (let id = 0; id < tables.mover.length; id++) startMover(state, id);
  for (let id = 0; id < tables.switch.length; id++) startSwitch(state, id);
  for (const mover of tables.mover) startPace(state, mover);
  state.scratch.paces.clear();
}
