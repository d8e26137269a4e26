/**
 * A seat as a game sees it: its reading, and the game's commands. May change: its engine's seat, by events alone, and the
 * callbacks that it holds.
 */
import type { Device } from "../controls/catalogue.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import type { Plan } from "../plan/types.js";
import { Clock } from "../engine/clock.js";
import { Notice } from "../engine/notices.js";
import { makeReading, readingAnew, type Reading } from "../engine/readings.js";
import type { Scheduler } from "../engine/scheduler.js";
import { SeatEngine } from "../engine/seat.js";
import type { Channel } from "../engine/signals.js";
import type { Tables } from "../engine/tables.js";
import { mustBeObject } from "../plan/arguments.js";
import { deviceValue, heldNow, heldSoon } from "./held.js";
import type { Hub } from "./hub.js";
import type { Listeners } from "./calls/listenCalls.js";
import { SeatCommands } from "./seatCommands.js";
import type { Held, LayerWatcher, RawEvent, Seat } from "./types.js";
import { isUsed } from "./uses.js";
import { isOnPad } from "./unbound.js";
import { watchSeat, type Watched } from "./watching.js";

/** The engine's seat behind a public one, for explanations: read only. */
export function engineBehind(seat: object): SeatEngine {
  return (seat as SeatHandle).engine;
}

/** What a seat holds now, bound controls alone; and its player's changes: for recordings. */
export function heldBehind(seat: object): readonly { control: string; pad: number; value: number }[] {
  return (seat as SeatHandle).heldNow();
}
export function overridesBehind(seat: object): Overrides | null {
  return (seat as SeatHandle).overrides;
}

/** A seat that has played elsewhere until now. */
export interface TakenSeat {
  readonly engine: SeatEngine;
  readonly now: Reading;
  readonly listeners: Listeners;
  /** The plan with this player's changes. */
  readonly own: {
    readonly overrides: Overrides | null;
    readonly written: Plan;
    readonly checked: CheckedPlan;
  };
}

export class SeatHandle extends SeatCommands implements Seat, Watched {
  plan: Plan;
  override now: Reading;
  overrides: Overrides | null = null;
  /** The plan with this player's changes, as written and as read. */
  own: Plan;
  override checked: CheckedPlan;
  /** Its own pad, and whether that is lost; since when. */
  pad: number | null = null;
  padLost = false;
  padLostAt = 0;
  /** Whether a pad was taken away and its loss still waits: what is held is that pad's, and nobody's from then on. */
  losesPad = false;
  override readonly engine: SeatEngine;
  override listeners: Listeners = new Map();

  constructor(name: string, hub: Hub, from: Tables | TakenSeat) {
    super(name, hub);
    this.plan = this.own = hub.written;
    this.checked = hub.plan;
    if ("engine" in from) {
      this.engine = from.engine;
      this.now = from.now;
      this.listeners = from.listeners;
      ({ overrides: this.overrides, written: this.own, checked: this.checked } = from.own);
    } else {
      this.engine = new SeatEngine(from, hub.scheduler);
      this.now = makeReading(this.engine, from);
    }
    this.engine.counts = hub.counters;
  }

  /** The channel of a control. */
  findChannel(control: string): Channel | undefined {
    return this.engine.tables.find(control);
  }

  /** The value of a control that it binds, not a pad's; `undefined` if it does not. */
  heldValue(control: string): number | undefined {
    const channel = this.findChannel(control);
    return channel && deviceValue(channel, this.engine.f, 0);
  }

  setOverrides(overrides: Overrides | null): readonly OverrideFault[] {
    if (overrides !== null) mustBeObject(overrides, "player's overrides; give what was saved, or null");
    const { written, checked, faults } = this.hub.override(this.hub.written, overrides);
    this.overrides = overrides;
    this.own = written;
    this.checked = checked;
    this.useTables(this.hub.tablesFor(this, checked));
    this.hub.adopt?.(this.engine, checked, this.slots);
    this.notifyCommand({ overrides });
    return faults;
  }

  /** The new plan with this player's changes; nothing is changed yet. */
  ownOf(written: Plan): { readonly written: Plan; readonly checked: CheckedPlan } {
    return this.hub.override(written, this.overrides);
  }

  /** Switches to another plan, with this player's own changes. */
  usePlan(written: Plan, own: Plan, checked: CheckedPlan): void {
    const before = this.engine.tables;
    this.plan = written;
    this.own = own;
    this.checked = checked;
    const tables = this.hub.tablesFor(this, checked);
    this.useTables(tables, true);
    this.now = readingAnew(this.now, this.engine, before, tables);
  }

  feed(event: RawEvent): void {
    mustBeObject(event, "event; feed takes { t, control, value }");
    this.hub.feedSeat(this, event);
  }

  /** Switches to other tables. */
  useTables(tables: Tables, isOtherPlan = false): void {
    const before = this.engine.tables;
    if (tables === before) return;
    // Controls that are no longer bound may still be held. Events that wait stay where they are: they count at their moments.
    for (const { control, pad, value } of heldNow(this.engine, this.hub.controls, this.places, true))
      if (
        this.hub.controls.isRaw(control) &&
        !(this.losesPad && isOnPad(control)) &&
        !tables.named.has(control) &&
        !this.hub.isBoundBesides(this, control)
      )
        this.hub.unbound.note(this.hub.controls, control, pad, value);
    const change = this.hub.change!;
    if (isOtherPlan) change.usePlan!(this.engine, tables, this.fill);
    else change.useTables(this.engine, tables, this.fill, this.now);
    this.hub.shareEvents(this, before);
    this.hub.tablesChanged(this);
  }

  /** A control that is bound only now has the value that its device has; a key that is down waits for a new press. */
  private readonly fill = ({ tables, f }: SeatEngine, before: Tables): void => {
    const { hub } = this;
    for (const { name, isAmount, value, padCount } of tables.bound) {
      if (before.find(name) !== undefined || isAmount) continue;
      if (isOnPad(name)) for (const pad of hub.unbound.padsWith(name)) hub.padIndexOf(this, pad);
      for (let padIndex = 0; padIndex < padCount; padIndex++)
        f[value + padIndex] = hub.deviceValue(this, name, this.padOf(name, padIndex));
    }
  };

  get errors(): Scheduler {
    return this.hub.scheduler;
  }

  watchers(): readonly LayerWatcher[] {
    return this.hub.watchers;
  }

  isShared(control: string): boolean {
    return this.hub.isShared(this, control);
  }

  padOf(control: string, padIndex: number): number {
    return isOnPad(control) ? this.hub.padAt(this, padIndex) : 0;
  }

  hear(): void {
    this.showWatchers();
  }

  /** Starts or stops notifying the game and the watchers. */
  showWatchers(): void {
    const { watchers } = this.hub;
    const { engine } = this;
    engine.audience = watchers.length > 0 || this.listeners.size > 0 ? this.notify : null;
    if (engine.audience !== null) this.hub.scheduler.isHeard = true;
    engine.watcher = watchers.length > 0 ? watchSeat(this) : null;
  }

  private readonly notify = (action: string, notice: Notice): void => {
    const { watchers, scheduler } = this.hub;
    if (notice === Notice.Changed || notice === Notice.Turned) {
      const t = this.engine.clock[Clock.Now]!;
      for (const watcher of watchers)
        try {
          if (notice === Notice.Turned) watcher.turned?.(t, action, this.name);
          else watcher.changed?.(t, action, this.name);
        } catch (error) {
          scheduler.catch(error);
        }
      return;
    }
    this.tell(action, notice);
  };

  get slots(): readonly string[] {
    return this.hub.slotsOf(this);
  }

  get lastDevice(): Device | (string & {}) | null {
    const { i, tables } = this.engine;
    return (tables.devices[i[tables.lastDevice]!] ?? null) as Device | (string & {}) | null;
  }

  /** Its controls away from rest at this moment. */
  heldNow(): Held[] {
    return heldNow(this.engine, this.hub.controls, this.places);
  }

  /** The same, then those that waiting events change (0: to rest). */
  heldControls(): Held[] {
    return heldSoon(this.engine, this.hub.controls, this.places);
  }

  private readonly places = (control: string, padIndex: number) => this.padOf(control, padIndex);

  uses(control: string): boolean {
    return this.usesAlone(control);
  }

  /** Whether a live action of this player uses this control, or a part of it. */
  usesAlone(control: string): boolean {
    return isUsed(this.engine, control);
  }
}
