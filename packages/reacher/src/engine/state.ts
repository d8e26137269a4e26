/**
 * One seat at work: its whole state in one buffer, and the loop that carries it from moment to moment.
 *
 * May change: the buffer, the queues and the short lists of what an event has touched, which are empty between events.
 * Numbers that are not whole stay in the buffer: handed from function to function they would be allocated.
 */
import { carryOver } from "./carry.js";
import { dropPending } from "./claims.js";
import { clearDeadline, firstDeadline, setDeadline } from "./deadlines.js";
import { reviewEntry } from "./entries.js";
import { settleFacing } from "./facing.js";
import type { Roster, Scratch } from "./roster.js";
import { fireLong, forgetGesture } from "./gestures.js";
import { Clock, Head, HeadInt, Room, SwitchInt } from "./layout.js";
import { runKey, runStick } from "./lane.js";
import { enterMode, leaveMode, setMutes, startModes } from "./live.js";
import { clearStick, continueEase, startMover, updateMover, updateStick } from "./movement.js";
import { startPace, updatePace } from "./pace.js";
import { Bits, type EventQueues, Kind, Line } from "./queue.js";
import { applyRules, spreadChannel, updateStickEnds } from "./signals.js";
import {
  clearSwitch,
  pressSwitch,
  pulseSwitch,
  releaseSwitch,
  settleSwitch,
  startSwitch,
  updateSwitch,
} from "./switches.js";
import { addPixels, updateTurn } from "./turns.js";
import { Due, Level, PAD, Way, type ChannelTable, type Tables } from "./tables.js";

/** What a callback can be told of a switch. */
export const enum Change {
  Off,
  On,
  Pulse,
}

/** Sees what a seat does, at the exact moments; for recorders and explanations. */
export interface Watcher {
  /** An event is about to be handled. `kind`, `index` and `value` are those of the event queue. */
  handled?(t: number, kind: number, index: number, value: number): void;
  /** A switch, an axis or a vector has changed. `action` is its place in the plan. */
  changed?(t: number, action: number): void;
  /** A turn was moved by the mouse, or its rate is another. */
  turned?(t: number, action: number): void;
  /** A deadline is about to be handled. */
  due?(deadline: number): void;
  /** The event or deadline at hand has been handled, with all that came of it. */
  settled?(t: number): void;
}

const NO_FLOATS = new Float64Array(0);
const NO_INTS = new Int32Array(0);

/**
 * The order in which the constructor sets the fields is their order in the memory: what nearly every event needs comes first
 * and stands together, since a crowd's seats are seldom at hand.
 */
export class SeatState {
  declare tables: Tables;
  declare f: Float64Array;
  declare i: Int32Array;
  declare readonly roster: Roster;
  /** What all seats of the layer share. */
  declare readonly clock: Float64Array;
  /** Its number among the layer's seats, and that of its queues. */
  declare readonly number: number;
  /** Events by their stamps. */
  declare readonly events: EventQueues;
  /** What the event at hand has touched; seats of the same tables share it. */
  declare private scratch: Scratch;
  declare watcher: Watcher | null;
  /** Called after each event, with everything in place, for each switch that changed. */
  declare tell: ((id: number, change: Change) => void) | null;
  /** Whether the game has told something. */
  declare private hears: boolean;
  /** True where the next step has to begin, or to work out what other tables mean. */
  declare private unsettled: boolean;

  declare private carried: boolean;
  /** What the game has told, which comes before any event. */
  declare private readonly told: EventQueues;
  /** True while a lost device goes to rest, and while modes or mutes change what is seen. */
  declare cancelling: boolean;
  declare hiding: boolean;
  declare private takenNow: number;
  declare bytes: Uint8Array;

  constructor(tables: Tables, roster: Roster) {
    this.tables = tables;
    this.f = NO_FLOATS;
    this.i = NO_INTS;
    this.roster = roster;
    this.clock = roster.clock;
    this.number = roster.enlist(this);
    this.events = roster.events;
    this.scratch = roster.scratchOf(tables);
    this.watcher = null;
    this.tell = null;
    this.hears = false;
    this.unsettled = true;
    this.carried = false;
    this.told = roster.told;
    this.cancelling = this.hiding = false;
    this.takenNow = 0;
    this.layOut(tables);
  }

  /** Lays a state out by these tables, as at the start. */
  private layOut(tables: Tables): void {
    this.tables = tables;
    const ints = tables.ints + (tables.ints % Room.IntsInFloat);
    const buffer = new ArrayBuffer(ints * Room.BytesInInt);
    this.bytes = new Uint8Array(buffer);
    this.f = new Float64Array(buffer);
    this.i = new Int32Array(buffer);
    const scratch = (this.scratch = this.roster.scratchOf(tables));

    this.roster.tables[this.number] = tables;
    this.roster.wake(this.number, -Infinity);
    this.i[HeadInt.Print] = tables.print;
    this.f.fill(Infinity, tables.deadlinesAt, tables.deadlinesAt + tables.deadlines.length);
    for (const table of tables.switch) clearSwitch(this, table);
    for (const table of tables.stick) clearStick(this, table);
    this.begin();
    scratch.clear();
  }

  /** Goes on with other tables of the same plan; what is on and held stays so where it still can. */
  useTables(tables: Tables): void {
    const { tables: before, f, i } = this;
    if (tables === before) return;
    const started = i[HeadInt.Started] === 1;
    const waiting = this.events.takeAll(this.number);
    this.layOut(tables);
    if (started) carryOver({ tables: before, f, i }, this);
    this.roster.scratchOf(tables).clear();
    for (const [t, what, value, other] of waiting) {
      const name = this.renamed(before, what);
      if (name >= 0) this.events.add(this.number, t, name, value);
      const second = other === other ? this.renamed(before, otherOf(before, what)) : -1;
      if (second >= 0) this.events.add(this.number, t, second, other);
    }
    if (started) this.releaseHeldBack(before, f);
    this.carried = started;
    this.unsettled = true;
  }

  /** Releases that were held back, and are no longer. */
  private releaseHeldBack(before: Tables, f: Float64Array): void {
    for (const { name, bounce, places } of before.channel) {
      for (let place = 0; bounce >= 0 && place < places; place++) {
        if (f[before.deadlinesAt + bounce + place] === Infinity) continue;
        const id = this.tables.channels.get(name);
        const own = id === undefined ? undefined : this.tables.channel[id]!;
        if (own === undefined || place >= own.places) continue;
        const at = f[before.deadlinesAt + bounce + place]!;
        if (own.bounce >= 0) setDeadline(this, own.bounce + place, at);
        else this.roster.addEvent(this.number, this.clock[Clock.Now]!, own.what | (place << Bits.Kind), 0);
      }
    }
  }

  /** An event that waits, by the new tables; -1 where they have no use for it. */
  private renamed(before: Tables, what: number): number {
    if ((what & Bits.KindMask) !== Kind.Control) return what;
    const place = (what >> Bits.Kind) & Bits.PlaceMask;
    const id = this.tables.channels.get(before.channel[what >> (Bits.Kind + Bits.Place)]!.name);
    if (id === undefined || place >= this.tables.channel[id]!.places) return -1;
    return this.tables.channel[id]!.what | (place << Bits.Kind);
  }

  /** Everything is to be looked at again. */
  private markAll(): void {
    const { tables } = this;
    this.scratch.stirred = true;
    for (let id = 0; id < tables.stick.length; id++) this.scratch.sticks.mark(id);
    for (let id = 0; id < tables.mover.length; id++) {
      this.scratch.movers.mark(id);
      if (tables.mover[id]!.pace !== undefined) this.scratch.paces.mark(id);
    }
    for (let id = 0; id < tables.switch.length; id++) this.scratch.switches.mark(id);
  }

  /** Whether a fact is so: 1 or 0. */
  fact(fact: number): number {
    return this.i[this.tables.factsAt + fact]!;
  }

  setFact(fact: number, truth: number): void {
    const at = this.tables.factsAt + fact;
    if (this.i[at] === truth) return;
    this.i[at] = truth;
    const paced = this.tables.pacedBy[fact]!;
    for (let n = 0; n < paced.length; n++) this.markPace(paced[n]!);
    if (this.tables.neededBy[fact]!.length > 0) this.markNeedy(fact);
  }

  /** The switches that need a fact have to be looked at. */
  markNeedy(fact: number): void {
    const { scratch, i, tables } = this;
    const needed = tables.neededBy[fact]!;
    for (let n = 0; n < needed.length; n++) {
      const { i: ints } = tables.switch[needed[n]!]!;
      // One that nobody holds is off whatever it needs.
      if (i[ints + SwitchInt.Down] === 0 && i[ints + SwitchInt.Up] === 0 && i[ints + SwitchInt.Latch] === 0)
        continue;
      scratch.switches.mark(needed[n]!);
      scratch.stirred = true;
    }
  }

  isLive(action: number): boolean {
    return this.i[this.tables.liveAt + action] === 1;
  }

  /** Whether another switch's `all` has taken the press of this signal. */
  isTaken(signal: number, by: number): boolean {
    if (!this.tables.hasAlls) return false;
    const { channel } = this.tables.signal[signal]!;
    const owner = channel < 0 ? this.takenNow : this.i[this.tables.takenAt + channel]!;
    return owner > 0 && owner - 1 !== by;
  }

  /** The press of this signal is taken by a switch until it is released; -1 gives it free. */
  take(signal: number, by: number): void {
    const { channel } = this.tables.signal[signal]!;
    if (channel >= 0) this.i[this.tables.takenAt + channel] = by + 1;
    if (by < 0) return;
    // A direction is pressed by keys: whichever was pressed in this event is taken with it.
    this.takenNow = by + 1;
    for (let n = 0; n < this.scratch.rose.count; n++) {
      const other = this.tables.signal[this.scratch.rose.items[n]!]!.channel;
      if (other >= 0) this.i[this.tables.takenAt + other] = by + 1;
    }
  }

  noteRise(signal: number): void {
    this.scratch.rose.add(signal);
    this.scratch.stirred = true;
  }
  noteFall(signal: number): void {
    this.scratch.fell.add(signal);
    this.scratch.stirred = true;
  }
  /** A press of a switch that rises and falls at this moment. */
  blip(id: number, signal: number): void {
    this.scratch.blips.add(id);
    this.scratch.blips.add(signal);
    this.scratch.stirred = true;
  }

  markStick(id: number): void {
    this.scratch.sticks.mark(id);
  }
  markMover(id: number): void {
    this.scratch.movers.mark(id);
  }
  markTurn(id: number): void {
    this.scratch.turns.mark(id);
  }
  markPace(id: number): void {
    this.scratch.paces.mark(id);
    this.scratch.stirred = true;
  }
  markSwitch(id: number): void {
    this.scratch.switches.mark(id);
    this.scratch.stirred = true;
  }
  markChanged(id: number): void {
    this.scratch.changed.mark(id);
    this.scratch.stirred = true;
  }
  markMoved(id: number): void {
    if (this.watcher === null) return;
    this.scratch.moved.mark(id);
    this.scratch.stirred = true;
  }

  /** Something that the game says now: at the last step's time, before any event not yet handled. */
  addTold(what: number, value: number): void {
    this.told.add(this.number, 0, what, value);
    this.hears = true;
    this.roster.wake(this.number, -Infinity);
  }

  /** Looks into each part of the memory that an event needs; what comes of it means nothing. */
  look(): number {
    const { f, i, hears } = this;
    return i[HeadInt.Running]! + (hears ? 1 : 0) + (f[f.length - 1]! > 0 ? 1 : 0);
  }

  /** Handles all that is due until `Clock.Until`; the roster calls it. */
  catchUp(): void {
    const { clock, f, i, events, tables, number } = this;
    const line = number * Line.Size;
    const until = clock[Clock.Until]!;
    if (this.unsettled) this.settle(until);
    for (;;) {
      while (this.hears) {
        const { told } = this;
        const at = told.first(number);
        this.hears = told.drop(number, at) >= 0;
        this.apply(told, at);
        this.watcher?.settled?.(clock[Clock.Now]!);
      }
      // Nearly always nothing is due, and what is there is one event.
      const due = i[HeadInt.Running] === 0 ? -1 : firstDeadline(this);
      const first = events.first(number);
      if (due < 0 && first < 0) {
        events.wakes[line] = Infinity;
        break;
      }
      const next = first < 0 ? Infinity : events.timeAt(first);
      let moment = next;
      let deadlineFirst = false;
      if (due >= 0) {
        const at = f[tables.deadlinesAt + due]!;
        deadlineFirst = at < next || (at === next && due < tables.firstWindow);
        if (deadlineFirst) moment = at;
      }
      if (!(moment <= until)) {
        events.wakes[line] = moment;
        break;
      }
      if (moment > clock[Clock.Now]!) clock[Clock.Now] = moment;
      if (deadlineFirst) this.handleDeadline(due);
      else this.handleEvent(first);
      if (this.watcher !== null) this.watcher.settled?.(clock[Clock.Now]!);
    }
  }

  /** Begins, or works out what other tables mean. */
  private settle(until: number): void {
    const { clock, i, events } = this;
    const first = events.first(this.number);
    this.unsettled = false;
    if (i[HeadInt.Started] === 0) {
      i[HeadInt.Started] = 1;
      clock[Clock.Now] = first < 0 ? until : Math.min(until, events.timeAt(first));
      this.begin();
      this.resolve(true);
    }
    if (!this.carried) return;
    this.carried = false;
    this.markAll();
    this.resolve(false);
  }

  private handleDeadline(id: number): void {
    const { kind, target } = this.tables.deadlines[id]!;
    this.roster.work[0]!++;
    this.watcher?.due?.(id);
    clearDeadline(this, id);
    if (kind === Due.Settle) settleFacing(this, target);
    else if (kind === Due.Ease) continueEase(this, target);
    else if (kind === Due.Long) fireLong(this, this.tables.gesture[target]!);
    else if (kind === Due.Claim) reviewEntry(this, this.tables.entry[target]!, true);
    else if (kind === Due.Linger) this.setFact(target, 0);
    else if (kind === Due.Bounce) this.releaseLate(target);
    else {
      pulseSwitch(this, target);
      this.tellPulse(target);
    }
    this.resolve(false);
  }

  /** Handles the event that comes first, which stands at this place. */
  private handleEvent(at: number): void {
    const { events, f, tables } = this;
    const next = events.drop(this.number, at);
    const what = events.whatAt(at);
    if ((what & Bits.KindMask) !== Kind.Control) {
      this.apply(events, at);
      return;
    }
    const channel = tables.channel[what >> (Bits.Kind + Bits.Place)]!;
    // Whoever is told of each event is told of each axis of a stick.
    if (this.watcher === null || this.watcher.handled === undefined) {
      if (channel.way === Way.Key) {
        runKey(this, channel, at);
        this.finish(false);
        return;
      }
      // Another stick that moved at this moment is part of the event.
      if (channel.way === Way.Stick && (next < 0 || events.timeAt(next) !== events.timeAt(at))) {
        runStick(this, channel, (what >> Bits.Kind) & Bits.PlaceMask, at);
        this.finish(false);
        return;
      }
    }
    if (channel.isAxis) {
      if (this.handleAxes(at, what)) this.resolve(false);
      return;
    }
    const place = (what >> Bits.Kind) & Bits.PlaceMask;
    if (this.watcher !== null) this.tellHandled(what, at);
    if (channel.special && this.isSpent(channel, place, at)) return;
    const value = events.valueAt(at);
    const slot = channel.f + place;
    if (f[slot] === value) return;
    f[slot] = value;
    if (value >= Level.Used) this.i[HeadInt.LastDevice] = channel.device;
    spreadChannel(this, channel, place, true);
    this.resolve(false);
  }

  private tellHandled(what: number, at: number): void {
    const value = this.events.valueAt(at);
    this.watcher!.handled?.(this.clock[Clock.Now]!, Kind.Control, what >> Bits.Kind, value);
  }

  /** Moves of the mouse are spent on turns, and releases that may be none wait. */
  private isSpent(channel: ChannelTable, place: number, at: number): boolean {
    const value = this.events.valueAt(at);
    const { mice } = channel;
    if (mice.length === 0) return this.isBounce(channel, place, value);
    if (value !== 0) this.i[HeadInt.LastDevice] = channel.device;
    for (let n = 0; n < mice.length; n++) addPixels(this, mice[n]!, value);
    return true;
  }

  /** Axis events of one pad and stamp are one event. True where any has another value. */
  private handleAxes(first: number, kind: number): boolean {
    const { events, tables, number } = this;
    let at = first;
    let what = kind;
    let touched = false;
    for (;;) {
      const channel = tables.channel[what >> (Bits.Kind + Bits.Place)]!;
      if (this.moveAxis(channel, what, at)) touched = true;
      const second = events.otherAt(at);
      if (second === second) {
        events.turnOver(at);
        const bits = what & (Bits.PlaceMask << Bits.Kind);
        if (this.moveAxis(tables.channel[channel.other]!, channel.otherWhat | bits, at)) touched = true;
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
  private moveAxis(channel: ChannelTable, what: number, at: number): boolean {
    const { f } = this;
    if (this.watcher !== null) this.tellHandled(what, at);
    const value = this.events.valueAt(at);
    const place = (what >> Bits.Kind) & Bits.PlaceMask;
    const slot = channel.f + place;
    if (f[slot] === value) return false;
    f[slot] = value;
    if (value >= Level.Used || value <= -Level.Used) this.i[HeadInt.LastDevice] = channel.device;
    if (channel.special) spreadChannel(this, channel, place, false);
    else {
      const { sticks, places } = channel;
      for (let n = place; n < sticks.length; n += places) this.scratch.sticks.mark(sticks[n]!);
    }
    return true;
  }

  /** Whether a release is held back until it is known that no press follows, or a press is only the end of one that was. */
  private isBounce(channel: ChannelTable, place: number, value: number): boolean {
    if (channel.bounce < 0) return false;
    const id = channel.bounce + place;
    const isSet = this.f[this.tables.deadlinesAt + id] !== Infinity;
    if (value < Level.Release) {
      if (this.f[channel.f + place]! < Level.Release) return false;
      if (!isSet) setDeadline(this, id, this.clock[Clock.Now]! + this.tables.plan.bounceMs);
      return true;
    }
    if (isSet) clearDeadline(this, id);
    return false;
  }

  /** No press has followed a release: it was one. */
  private releaseLate(what: number): void {
    this.rest(this.tables.channel[what >> (Bits.Kind + Bits.Place)]!, (what >> Bits.Kind) & Bits.PlaceMask);
  }

  private apply(queue: EventQueues, at: number): void {
    const kind = queue.whatAt(at) & Bits.KindMask;
    const index = queue.whatAt(at) >> Bits.Kind;
    this.watcher?.handled?.(this.clock[Clock.Now]!, kind, index, queue.valueAt(at));
    const value = queue.valueAt(at);
    this.hiding = kind >= Kind.Enter;
    if (kind === Kind.Flag) this.setFlag(index, value);
    else if (kind === Kind.Lose) this.lose(index);
    else if (kind === Kind.Reset) this.begin();
    else if (kind === Kind.Enter) enterMode(this, index);
    else if (kind === Kind.Leave) leaveMode(this, index);
    else {
      const mutes = this.i[this.tables.mutesAt + index]!;
      setMutes(this, index, kind === Kind.Mute ? mutes | value : mutes & ~value);
    }
    this.roster.work[0]!++;
    this.resolve(kind === Kind.Reset);
    this.cancelling = this.hiding = false;
  }

  /** All lost devices go to rest in one event, as a cancellation: `place` of a lost pad, or -1 for everything. */
  private lose(place: number): void {
    const { gesture, signal, entry } = this.tables;
    this.cancelling = true;
    for (const one of gesture) {
      if (place < 0 || one.of.some((of) => signal[of]!.channel < 0 || signal[of]!.device === PAD))
        forgetGesture(this, one);
    }
    for (const one of entry) if (place < 0 || signal[one.signal]!.device === PAD) dropPending(this, one);
    for (const table of this.tables.switch) if (table.keepMs > 0) this.i[table.i + SwitchInt.Kept] = 0;
    for (const channel of this.tables.channel) {
      if (place < 0) for (let n = 0; n < channel.places; n++) this.rest(channel, n);
      else if (channel.device === PAD) this.rest(channel, place);
    }
  }

  private rest(channel: ChannelTable, place: number): void {
    if (this.f[channel.f + place] === 0) return;
    if (channel.bounce >= 0) clearDeadline(this, channel.bounce + place);
    this.f[channel.f + place] = 0;
    spreadChannel(this, channel, place, false);
  }

  /** A flag that lingers counts as true a while longer. */
  private setFlag(flag: number, value: number): void {
    const { deadline, ms } = this.tables.linger[flag]!;
    if (deadline >= 0) {
      if (value === 1) clearDeadline(this, deadline);
      else if (this.fact(flag) === 1) {
        // Set false again while it lingers: the time runs from the first.
        if (this.f[this.tables.deadlinesAt + deadline] === Infinity)
          setDeadline(this, deadline, this.clock[Clock.Now]! + ms);
        return;
      }
    }
    this.setFact(flag, value);
  }

  /** Modes, flags, switches, axes and vectors as at the start. */
  private begin(): void {
    const { tables } = this;
    for (const gesture of tables.gesture) forgetGesture(this, gesture);
    for (const entry of tables.entry) dropPending(this, entry);
    for (const { deadline } of tables.linger) if (deadline >= 0) clearDeadline(this, deadline);
    startModes(this);
    tables.plan.flags.forEach((flag, fact) => this.setFact(fact, flag.start ? 1 : 0));
    for (let id = 0; id < tables.mover.length; id++) startMover(this, id);
    for (let id = 0; id < tables.switch.length; id++) startSwitch(this, id);
    for (const mover of tables.mover) startPace(this, mover);
    this.scratch.paces.clear();
  }

  /** Carries what an event touched through to readings and callbacks, in the design's order. */
  private resolve(starting: boolean): void {
    const { tables } = this;
    const { sticks, movers, turns } = this.scratch;
    this.roster.work[0]! += sticks.count + movers.count;
    for (let n = 0; n < sticks.count; n++) {
      const stick = tables.stick[sticks.items[n]!]!;
      if (stick.directionSignals !== undefined) updateStickEnds(this, stick);
      updateStick(this, stick);
      if (stick.turn < 0) movers.mark(stick.mover);
      else turns.mark(stick.turn);
    }
    sticks.clear();
    for (let n = 0; n < movers.count; n++) updateMover(this, movers.items[n]!);
    movers.clear();
    if (this.scratch.turns.count > 0) this.turnAll();
    this.finish(starting);
  }

  /** What comes after the movement: gestures, switches, and all that is told. */
  private finish(starting: boolean): void {
    const { scratch } = this;
    // A stick that moves on, or a key that only moves: nothing else hangs on it.
    if (!scratch.stirred) return;
    if (scratch.rose.count + scratch.fell.count > 0) this.rule();
    this.conclude(starting);
    scratch.stirred = false;
  }

  private turnAll(): void {
    for (let n = 0; n < this.scratch.turns.count; n++) updateTurn(this, this.scratch.turns.items[n]!);
    this.scratch.turns.clear();
  }

  /** Switches, pace, and all that is told of them. */
  private conclude(starting: boolean): void {
    const { paces, changed, moved } = this.scratch;
    this.updateSwitches();
    for (let n = 0; n < paces.count; n++) {
      if (starting) startPace(this, this.tables.mover[paces.items[n]!]!);
      else updatePace(this, paces.items[n]!);
    }
    paces.clear();
    this.cancelling = this.hiding = false;
    if (changed.count > 0) this.tellChanges();
    if (moved.count > 0) this.tellMoves();
    if (this.scratch.blips.count > 0) this.playBlip();
  }

  /** Gestures, and the entries that have to come after them. */
  private rule(): void {
    const { tables } = this;
    const { rose, fell } = this.scratch;
    applyRules(this, rose, fell);
    rose.count = fell.count = 0;
    this.takenNow = 0;
    for (let n = 0; n < tables.waiting.length; n++) reviewEntry(this, tables.waiting[n]!, false);
  }

  private updateSwitches(): void {
    const { switches } = this.scratch;
    this.roster.work[0]! += switches.count;
    while (switches.count > 0) updateSwitch(this, this.takeFirstSwitch());
  }

  /** Of the switches that wait, the one that the others may need. */
  private takeFirstSwitch(): number {
    const { tables } = this;
    const { switches } = this.scratch;
    if (switches.count === 1) return switches.takeAt(0);
    let first = 0;
    for (let n = 1; n < switches.count; n++) {
      if (tables.switch[switches.items[n]!]!.rank < tables.switch[switches.items[first]!]!.rank) first = n;
    }
    return switches.takeAt(first);
  }

  /** One press that rises and falls at this moment: both are seen. */
  private playBlip(): void {
    const { items } = this.scratch.blips;
    const id = items[0]!;
    const signal = items[1]!;
    items.copyWithin(0, 2, this.scratch.blips.count);
    this.scratch.blips.count -= 2;
    pressSwitch(this, id, signal);
    this.updateSwitches();
    this.tellAll();
    releaseSwitch(this, id);
    this.resolve(false);
  }

  private tellAll(): void {
    const { paces } = this.scratch;
    for (let n = 0; n < paces.count; n++) updatePace(this, paces.items[n]!);
    paces.clear();
    if (this.scratch.changed.count > 0) this.tellChanges();
  }

  private tellPulse(id: number): void {
    this.call(id, Change.Pulse);
  }

  private call(id: number, change: Change): void {
    if (this.tell === null) return;
    this.roster.calling = true;
    try {
      this.tell(id, change);
    } finally {
      this.roster.calling = false;
    }
  }

  private tellChanges(): void {
    const { tables } = this;
    const { changed, telling } = this.scratch;
    if (this.tell === null && this.watcher === null) {
      // A settled switch changes nothing that another sees.
      for (let n = 0; n < changed.count; n++) settleSwitch(this, changed.items[n]!);
      changed.clear();
      return;
    }
    changed.sort();
    // All are settled before any is told, so that a callback sees every reading as it now is.
    let count = 0;
    for (let n = 0; n < changed.count; n++) {
      const id = changed.items[n]!;
      if (settleSwitch(this, id)) telling[count++] = id;
    }
    changed.clear();
    for (let n = 0; n < count; n++) {
      const id = telling[n]!;
      const { fact } = tables.switch[id]!;
      this.watcher?.changed?.(this.clock[Clock.Now]!, fact - tables.plan.flags.length);
      const on = this.i[tables.switch[id]!.i + SwitchInt.Told] === 1;
      this.call(id, on ? Change.On : Change.Off);
      if (on && tables.switch[id]!.repeat >= 0) this.tellPulse(id);
    }
  }

  private tellMoves(): void {
    const { tables } = this;
    const { moved } = this.scratch;
    moved.sort();
    for (let n = 0; n < moved.count; n++) {
      this.watcher?.changed?.(
        this.clock[Clock.Now]!,
        tables.mover[moved.items[n]!]!.fact - tables.plan.flags.length,
      );
    }
    moved.clear();
  }

  /** Takes over a copied state; events not yet handled are dropped. */
  restore(bytes: Uint8Array): void {
    const { clock, f } = this;
    this.bytes.set(bytes);
    this.events.clear(this.number);
    this.told.clear(this.number);
    this.hears = false;
    this.unsettled = true;
    clock[Clock.Now] = f[Head.Now]!;
    clock[Clock.Step] = f[Head.Step]!;
    clock[Clock.Before] = f[Head.Before]!;
    this.roster.wake(this.number, -Infinity);
  }

  /** Writes the clock into the bytes, for a snapshot. */
  stamp(): void {
    const { clock, f } = this;
    f[Head.Now] = clock[Clock.Now]!;
    f[Head.Step] = clock[Clock.Step]!;
    f[Head.Before] = clock[Clock.Before]!;
  }
}

/** The name of an event that is a stick's other axis. */
function otherOf(tables: Tables, what: number): number {
  return tables.channel[what >> (Bits.Kind + Bits.Place)]!.otherWhat | (what & (Bits.PlaceMask << Bits.Kind));
}
