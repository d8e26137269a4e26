/**
 * A seat: its buffer, and the loop that carries it from moment to moment. May change: its buffer and its tables, by its events.
 *
 * Nothing here keeps buffer, lists or tables in a variable over a callback of the game, which may replace them all: notices are
 * delivered last, by `deliver`, and all is looked up anew after it.
 */
import { Clock } from "./clock.js";
import type { DirtyLists } from "./dirty.js";
import { Notice, type Audience, type Notices } from "./notices.js";
import { Bits, Kind, Line, Slot, type EventQueues } from "./queue.js";
import type { Scheduler, Steppable } from "./scheduler.js";
import { tellAll } from "./signals.js";
import { Cause, type SeatState } from "./state.js";
import type { Tables } from "./tables.js";
import { takeOver } from "./takeover.js";

/** Sees what a seat does, at the exact moments; for recorders and explanations. */
export interface SeatWatcher {
  /** An event is about to be handled. `kind`, `index` and `value` are those of the event queue. */
  handled?(kind: Kind, index: number, value: number): void;
  /** A timer is about to be handled. */
  due?(timer: number): void;
  /** The event or timer at hand has been handled, with all that came of it. */
  settled?(): void;
}

const CAUSES: { readonly [kind in Kind]?: Cause } = {
  [Kind.Lose]: Cause.Lost,
  [Kind.Reset]: Cause.Reset,
  [Kind.Enter]: Cause.Mode,
  [Kind.Leave]: Cause.Mode,
  [Kind.Mute]: Cause.Mute,
  [Kind.Unmute]: Cause.Mute,
};

/** What has begun at the moment at hand: commands of callbacks wait until it is over. */
const enum Stage {
  Events,
  Due,
  Windows,
}

export class Seat implements SeatState, Steppable {
  /** What nearly every event needs comes first and stands together, since a crowd's seats are seldom at hand. */
  declare tables: Tables;
  declare f: Float64Array;
  declare i: Int32Array;
  declare b: Uint8Array;
  declare private dirty: DirtyLists;
  readonly clock: Float64Array;
  private readonly events: EventQueues;
  readonly number: number;
  private readonly notices: Notices;
  /** The game has told something without a stamp. */
  private hears = false;
  /** Other tables or another state have come: all is looked at anew. */
  private isStale = true;
  private stage = Stage.Events;
  cause = Cause.Hands;
  /** The game's callbacks and watchers; and whoever watches each event. */
  audience: Audience | null = null;
  watcher: SeatWatcher | null = null;

  constructor(
    tables: Tables,
    private readonly scheduler: Scheduler,
  ) {
    this.clock = scheduler.clock;
    this.events = scheduler.events;
    this.notices = scheduler.notices;
    this.number = scheduler.enlist(this);
    this.layOut(tables);
  }

  get slots(): Float64Array {
    return this.events.slots;
  }

  private layOut(tables: Tables): void {
    const buffer = tables.cells.allocate();
    this.tables = tables;
    this.f = new Float64Array(buffer);
    this.i = new Int32Array(buffer);
    this.b = new Uint8Array(buffer);
    this.dirty = this.scheduler.listsOf(tables);
    this.scheduler.tables[this.number] = tables;
    this.isStale = true;
    this.scheduler.wake(this.number);
  }

  markStick(id: number): void {
    this.dirty.sticks.mark(id);
  }
  markMovement(id: number): void {
    this.dirty.movements.mark(id);
  }
  markTurn(id: number): void {
    this.dirty.turns.mark(id);
  }
  markPace(id: number): void {
    this.dirty.paces.mark(id);
    this.dirty.isStirred = true;
  }
  markSwitch(rank: number): void {
    this.dirty.switches.mark(rank);
    this.dirty.isStirred = true;
  }
  markChanged(id: number): void {
    this.dirty.changed.mark(id);
    this.dirty.isStirred = true;
  }
  noteMoved(id: number): void {
    if (this.watcher === null) return;
    this.dirty.moved.mark(id);
    this.dirty.isStirred = true;
  }
  noteTurned(action: string): void {
    if (this.watcher !== null) this.note(action, Notice.Turned);
  }
  notePulse(action: string): void {
    if (this.audience !== null) this.note(action, Notice.Pulse);
  }
  noteSignal(signal: number, isPress: number): void {
    const { signals } = this.dirty;
    // An axis that went up and comes down again in one event: the press is told before the release.
    for (let n = 0; isPress === 0 && n < signals.count; n++)
      if (signals.items[n] === signal * 2 + 1) this.tellSignals(this.dirty);
    signals.add(signal * 2 + isPress);
    this.dirty.isStirred = true;
  }
  noteBlip(rank: number): void {
    const { blips } = this.dirty;
    const { count } = blips;
    blips.mark(rank);
    if (blips.count > count) this.i[this.tables.blipping]!++;
    this.dirty.isStirred = true;
  }
  reviewWaiting(): void {
    if (this.tables.waiting.length === 0) return;
    this.dirty.reviews = this.dirty.isStirred = true;
  }

  private note(action: string, notice: Notice): void {
    this.notices.add(action, notice);
    this.dirty.isStirred = true;
  }

  look(): number {
    return this.i[0]! + this.b[this.tables.started]! + (this.hears ? 1 : 0);
  }

  /** What the game tells now: at the last step's time, before any event not yet handled. */
  command(kind: Kind, index: number, value: number): void {
    this.scheduler.addCommand(this.number, (index << Bits.Kind) | kind, value);
    this.hears = true;
  }

  /** Handles all that is due until `Clock.Until`. Buffer and tables are looked up anew at each turn: a callback may have replaced them. */
  catchUp(): void {
    const { clock, events, number } = this;
    const until = clock[Clock.Until]!;
    this.stage = Stage.Events;
    if (this.b[this.tables.started] === 0) this.begin(until);
    for (;;) {
      if (this.isStale) this.refresh();
      const { timers } = this.tables;
      const due = timers.first(this);
      if (this.hears && !(due >= 0 && this.comesFirst(due))) {
        this.handleCommand();
        continue;
      }
      const first = events.first(number);
      const next = first < 0 ? Infinity : events.timeAt(first);
      let moment = next;
      let isDue = false;
      if (due >= 0) {
        const { at, isWindow } = timers.all[due]!;
        const dueAt = this.f[at]!;
        isDue = dueAt < next || (dueAt === next && (!isWindow || this.comesFirst(due)));
        if (isDue) moment = dueAt;
      }
      if (!(moment <= until) || moment === Infinity) {
        events.wakes[number * Line.Size] = moment;
        return;
      }
      if (moment > clock[Clock.Now]!) {
        clock[Clock.Now] = moment;
        this.stage = Stage.Events;
      }
      if (isDue) this.handleDue(due);
      else this.handleEvent(first);
    }
  }

  /** Whether all that is due at this moment, and all windows that end there, have been handled or are at hand. */
  get isAfter(): boolean {
    const { clock, stage, scheduler } = this;
    if (scheduler.running !== this.number) return clock[Clock.Now]! > -Infinity;
    return stage === Stage.Windows || clock[Clock.Now] === clock[Clock.From];
  }

  /** Whether a timer belongs to what has begun at this moment: then it comes before what callbacks have brought. */
  private comesFirst(due: number): boolean {
    const { at, isWindow } = this.tables.timers.all[due]!;
    if (this.f[at]! > this.clock[Clock.Now]!) return false;
    return this.stage === (isWindow ? Stage.Windows : Stage.Due);
  }

  private begin(until: number): void {
    const { clock, events } = this;
    const first = events.first(this.number);
    clock[Clock.Now] = first < 0 ? until : Math.min(until, events.timeAt(first));
    this.b[this.tables.started] = 1;
    for (const one of this.tables.recounts) one.recount(this);
    this.isStale = false;
    this.cause = Cause.Reset;
    this.reset();
    this.settle();
  }

  /** Modes, flags, switches, axes and vectors as at the start. */
  private reset(): void {
    for (const one of this.tables.resets) one.reset(this);
  }

  private handleDue(due: number): void {
    const { watcher } = this;
    if (watcher !== null && watcher.due !== undefined) watcher.due(due);
    const { timers } = this.tables;
    const timer = timers.all[due];
    if (timer === undefined || this.f[timer.at] === Infinity) return;
    this.stage = timer.isWindow ? Stage.Windows : Stage.Due;
    this.i[this.tables.turn]!++;
    timers.clear(this, timer);
    timer.owner.due(this, timer);
    this.settle();
    this.tellSettled();
  }

  private handleCommand(): void {
    const { scheduler, number } = this;
    const { commands } = scheduler;
    const at = commands.first(number);
    if (at >= 0 && this.watcher !== null) this.announce(commands, at);
    if (at < 0 || commands.first(number) !== at) {
      this.hears = commands.first(number) >= 0;
      return;
    }
    if (this.stage === Stage.Due) this.stage = Stage.Events;
    this.hears = commands.drop(number, at) >= 0;
    this.apply(commands, at);
    this.settle();
    this.tellSettled();
  }

  /** The first event that waits: a command of the game, or a control; all axes of a pad that move at one moment are one event. */
  private handleEvent(first: number): void {
    const { events, number } = this;
    if (this.watcher !== null) {
      this.announceAll(first);
      // Whoever watches may have changed what waits.
      if (events.first(number) !== first) return;
    }
    if (this.stage === Stage.Due) this.stage = Stage.Events;
    this.i[this.tables.turn]!++;
    if ((events.whatAt(first) & Bits.KindMask) === Kind.Control) this.move(first, this.endOf(first));
    else {
      events.drop(number, first);
      this.apply(events, first);
    }
    this.settle();
    this.tellSettled();
  }

  /** Controls have other values: all that waits from one place to another is one event. */
  private move(first: number, end: number): void {
    const { events, number, tables } = this;
    for (let at = first; at !== end;) {
      const after = events.drop(number, at);
      const what = events.whatAt(at);
      const place = (what >> Bits.Kind) & Bits.PlaceMask;
      const channel = tables.channels[what >> (Bits.Kind + Bits.Place)];
      // Other tables may have no use for it.
      if (channel === undefined || place >= channel.places) return;
      const { other } = channel;
      const second = events.otherAt(at);
      if (other === null || second !== second) channel.move(this, place, at + Slot.Value);
      else if (channel.isStickAlone && at === first && after === end)
        channel.moveStick(this, place, at, other);
      else {
        channel.move(this, place, at + Slot.Value);
        other.move(this, place, at + Slot.Other);
      }
      at = after;
    }
  }

  /** The place after an event: axes of one pad that move one after the other at one moment are one event. */
  private endOf(first: number): number {
    const { events } = this;
    const what = events.whatAt(first);
    let after = events.after(first);
    if (after < 0 || events.timeAt(after) !== events.timeAt(first) || !this.isAxis(what)) return after;
    while (after >= 0 && events.timeAt(after) === events.timeAt(first)) {
      const next = events.whatAt(after);
      const isSamePad = ((what ^ next) & ((Bits.PlaceMask << Bits.Kind) | Bits.KindMask)) === 0;
      if (!isSamePad || !this.isAxis(next)) break;
      after = events.after(after);
    }
    return after;
  }

  private isAxis(what: number): boolean {
    const channel = this.tables.channels[what >> (Bits.Kind + Bits.Place)];
    return channel !== undefined && channel.isAxis;
  }

  /** What the game has told. */
  private apply(queue: EventQueues, at: number): void {
    const what = queue.whatAt(at);
    const kind = (what & Bits.KindMask) as Kind;
    this.cause = CAUSES[kind] ?? Cause.Hands;
    this.dirty.isStirred = true;
    if (kind === Kind.Reset) this.reset();
    else this.tables.commands[kind]?.(this, what >> Bits.Kind, queue.valueAt(at));
  }

  /** Carries what the event touched through, in the design's order; then the game is told. */
  private settle(): void {
    for (;;) {
      const { dirty } = this;
      this.settleMovement(dirty);
      if (!dirty.isStirred) break;
      dirty.isStirred = false;
      if (dirty.signals.count > 0) this.tellSignals(dirty);
      else if (dirty.reviews) this.review(dirty);
      this.settleSwitches(dirty);
      if (this.notices.count > 0) {
        this.deliver();
        if (this.isStale) return;
      }
      if (this.dirty.blips.count > 0) this.playBlip(this.dirty);
      if (!this.dirty.isStirred && this.dirty.movements.count === 0) break;
    }
    this.cause = Cause.Hands;
  }

  private settleMovement({ sticks, movements, turns }: DirtyLists): void {
    const { tables, scheduler } = this;
    scheduler.work[0]! += sticks.count + movements.count;
    while (sticks.count > 0) tables.sticks[sticks.take()]!.update(this);
    while (movements.count > 0) tables.movements[movements.take()]!.update(this);
    while (turns.count > 0) tables.turns[turns.take()]!.update(this);
  }

  /** Hands presses and releases on: chords, other gestures, entries; of each, what was released comes first. */
  private tellSignals(dirty: DirtyLists): void {
    const { count, items } = dirty.signals;
    const { chords, signals } = this.tables;
    dirty.signals.count = 0;
    if (chords !== null) chords.judge(this, items, count);
    for (let turn = 0; turn < 4; turn++) {
      const isPress = (turn & 1) === 1;
      for (let n = 0; n < count; n++) {
        if (((items[n]! & 1) === 1) !== isPress) continue;
        const one = signals[items[n]! >> 1]!;
        tellAll(this, one, turn < 2 ? one.gestures : one.entries, isPress);
      }
    }
    if (chords !== null) chords.giveBack(this, items, count);
    this.review(dirty);
  }

  private review(dirty: DirtyLists): void {
    const { waiting } = this.tables;
    dirty.reviews = false;
    for (let n = 0; n < waiting.length; n++) waiting[n]!.review(this, false);
  }

  private settleSwitches({ switches, paces, changed, moved }: DirtyLists): void {
    const { tables, scheduler, audience } = this;
    scheduler.work[0]! += 1 + switches.count;
    while (switches.count > 0) tables.ranked[switches.take()]!.update(this);
    while (paces.count > 0) tables.movements[paces.take()]!.updatePace(this);
    while (changed.count > 0) {
      const one = tables.switches[changed.take()]!;
      if (!one.settle(this) || audience === null) continue;
      const { notices } = this;
      const isOn = one.isOn(this);
      notices.add(one.name, Notice.Changed);
      notices.add(one.name, isOn ? Notice.On : Notice.Off);
      if (isOn && one.pulses) notices.add(one.name, Notice.Pulse);
    }
    while (moved.count > 0) this.notices.add(tables.movements[moved.take()]!.name, Notice.Changed);
    this.cause = Cause.Hands;
  }

  /** Every reading is as it now is. What a callback does here may replace buffer, tables and lists. */
  private deliver(): void {
    const { scheduler, audience } = this;
    if (audience === null) {
      this.notices.clear();
      return;
    }
    scheduler.isCalling = true;
    try {
      this.notices.deliver(audience);
    } finally {
      scheduler.isCalling = false;
    }
  }

  /** One press that rises and falls at this moment: first on, then off, each told. */
  private playBlip({ blips }: DirtyLists): void {
    const { tables } = this;
    const rank = blips.take();
    if (tables.ranked[rank]!.playBlip(this)) this.i[tables.blipping]!--;
    else blips.mark(rank);
  }

  private tellSettled(): void {
    if (this.watcher !== null) this.watcher.settled?.();
  }

  private announceAll(first: number): void {
    const { events } = this;
    if (this.watcher!.handled === undefined) return;
    const isControl = (events.whatAt(first) & Bits.KindMask) === Kind.Control;
    const end = isControl ? this.endOf(first) : events.after(first);
    for (let at = first; at !== end && at >= 0;) {
      const after = events.after(at);
      this.announce(events, at);
      at = after;
    }
  }

  private announce(queue: EventQueues, at: number): void {
    const { watcher } = this;
    if (watcher === null || watcher.handled === undefined) return;
    const what = queue.whatAt(at);
    const kind = (what & Bits.KindMask) as Kind;
    const value = queue.valueAt(at);
    const second = queue.otherAt(at);
    const index = what >> Bits.Kind;
    watcher.handled(kind, index, value);
    if (kind !== Kind.Control || second !== second) return;
    const other = this.tables.channels[index >> Bits.Place]?.other;
    if (other != null) watcher.handled(kind, (other.what >> Bits.Kind) | (index & Bits.PlaceMask), second);
  }

  /** Goes on with other tables at this moment, also from a callback: what is on and held stays so where it still can. */
  useTables(tables: Tables): void {
    if (tables === this.tables) return;
    const { tables: before, f } = this;
    if (this.scheduler.running === this.number) this.dirty.clear();
    this.layOut(tables);
    takeOver(before.cells, f.buffer, tables.cells, this.f.buffer);
    this.i[tables.printAt] = tables.print;
    if (this.b[tables.started] === 0) return;
    for (const one of tables.recounts) one.recount(this);
    this.releaseHeldBack(before, f);
  }

  /** Releases that a worn key held back, and that nothing holds back any more. */
  private releaseHeldBack({ bound }: Tables, f: Float64Array): void {
    const { scheduler, tables } = this;
    for (const { id, filter, places } of bound) {
      const own = tables.channels[id];
      if (filter === null || filter.isHolding === undefined || own === undefined || own.filter !== null)
        continue;
      for (let place = 0; place < places; place++) {
        if (!filter.isHolding(f, place)) continue;
        scheduler.fed[Slot.T] = this.clock[Clock.Now]!;
        scheduler.fed[Slot.Value] = 0;
        scheduler.addEvent(this.number, own.what | (place << Bits.Kind));
      }
    }
  }

  /** Works out anew what follows from other tables or another state. */
  private refresh(): void {
    const { tables, dirty } = this;
    this.isStale = false;
    if (this.b[tables.started] === 0) return;
    this.cause = Cause.Bindings;
    tables.refresh(this);
    dirty.sticks.markAll();
    dirty.movements.markAll();
    tables.movements.forEach((one, id) => one.hasPace && this.markPace(id));
    dirty.switches.markAll();
    if (this.i[tables.blipping]! > 0)
      for (const { rank, blips } of tables.switches)
        if (blips >= 0 && this.b[blips]! > 0) dirty.blips.mark(rank);
    dirty.isStirred = true;
    this.settle();
  }

  /** Copies the whole state, with the clock. */
  snapshot(into: Uint8Array): void {
    const { f, clock } = this;
    const { stamp } = this.tables;
    f[stamp] = clock[Clock.Now]!;
    f[stamp + 1] = clock[Clock.Step]!;
    f[stamp + 2] = clock[Clock.Before]!;
    into.set(this.b);
  }

  /** Takes a copied state back; events not yet handled are dropped. */
  restore(from: Uint8Array): void {
    const { f, clock, scheduler, number } = this;
    const { stamp, blipping } = this.tables;
    this.b.set(from);
    this.events.clear(number);
    scheduler.commands.clear(number);
    this.hears = false;
    clock[Clock.Now] = f[stamp]!;
    clock[Clock.Step] = f[stamp + 1]!;
    clock[Clock.Before] = f[stamp + 2]!;
    if (clock[Clock.From]! > clock[Clock.Now]!) clock[Clock.From] = clock[Clock.Now]!;
    scheduler.wake(number);
    if (scheduler.running === number) {
      // In the middle of an event: what it has touched is as if it had not been.
      this.dirty.clear();
      this.notices.clear();
      this.isStale = true;
    } else if (this.i[blipping]! > 0) this.isStale = true;
  }
}
