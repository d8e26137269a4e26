/**
 * Propagates an event in a fixed order: sticks and movements, signals, switches, and last the callbacks of the
 * game. In: the marks that rules have set. Out: updated cells, and callbacks called. Nothing here keeps the buffer, lists or tables
 * in a variable across a callback, which may replace them all.
 */
import { Clock } from "./clock.js";
import type { DirtyLists } from "./dirty.js";
import { Notice, type Audience, type Notices } from "./notices.js";
import type { EventQueues } from "./queue.js";
import type { Scheduler } from "./scheduler.js";
import { notifyAll } from "./notifyAll.js";
import { Cause, type SeatState } from "./state.js";
import type { Tables } from "./tables.js";
import type { SeatWatcher } from "./watcher.js";

/** A longer step was not a frame: the tab was in the background, in ms. */
const LONG_MS = 1000;

export abstract class Settling implements SeatState {
  /** The fields that nearly every event needs come first and together, since a crowd's seats are seldom in the cache. */
  declare tables: Tables;
  declare f: Float64Array;
  declare i: Int32Array;
  declare b: Uint8Array;
  declare protected dirty: DirtyLists;
  /** What its layer counts: here the pulses that a long step leaves out. */
  declare counts: { skipped: number };
  readonly clock: Float64Array;
  protected readonly events: EventQueues;
  protected readonly notices: Notices;
  /** The tables or the state were replaced: everything is recomputed. */
  isStale = true;
  cause = Cause.Hands;
  /** How often anything besides movements was touched, for explanations; it may wrap. Not part of the state. */
  changeCount = 0;
  /** Receives changes: the game's callbacks and watchers. `watcher` sees each event. */
  audience: Audience | null = null;
  watcher: SeatWatcher | null = null;

  constructor(readonly scheduler: Scheduler) {
    this.clock = scheduler.clock;
    this.events = scheduler.events;
    this.notices = scheduler.notices;
  }

  get slots(): Float64Array {
    return this.events.slots;
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
    this.dirty.hasWork = true;
  }
  markSwitch(rank: number): void {
    this.dirty.switches.mark(rank);
    this.dirty.hasWork = true;
  }
  markChanged(id: number): void {
    this.dirty.changed.mark(id);
    this.dirty.hasWork = true;
  }
  noteMoved(id: number): void {
    if (this.watcher === null) return;
    this.dirty.moved.mark(id);
    this.dirty.hasWork = true;
  }
  noteTurned(action: string): void {
    if (this.watcher !== null) this.note(action, Notice.Turned);
  }
  reportsPulse(told: number): boolean {
    const { clock, scheduler } = this;
    const before = clock[Clock.Before]!;
    const length = clock[Clock.Until]! - before;
    if (!(length > LONG_MS) || length === Infinity || scheduler.reportsAllPulses) return true;
    // One for each whole second, and not before that second has begun.
    if (told < Math.floor(length / LONG_MS) && told <= (clock[Clock.Now]! - before) / LONG_MS) return true;
    this.counts.skipped++;
    return false;
  }
  notePulse(action: string): void {
    if (this.audience !== null) this.note(action, Notice.Pulse);
  }
  noteSignal(signal: number, isPress: number): void {
    const { signals } = this.dirty;
    // An axis that went up and comes down again in one event: the press is announced before the release.
    for (let n = 0; isPress === 0 && n < signals.count; n++)
      if (signals.items[n] === signal * 2 + 1) this.notifyListeners(this.dirty);
    signals.add(signal * 2 + isPress);
    this.dirty.hasWork = true;
  }
  noteBlip(rank: number): void {
    this.keepFor(this.dirty.instantPresses, rank);
  }
  updateLater(rank: number): void {
    this.keepFor(this.dirty.later, rank);
  }
  reviewWaiting(): void {
    if (this.tables.waiting.length === 0) return;
    this.dirty.reviews = this.dirty.hasWork = true;
  }

  private note(action: string, notice: Notice): void {
    this.notices.add(action, notice);
    this.dirty.hasWork = true;
  }

  /** Propagates what the event touched, in the order of the tables; then calls the game's callbacks. */
  protected settle(): void {
    for (;;) {
      const { dirty } = this;
      this.settleMovement(dirty);
      if (!dirty.hasWork) break;
      dirty.hasWork = false;
      this.changeCount++;
      if (dirty.signals.count > 0) this.notifyListeners(dirty);
      else if (dirty.reviews) this.review(dirty);
      this.settleSwitches(dirty);
      if (this.notices.count > 0) {
        this.deliver();
        if (this.isStale) return;
      }
      if (this.dirty.instantPresses.count > 0) this.playInstantPress(this.dirty);
      if (this.dirty.later.count > 0) this.updateRest(this.dirty);
      if (!this.dirty.hasWork && this.dirty.movements.count === 0) break;
    }
    this.cause = Cause.Hands;
  }

  private settleMovement({ sticks, movements, turns }: DirtyLists): void {
    const { tables, scheduler } = this;
    scheduler.work[0]! += sticks.count + movements.count;
    while (sticks.count > 0) tables.sticks[sticks.pop()]!.update(this);
    while (movements.count > 0) tables.movements[movements.pop()]!.update(this);
    while (turns.count > 0) tables.turns[turns.pop()]!.update(this);
  }

  /** Notifies of presses and releases: chords, then other gestures, then entries; releases first in each. */
  private notifyListeners(dirty: DirtyLists): void {
    const { count, items } = dirty.signals;
    const { chords, signals } = this.tables;
    dirty.signals.count = 0;
    if (chords !== null) chords.judge(this, items, count);
    for (let turn = 0; turn < 4; turn++) {
      const isPress = (turn & 1) === 1;
      for (let n = 0; n < count; n++) {
        if (((items[n]! & 1) === 1) !== isPress) continue;
        const signal = signals[items[n]! >> 1]!;
        notifyAll(this, signal, turn < 2 ? signal.gestures : signal.entries, isPress);
      }
    }
    if (chords !== null) chords.returnPresses(this, items, count);
    this.review(dirty);
  }

  private review(dirty: DirtyLists): void {
    const { waiting } = this.tables;
    dirty.reviews = false;
    for (let n = 0; n < waiting.length; n++) waiting[n]!.review(this, false);
  }

  private settleSwitches({ switches, paces, changed, moved, instantPresses }: DirtyLists): void {
    const { tables, scheduler, audience } = this;
    scheduler.work[0]! += 1 + switches.count;
    while (switches.count > 0) tables.ranked[switches.pop()]!.update(this);
    // Newest first, until none begins; a blip completes before the next.
    while (this.i[tables.kept]! > 0 && instantPresses.count === 0 && this.beginKept())
      while (switches.count > 0) tables.ranked[switches.pop()]!.update(this);
    while (paces.count > 0) tables.paced[paces.pop()]!.updatePace(this);
    while (changed.count > 0) {
      const rule = tables.switches[changed.pop()]!;
      if (!rule.settle(this) || audience === null) continue;
      const { notices } = this;
      const isOn = rule.isOn(this);
      notices.add(rule.name, Notice.Changed);
      notices.add(rule.name, isOn ? Notice.On : Notice.Off);
      if (isOn && rule.pulses) notices.add(rule.name, Notice.Pulse);
      if (isOn && rule.consumeNews()) notices.add(rule.name, Notice.Grant);
    }
    while (moved.count > 0) this.notices.add(tables.movements[moved.pop()]!.name, Notice.Changed);
    this.cause = Cause.Hands;
  }

  /** Begins the newest of the kept presses that may begin; false if none may. */
  private beginKept(): boolean {
    const { keepers } = this.tables;
    let newest = -1;
    for (let n = 0; n < keepers.length; n++) {
      const rule = keepers[n]!;
      if (rule.canBegin(this) && (newest < 0 || rule.isNewer(this, keepers[newest]!))) newest = n;
    }
    if (newest < 0) return false;
    // It counts as a press by hand, whatever event allowed it.
    this.cause = Cause.Hands;
    keepers[newest]!.beginKept(this);
    return true;
  }

  /** Calls the callbacks; all readings are up to date. A callback may replace buffer, tables and lists. */
  private deliver(): void {
    const { scheduler, audience } = this;
    if (audience === null) {
      this.notices.clear();
      return;
    }
    scheduler.isCalling = true;
    try {
      this.notices.deliver(audience, scheduler);
    } finally {
      scheduler.isCalling = false;
    }
  }

  /** Marks what this event comes back to before it ends. */
  private keepFor(list: DirtyLists["later"], rank: number): void {
    const { count } = list;
    list.mark(rank);
    if (list.count > count) this.i[this.tables.instantCount]!++;
    this.dirty.hasWork = true;
  }

  /** Evaluates the switches that undid themselves, now that their beginning is announced. */
  private updateRest({ later }: DirtyLists): void {
    while (later.count > 0) {
      this.i[this.tables.instantCount]!--;
      this.markSwitch(later.pop());
    }
  }

  /** Plays half of a press that rises and falls at this moment: first on, then off, each announced. */
  private playInstantPress({ instantPresses }: DirtyLists): void {
    const { tables } = this;
    const rank = instantPresses.pop();
    if (tables.ranked[rank]!.playInstantPress(this)) this.i[tables.instantCount]!--;
    else instantPresses.mark(rank);
  }
}
