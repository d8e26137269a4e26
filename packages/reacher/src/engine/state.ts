/**
 * A seat's state: all that a step changes of it in one buffer, its events that wait, and the lists of what the event at hand has
 * touched. Rooms of the engine read and write it; `running.ts` carries it from moment to moment.
 *
 * Numbers that are not whole stay in the buffer: handed from function to function they would be allocated.
 */
import { Clock, Head, HeadInt, Room, SwitchInt } from "./layout.js";
import type { EventQueues } from "./queue.js";
import type { Roster, Scratch, Sleeper } from "./roster.js";
import type { Tables } from "./tables.js";

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
export abstract class SeatState implements Sleeper {
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
  declare scratch: Scratch;
  declare watcher: Watcher | null;
  /** Called after each event, with everything in place, for each switch that changed. */
  declare tell: ((id: number, change: Change) => void) | null;
  /** Whether the game has told something. */
  declare protected hears: boolean;
  /** True where the next step has to begin, or to work out what other tables mean. */
  declare protected unsettled: boolean;

  declare protected carried: boolean;
  /** What the game has told, which comes before any event. */
  declare protected readonly told: EventQueues;
  /** True while a lost device goes to rest, and while modes or mutes change what is seen. */
  declare cancelling: boolean;
  declare hiding: boolean;
  /** Of the event at hand: the switch whose `all` has taken presses of directions, plus 1. */
  declare takenNow: number;
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
  }

  /** Lays a state out by these tables: everything in it is zero, and no deadline is set. */
  protected allocate(tables: Tables): void {
    this.tables = tables;
    const ints = tables.ints + (tables.ints % Room.IntsInFloat);
    const buffer = new ArrayBuffer(ints * Room.BytesInInt);
    this.bytes = new Uint8Array(buffer);
    this.f = new Float64Array(buffer);
    this.i = new Int32Array(buffer);
    this.scratch = this.roster.scratchOf(tables);
    this.roster.tables[this.number] = tables;
    this.roster.wake(this.number, -Infinity);
    this.i[HeadInt.Print] = tables.print;
    this.f.fill(Infinity, tables.deadlinesAt, tables.deadlinesAt + tables.deadlines.length);
  }

  /** Handles all that is due until `Clock.Until`; the roster calls it. */
  abstract catchUp(): void;

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
