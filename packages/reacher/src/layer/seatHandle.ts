/**
 * A seat as a game sees it: its reading, and the game's commands. May change: its engine's seat, by events alone, and the
 * callbacks that it holds.
 */
import type { Device } from "../controls/catalogue.js";
import type { CheckedPlan } from "../plan/checked.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/findings.js";
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import type { Plan } from "../plan/types.js";
import { Clock } from "../engine/clock.js";
import { Notice } from "../engine/notices.js";
import { Bits, EventKind } from "../engine/queue.js";
import { makeReading, readingAnew, type Reading } from "../engine/readings.js";
import { reasonNames } from "../engine/reasons.js";
import { situationOf } from "../engine/situations/modes.js";
import type { EndedBy, SwitchReading } from "../engine/switches/reading.js";
import type { Scheduler } from "../engine/scheduler.js";
import { SeatEngine } from "../engine/seat.js";
import type { Channel } from "../engine/signals.js";
import { Live, type Tables } from "../engine/tables.js";
import { mustBeObject, mustCall } from "../plan/arguments.js";
import type { Hub } from "./hub.js";
import { indexIn, SeatCommands } from "./seatCommands.js";
import { copyOf, putBack } from "./snapshots.js";
import type { LayerWatcher, RawEvent, Unsubscribe, Seat, SwitchChange } from "./types.js";
import { isMotion, isOnPad } from "./unbound.js";
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

const CHANGES = { on: Notice.On, off: Notice.Off, pulse: Notice.Pulse, grant: Notice.Grant };

type Callback = (t: number, endedBy: EndedBy) => void;

export class SeatHandle extends SeatCommands implements Seat, Watched {
  plan: Plan;
  now: Reading;
  overrides: Overrides | null = null;
  /** The plan with this player's changes, as written and as read. */
  own: Plan;
  override checked: CheckedPlan;
  /** Its own pad, and whether that is lost. */
  pad: number | null = null;
  padLost = false;
  readonly engine: SeatEngine;
  /** Callbacks by kind of change, then by action. */
  private readonly listeners = new Map<Notice, Map<string, readonly Callback[]>>();

  constructor(name: string, hub: Hub, tables: Tables) {
    super(name, hub);
    this.plan = this.own = hub.written;
    this.checked = hub.plan;
    this.engine = new SeatEngine(tables, hub.scheduler);
    this.now = makeReading(this.engine, tables);
  }

  /** The channel of a control. */
  findChannel(control: string): Channel | undefined {
    return this.engine.tables.find(control);
  }

  /** The value of a control that it binds, not a pad's; `undefined` if it does not. */
  heldValue(control: string): number | undefined {
    const channel = this.findChannel(control);
    return channel === undefined ? undefined : this.engine.f[channel.value]!;
  }

  setOverrides(overrides: Overrides | null): readonly OverrideFault[] {
    if (overrides !== null) mustBeObject(overrides, "player's overrides; give what was saved, or null");
    const { written, checked, faults } = this.hub.override(this.hub.written, overrides);
    this.overrides = overrides;
    this.own = written;
    this.checked = checked;
    this.useTables(this.hub.tablesFor(this, checked));
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
    for (const { control, pad, value } of this.heldNow())
      if (
        this.hub.controls.isRaw(control) &&
        !tables.named.has(control) &&
        !this.hub.isBoundBesides(this, control)
      )
        this.hub.unbound.note(this.hub.controls, control, pad, value);
    if (isOtherPlan) this.engine.usePlan(tables, this.fill);
    else this.engine.useTables(tables, this.fill);
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
    const fns = this.listeners.get(notice)?.get(action);
    if (fns === undefined) return;
    for (const fn of fns)
      try {
        // An earlier callback may have set a plan without this action.
        const reading = this.now[action] as SwitchReading | undefined;
        if (reading !== undefined) fn(this.engine.clock[Clock.Now]!, reading.endedBy!);
      } catch (error) {
        scheduler.catch(error);
      }
  };

  on(action: string, change: SwitchChange, fn: (t: number, endedBy: EndedBy) => void): Unsubscribe {
    this.switchOf(action);
    if (!Object.hasOwn(CHANGES, change))
      throw new ReacherError(`${shown(change)} is no change of a switch; it is on, off, pulse or grant`);
    mustCall(fn, `on(${shown(action)}, ${shown(change)}, fn)`);
    const notice = CHANGES[change];
    const own = this.listeners.get(notice) ?? new Map<string, readonly Callback[]>();
    this.listeners.set(notice, own);
    // Lists are replaced, not changed, so that a callback may remove itself or another.
    own.set(action, [...(own.get(action) ?? []), fn]);
    this.showWatchers();
    let isEnded = false;
    return () => {
      if (isEnded) return;
      isEnded = true;
      const list = own.get(action)!;
      const at = list.indexOf(fn);
      own.set(
        action,
        list.filter((_, n) => n !== at),
      );
    };
  }

  get slots(): readonly string[] {
    return this.hub.slotsOf(this);
  }

  get lastDevice(): Device | (string & {}) | null {
    const { i, tables } = this.engine;
    return (tables.devices[i[tables.lastDevice]!] ?? null) as Device | (string & {}) | null;
  }

  number(name: string): number {
    indexIn("number", name, this.checked.numbers);
    return this.engine.f[this.engine.tables.numbers.get(name)!.at]!;
  }

  get modes(): readonly string[] {
    const { engine, checked } = this;
    // Before the first step, those that it begins with.
    if (engine.b[engine.tables.started] === 0) return checked.start;
    const situation = situationOf(engine.tables);
    const levels = checked.modes.map(({ name }, n) => ({ name, level: situation?.levelOf(engine, n) ?? 0 }));
    return levels
      .filter(({ level }) => level > 0)
      .sort((a, b) => a.level - b.level)
      .map(({ name }) => name);
  }

  get flags(): Readonly<Record<string, boolean>> {
    const { engine, checked } = this;
    const isTrue = (name: string) => engine.b[engine.tables.conditions.get(name)!.at] === 1;
    return Object.fromEntries(checked.flags.map(({ name }) => [name, isTrue(name)]));
  }

  get mutes(): Readonly<Record<string, readonly string[]>> {
    const { engine, checked } = this;
    const situation = situationOf(engine.tables);
    const all = checked.actions.map(
      ({ name }, n) => [name, reasonNames(engine, engine.tables, situation?.mutes(engine, n) ?? 0)] as const,
    );
    return Object.fromEntries(all.filter(([, reasons]) => reasons.length > 0));
  }

  live(action: string): boolean {
    const { tables, b } = this.engine;
    const index = indexIn("action", action, this.checked.actions);
    if (b[tables.started] === 0) return livesAtStart(this.checked, index);
    return b[tables.actions[index]!.liveAt] === Live.Yes;
  }

  copy(): Reading {
    const all = Object.entries(this.now).map(([name, reading]) => [name, plainCopy(reading)]);
    return Object.freeze(Object.fromEntries(all)) as Reading;
  }

  snapshot(into?: Uint8Array): Uint8Array {
    return copyOf([this.engine], into);
  }

  restore(snapshot: Uint8Array): void {
    putBack([this.engine], snapshot);
    this.hub.notifyRestored(this.name);
  }

  /** Its controls away from rest at this moment. */
  heldNow(): { control: string; pad: number; value: number }[] {
    const { tables, f } = this.engine;
    const held = tables.bound.filter(({ name }) => !isMotion(this.hub.controls, name));
    return held.flatMap(({ name, padCount, value: at }) =>
      Array.from({ length: padCount }, (_, padIndex) => ({
        control: name,
        pad: this.padOf(name, padIndex),
        value: f[at + padIndex]!,
      })).filter(({ value }) => value !== 0),
    );
  }

  /** The same, then those that waiting events change (0: to rest). */
  heldControls(): { control: string; pad: number; value: number }[] {
    const { tables, number } = this.engine;
    const { events } = this.hub.scheduler;
    const held = this.heldNow();
    const note = (control: string, padIndex: number, value: number) =>
      held.push({ control, pad: this.padOf(control, padIndex), value });
    for (let at = events.first(number); at >= 0; at = events.after(at)) {
      const what = events.whatAt(at);
      if ((what & Bits.KindMask) !== EventKind.Control) continue;
      const control = what >> (Bits.Kind + Bits.Place);
      const name = this.hub.controls.nameOf(control);
      const padIndex = (what >> Bits.Kind) & Bits.PlaceMask;
      if (isMotion(this.hub.controls, name)) continue;
      note(name, padIndex, events.valueAt(at));
      const second = events.otherAt(at);
      const other = tables.channels[control]?.other;
      if (second === second && other != null) note(other.name, padIndex, second);
    }
    return held;
  }

  uses(control: string): boolean {
    return this.usesAlone(control);
  }

  /** Whether a live action of this player uses this control, or a part of it. */
  usesAlone(control: string): boolean {
    const { tables, b } = this.engine;
    for (const id of tables.named.get(control) ?? [])
      for (const { liveAt, hiddenAt } of tables.users.get(id) ?? [])
        if (b[liveAt] === Live.Yes && (hiddenAt < 0 || b[hiddenAt] === 0)) return true;
    return false;
  }
}

/** Whether an action is live before the first step: one of its modes is on at the start, and no mode above covers it. */
function livesAtStart({ actions, modes, start }: CheckedPlan, action: number): boolean {
  const own = actions[action]!.in;
  const highest = Math.max(...own.map((mode) => start.lastIndexOf(mode)));
  const covers = (name: string) => modes.find((mode) => mode.name === name)!.covers === "all";
  return own.length === 0 || (highest >= 0 && !start.slice(highest + 1).some(covers));
}

/** A frozen copy of a reading's values. */
function plainCopy(reading: object): object {
  const values = Object.entries(reading).map(([name, value]) => [
    name,
    typeof value === "object" && value !== null ? plainCopy(value as object) : (value as unknown),
  ]);
  return Object.freeze(Object.fromEntries(values)) as object;
}
