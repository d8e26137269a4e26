/**
 * One seat at work: its whole state in one buffer, and the loop that carries it from moment to moment.
 *
 * May change: the buffer, the queues and the short lists of what an event has touched, which are empty between events.
 * Numbers that are not whole stay in the buffer: handed from function to function they would be allocated.
 */
import { Head, HeadInt } from "./layout.js";
import { ReacherError } from "../plan/findings.js";
import { firstDeadline, clearDeadline } from "./deadlines.js";
import { settleFacing } from "./facing.js";
import { clearStick, startMover, updateMover, updateStick } from "./movement.js";
import { startPace, updatePace } from "./pace.js";
import { Bits, EventQueue, Kind } from "./queue.js";
import { spreadChannel } from "./signals.js";
import { clearSwitch, settleSwitch, startSwitch, updateSwitch } from "./switches.js";
import { PAD, type ChannelTable, type Tables } from "./tables.js";

/** Sees what a seat does, at the exact moments; for recorders and explanations. */
export interface Watcher {
  /** An event is about to be handled. `kind`, `index` and `value` are those of the event queue. */
  handled?(t: number, kind: number, index: number, value: number): void;
  /** A switch, an axis or a vector has changed. `action` is its place in the plan. */
  changed?(t: number, action: number): void;
}

/** From here on, a control counts as used: sticks at rest are never quite still. */
const USED = 0.5;

export class SeatState {
  readonly tables: Tables;
  readonly bytes: Uint8Array;
  readonly f: Float64Array;
  readonly i: Int32Array;

  /** Events by their stamps, and what the game has told, which comes before any of them. */
  readonly events = new EventQueue();
  readonly told = new EventQueue();

  /** Called after each event, with everything in place, for each switch that changed. */
  tell: ((id: number, on: boolean) => void) | null = null;
  watcher: Watcher | null = null;
  /** True while a lost device goes to rest. */
  cancelling = false;

  /** How many things were looked at so far: what steps cost, countable. It is no part of the state. */
  readonly work = new Int32Array(1);

  private readonly sticks: MarkedList;
  private readonly movers: MarkedList;
  private readonly switches: MarkedList;
  private readonly paces: MarkedList;
  private readonly changed: MarkedList;
  private readonly moved: MarkedList;
  private readonly telling: Int32Array;
  private running = false;

  constructor(tables: Tables) {
    this.tables = tables;
    const buffer = new ArrayBuffer(tables.floats * 8 + tables.ints * 4);
    this.bytes = new Uint8Array(buffer);
    this.f = new Float64Array(buffer, 0, tables.floats);
    this.i = new Int32Array(buffer, tables.floats * 8, tables.ints);
    this.sticks = new MarkedList(tables.stick.length);
    this.movers = new MarkedList(tables.mover.length);
    this.switches = new MarkedList(tables.switch.length);
    this.paces = new MarkedList(tables.mover.length);
    this.changed = new MarkedList(tables.switch.length);
    this.telling = new Int32Array(tables.switch.length);
    this.moved = new MarkedList(tables.mover.length);

    this.f[Head.Now] = this.f[Head.Wake] = -Infinity;
    this.i[HeadInt.Print] = tables.print;
    this.f.fill(Infinity, tables.deadlinesAt, tables.deadlinesAt + tables.deadlines.length);
    for (const table of tables.switch) clearSwitch(this, table);
    for (const table of tables.stick) clearStick(this, table);
    this.begin();
    this.movers.clear();
    this.switches.clear();
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
    for (let n = 0; n < paced.length; n++) this.paces.mark(paced[n]!);
  }

  markStick(id: number): void {
    this.sticks.mark(id);
  }
  markMover(id: number): void {
    this.movers.mark(id);
  }
  markSwitch(id: number): void {
    this.switches.mark(id);
  }
  markChanged(id: number): void {
    this.changed.mark(id);
  }
  markMoved(id: number): void {
    if (this.watcher !== null) this.moved.mark(id);
  }

  /** An event from a device. One stamped at or before the last step is handled at that step's time. True where it was late. */
  addEvent(t: number, what: number, value: number): boolean {
    const { f } = this;
    const late = t <= f[Head.Now]!;
    const at = late ? f[Head.Now]! : t;
    this.events.add(at, what, value);
    if (at < f[Head.Wake]!) f[Head.Wake] = at;
    return late;
  }

  /** Something that the game says now: at the last step's time, before any event not yet handled. */
  addTold(what: number, value: number): void {
    this.told.add(0, what, value);
    this.f[Head.Wake] = -Infinity;
  }

  /** Carries the seat to `until`. Times that run backwards, and times that are none, are the last step's time again. */
  step(until: number): void {
    const { f } = this;
    f[Head.Step]!++;
    if (!(until > f[Head.Now]!)) until = f[Head.Now]!;
    if (until < f[Head.Wake]!) f[Head.Now] = until;
    else if (until > -Infinity) {
      f[Head.Until] = until;
      if (this.running) throw new ReacherError("step was called from a callback of step; do it after the step has returned");
      this.running = true;
      try {
        this.run();
      } finally {
        this.running = false;
      }
    }
  }

  /** Handles all that is due until `Head.Until`. */
  private run(): void {
    const { f, i, events, told, tables } = this;
    const until = f[Head.Until]!;
    if (i[HeadInt.Started] === 0) {
      i[HeadInt.Started] = 1;
      f[Head.Now] = events.head < events.tail ? Math.min(until, events.t[events.head]!) : until;
      this.begin();
      this.resolve(true);
    }
    for (;;) {
      while (told.head < told.tail) this.apply(told, told.drop());
      const next = events.head < events.tail ? events.t[events.head]! : Infinity;
      const due = i[HeadInt.Running] === 0 ? -1 : firstDeadline(this);
      let moment = next;
      let deadlineFirst = false;
      if (due >= 0) {
        const at = f[tables.deadlinesAt + due]!;
        deadlineFirst = at < next || (at === next && due < tables.firstWindow);
        if (deadlineFirst) moment = at;
      }
      if (!(moment <= until)) {
        f[Head.Wake] = moment;
        break;
      }
      if (moment > f[Head.Now]!) f[Head.Now] = moment;
      if (deadlineFirst) this.handleDeadline(due);
      else this.handleEvent();
    }
    f[Head.Now] = until;
  }

  private handleDeadline(id: number): void {
    clearDeadline(this, id);
    settleFacing(this, this.tables.deadlines[id]!.target);
    this.resolve(false);
  }

  private handleEvent(): void {
    const { events } = this;
    const at = events.drop();
    const what = events.what[at]!;
    if ((what & Bits.KindMask) !== Kind.Control) {
      this.apply(events, at);
      return;
    }
    const channel = this.tables.channel[what >> (Bits.Kind + Bits.Place)]!;
    let touched = this.control(channel, at);
    if (channel.isAxis && events.head < events.tail) touched = this.restOfStick(at) || touched;
    if (touched) this.resolve(false);
  }

  /** A stick moves in both axes at once: axis events of the same pad and stamp are one event. */
  private restOfStick(first: number): boolean {
    const { events, tables } = this;
    let touched = false;
    while (events.head < events.tail && events.t[events.head] === events.t[first]) {
      const what = events.what[events.head]!;
      // Kind and place must both be those of the first; a control's kind is 0.
      if (((what ^ events.what[first]!) & ((Bits.PlaceMask << Bits.Kind) | Bits.KindMask)) !== 0) break;
      const channel = tables.channel[what >> (Bits.Kind + Bits.Place)]!;
      if (!channel.isAxis) break;
      if (this.control(channel, events.drop())) touched = true;
    }
    return touched;
  }

  private control(channel: ChannelTable, at: number): boolean {
    const { events, f } = this;
    const index = events.what[at]! >> Bits.Kind;
    if (this.watcher !== null) this.watcher.handled?.(f[Head.Now]!, Kind.Control, index, events.value[at]!);
    const place = index & Bits.PlaceMask;
    const value = events.value[at]!;
    this.work[0]!++;
    if (f[channel.f + place] === value) return false;
    if (value >= USED || value <= -USED) this.i[HeadInt.LastDevice] = channel.device;
    f[channel.f + place] = value;
    spreadChannel(this, channel, place);
    return true;
  }

  private apply(queue: EventQueue, at: number): void {
    const kind = queue.what[at]! & Bits.KindMask;
    const index = queue.what[at]! >> Bits.Kind;
    this.watcher?.handled?.(this.f[Head.Now]!, kind, index, queue.value[at]!);
    if (kind === Kind.Flag) this.setFact(index, queue.value[at]!);
    else if (kind === Kind.Lose) this.lose(index);
    else if (kind === Kind.Reset) this.begin();
    this.work[0]!++;
    this.resolve(kind === Kind.Reset);
  }

  /** All lost devices go to rest in one event, as a cancellation: `place` of a lost pad, or -1 for everything. */
  private lose(place: number): void {
    this.cancelling = true;
    for (const channel of this.tables.channel) {
      if (place < 0) for (let n = 0; n < channel.places; n++) this.rest(channel, n);
      else if (channel.device === PAD) this.rest(channel, place);
    }
  }

  private rest(channel: ChannelTable, place: number): void {
    if (this.f[channel.f + place] === 0) return;
    this.f[channel.f + place] = 0;
    spreadChannel(this, channel, place);
  }

  /** Flags, switches, axes and vectors as at the start. */
  private begin(): void {
    const { tables } = this;
    tables.plan.flags.forEach((flag, fact) => this.setFact(fact, flag.start ? 1 : 0));
    for (let id = 0; id < tables.mover.length; id++) startMover(this, id);
    for (let id = 0; id < tables.switch.length; id++) startSwitch(this, id);
    for (const mover of tables.mover) startPace(this, mover);
    this.paces.clear();
  }

  /** Carries what an event touched through to readings and callbacks, in the design's order. */
  private resolve(starting: boolean): void {
    const { sticks, movers, switches, paces, changed, moved } = this;
    for (let n = 0; n < sticks.count; n++) updateStick(this, sticks.items[n]!);
    this.work[0]! += sticks.count + movers.count + switches.count;
    sticks.clear();
    for (let n = 0; n < movers.count; n++) updateMover(this, movers.items[n]!);
    movers.clear();
    while (switches.count > 0) {
      updateSwitch(this, switches.takeLowest());
    }
    for (let n = 0; n < paces.count; n++) {
      if (starting) startPace(this, this.tables.mover[paces.items[n]!]!);
      else updatePace(this, paces.items[n]!);
    }
    paces.clear();
    this.cancelling = false;
    if (changed.count > 0) this.tellChanges();
    if (moved.count > 0) this.tellMoves();
  }

  private tellChanges(): void {
    const { changed, tables } = this;
    changed.sort();
    // All are settled before any is told, so that a callback sees every reading as it now is.
    let count = 0;
    for (let n = 0; n < changed.count; n++) {
      const id = changed.items[n]!;
      if (settleSwitch(this, id)) this.telling[count++] = id;
    }
    changed.clear();
    if (this.tell === null && this.watcher === null) return;
    for (let n = 0; n < count; n++) {
      const id = this.telling[n]!;
      const { fact } = tables.switch[id]!;
      this.watcher?.changed?.(this.f[Head.Now]!, fact - tables.plan.flags.length);
      this.tell?.(id, this.fact(fact) === 1);
    }
  }

  private tellMoves(): void {
    const { moved, tables } = this;
    moved.sort();
    for (let n = 0; n < moved.count; n++) {
      this.watcher?.changed?.(this.f[Head.Now]!, tables.mover[moved.items[n]!]!.fact - tables.plan.flags.length);
    }
    moved.clear();
  }

  /** Takes over a copied state; events not yet handled are dropped. */
  restore(bytes: Uint8Array): void {
    this.bytes.set(bytes);
    this.events.clear();
    this.told.clear();
    const due = firstDeadline(this);
    if (this.i[HeadInt.Started] === 1) this.f[Head.Wake] = due < 0 ? Infinity : this.f[this.tables.deadlinesAt + due]!;
  }
}

/** Numbers that wait to be looked at, each once. There are rarely more than two of them. */
class MarkedList {
  readonly items: Int32Array;
  count = 0;

  constructor(size: number) {
    this.items = new Int32Array(size);
  }

  mark(id: number): void {
    const { items, count } = this;
    for (let n = 0; n < count; n++) if (items[n] === id) return;
    items[count] = id;
    this.count = count + 1;
  }

  clear(): void {
    this.count = 0;
  }

  takeLowest(): number {
    let at = 0;
    for (let n = 1; n < this.count; n++) if (this.items[n]! < this.items[at]!) at = n;
    const id = this.items[at]!;
    this.items[at] = this.items[--this.count]!;
    return id;
  }

  sort(): void {
    for (let n = 1; n < this.count; n++) {
      const id = this.items[n]!;
      let at = n;
      while (at > 0 && this.items[at - 1]! > id) {
        this.items[at] = this.items[at - 1]!;
        at--;
      }
      this.items[at] = id;
    }
  }
}
