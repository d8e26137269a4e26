/**
 * A seat as a game sees it: its reading, and the game's commands. May change: its engine's seat, by events alone, and the
 * callbacks that it holds.
 */
import type { Device } from "../controls/catalogue.js";
import { findNumber, nameOf } from "../controls/numbers.js";
import type { CheckedPlan } from "../plan/checked.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/findings.js";
import { MOST_NUMBER } from "../plan/language/saneRanges.js";
import type { OverrideFault, Overrides } from "../plan/overrides.js";
import type { Plan } from "../plan/types.js";
import { Clock } from "../engine/clock.js";
import { Notice } from "../engine/notices.js";
import { Bits, DriveBits, Kind, Slot } from "../engine/queue.js";
import { makeReading, readingAnew, type Reading } from "../engine/readings.js";
import { knownReason, reasonBit, reasonNames } from "../engine/reasons.js";
import { drivesOf } from "../engine/drives.js";
import { MOST_DRIVES } from "../engine/movement/driven.js";
import { FALSE_AT_ONCE } from "../engine/situations/flags.js";
import { situationOf } from "../engine/situations/modes.js";
import type { EndedBy, SwitchReading } from "../engine/switches/reading.js";
import type { Scheduler } from "../engine/scheduler.js";
import { Seat as EngineSeat } from "../engine/seat.js";
import type { Channel } from "../engine/signals.js";
import { switchOf } from "../engine/switches/switch.js";
import { DEVICES, Live, type Tables } from "../engine/tables.js";
import { momentOf, mustBeObject, mustBeText, mustBeTruth, mustCall, type Moment } from "../plan/arguments.js";
import { callEach } from "./calling.js";
import type { WatchedCommand } from "./command.js";
import { copyOf, putBack } from "./snapshots.js";
import { countBits, drivenValue, type Driving } from "./driving.js";
import type { DriveOptions, FlagOptions, LayerWatcher, Off, Seat, SwitchChange } from "./types.js";
import { isMotion, isOnPad, type Unbound } from "./unbound.js";
import { watchSeat, type Watched } from "./watching.js";

/** What a layer's players share. */
export interface Hub {
  /** The plan as it was written, and as it was read. */
  written: Plan;
  plan: CheckedPlan;
  readonly scheduler: Scheduler;
  readonly unbound: Unbound;
  /** A plan with a player's changes. */
  override(
    written: Plan,
    overrides: Overrides | null,
  ): {
    readonly written: Plan;
    readonly checked: CheckedPlan;
    readonly faults: readonly OverrideFault[];
  };
  /** The tables of a plan for a player, with the slots that it has now. */
  tablesFor(player: Player, plan: CheckedPlan): Tables;
  watchers: readonly LayerWatcher[];
  readonly counters: { late: number; ignored: number; readonly skipped: number };
  /** The slots that a player has now. */
  slotsOf(player: Player): readonly string[];
  /** The pad at a place of a player, and the place of a pad that is not its own seat's; -1 if there is none. */
  padAt(player: Player, place: number): number;
  placeOf(player: Player, pad: number): number;
  /** The place of a lost pad, which is given up at this moment. */
  leavePlace(player: Player, pad: number, t: number): number;
  /** The present value of a control that this player does not bind yet. */
  valueOf(player: Player, control: string, pad: number): number;
  /** Whether another player binds a control that several may. */
  isBoundBesides(player: Player, control: string): boolean;
  /** Hands a player the waiting events of controls that it binds only now. */
  shareEvents(player: Player, before: Tables): void;
  /** Called when a player has new tables. */
  tablesChanged(player: Player): void;
  /** Whether a player before this one handles the control as well. */
  isShared(player: Player, control: string): boolean;
}

/** The engine's seat behind a public one, for explanations: read only. */
export function engineBehind(seat: object): EngineSeat {
  return (seat as Player).engine;
}

/** What a seat holds now, bound controls alone; and its player's changes: for recordings. */
export function heldBehind(seat: object): readonly { control: string; pad: number; value: number }[] {
  return (seat as Player).heldNow();
}
export function overridesBehind(seat: object): Overrides | null {
  return (seat as Player).overrides;
}

const CHANGES = { on: Notice.On, off: Notice.Off, pulse: Notice.Pulse, grant: Notice.Grant };

type Callback = (t: number, endedBy: EndedBy) => void;

export class Player implements Seat, Watched {
  plan: Plan;
  now: Reading;
  overrides: Overrides | null = null;
  /** The plan with this player's changes, as written and as read. */
  own: Plan;
  checked: CheckedPlan;
  /** Its own pad, and whether that is lost. */
  pad: number | null = null;
  padLost = false;
  declare readonly engine: EngineSeat;
  /** Callbacks by kind of change, then by action. */
  private readonly listeners = new Map<Notice, Map<string, readonly Callback[]>>();

  constructor(
    readonly name: string,
    protected readonly hub: Hub,
    tables: Tables,
  ) {
    this.plan = this.own = hub.written;
    this.checked = hub.plan;
    this.engine = new EngineSeat(tables, hub.scheduler);
    this.now = makeReading(this.engine, tables);
  }

  /** The channel of a control. */
  findChannel(control: string): Channel | undefined {
    return this.engine.tables.channels[findNumber(control)];
  }

  /** The value of a control that it binds, not a pad's; `undefined` if it does not. */
  valueOf(control: string): number | undefined {
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
    this.tellCommand({ overrides });
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

  /** Switches to other tables. */
  useTables(tables: Tables, isOtherPlan = false): void {
    const before = this.engine.tables;
    if (tables === before) return;
    // Controls that are no longer bound may still be held. Events that wait stay where they are: they count at their moments.
    for (const { control, pad, value } of this.heldNow())
      if (!tables.named.has(control) && !this.hub.isBoundBesides(this, control))
        this.hub.unbound.note(control, pad, value);
    if (isOtherPlan) this.engine.usePlan(tables, this.fill);
    else this.engine.useTables(tables, this.fill);
    this.hub.shareEvents(this, before);
    this.hub.tablesChanged(this);
  }

  /** A control that is bound only now has the value that its device has; a key that is down waits for a new press. */
  private readonly fill = ({ tables, f }: EngineSeat, { channels: before }: Tables): void => {
    const { hub } = this;
    for (const { id, name, isAmount, value, places } of tables.bound) {
      if (before[id] !== undefined || isAmount) continue;
      if (isOnPad(name)) for (const pad of hub.unbound.padsWith(name)) hub.placeOf(this, pad);
      for (let place = 0; place < places; place++)
        f[value + place] = hub.valueOf(this, name, this.padOf(name, place));
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

  padOf(control: string, place: number): number {
    return isOnPad(control) ? this.hub.padAt(this, place) : 0;
  }

  /** Starts or stops notifying the game and the watchers. */
  showWatchers(): void {
    const { watchers } = this.hub;
    const { engine } = this;
    engine.audience = watchers.length > 0 || this.listeners.size > 0 ? this.tell : null;
    if (engine.audience !== null) this.hub.scheduler.isHeard = true;
    engine.watcher = watchers.length > 0 ? watchSeat(this) : null;
  }

  private readonly tell = (action: string, notice: Notice): void => {
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

  on(action: string, change: SwitchChange, fn: (t: number, endedBy: EndedBy) => void): Off {
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

  get lastDevice(): Device | null {
    const { i, tables } = this.engine;
    return DEVICES[i[tables.lastDevice]!]!;
  }

  setFlag(flag: string, on: boolean, options?: number | FlagOptions): void {
    const t = momentOf(options);
    const { linger = true } = Object(options) as FlagOptions;
    const value = on ? 1 : linger ? 0 : FALSE_AT_ONCE;
    this.command(Kind.Flag, placeOf("flag", flag, this.checked.flags), value, t);
  }

  lose(what: "focus" | "pad", ...rest: readonly unknown[]): void {
    const [pad, t] = lostOf(what, rest);
    if (pad === undefined) {
      this.losePlace(-1, 0, t);
      return;
    }
    const place = this.hub.leavePlace(this, pad, t ?? this.engine.clock[Clock.Now]!);
    if (place >= 0) this.losePlace(place, pad, t);
  }

  reset(t?: Moment): void {
    this.command(Kind.Reset, 0, 0, momentOf(t));
  }

  setNumber(name: string, value: number, t?: Moment): void {
    const index = placeOf("number", name, this.checked.numbers);
    if (typeof value !== "number" || !(Math.abs(value) <= MOST_NUMBER))
      throw new ReacherError(`${shown(value)} is no value for ${name}; give a number up to 1e9`);
    this.command(Kind.Number, index, value, momentOf(t));
  }

  number(name: string): number {
    placeOf("number", name, this.checked.numbers);
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
      .sort((one, other) => one.level - other.level)
      .map(({ name }) => name);
  }

  get flags(): Readonly<Record<string, boolean>> {
    const { engine, checked } = this;
    const so = (name: string) => engine.b[engine.tables.conditions.get(name)!.at] === 1;
    return Object.fromEntries(checked.flags.map(({ name }) => [name, so(name)]));
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
    const index = placeOf("action", action, this.checked.actions);
    if (b[tables.started] === 0) return livesAtStart(this.checked, index);
    return b[tables.actions[index]!.liveAt] === Live.Yes;
  }

  copy(): Reading {
    const all = Object.entries(this.now).map(([name, reading]) => [name, plainCopy(reading)]);
    return Object.freeze(Object.fromEntries(all)) as Reading;
  }

  /** The pad at a place of this seat goes to rest; or everything, for -1. */
  losePlace(place: number, pad: number, t: number | undefined): void {
    this.command(Kind.Lose, place, pad, t);
  }

  private command(kind: Kind, index: number, value: number, t: number | undefined, other = NaN): void {
    const { scheduler, counters } = this.hub;
    if (t === undefined) {
      this.engine.command(kind, index, value, other);
      return;
    }
    scheduler.fed[Slot.T] = t;
    scheduler.fed[Slot.Value] = value;
    scheduler.fed[Slot.Other] = other;
    if (scheduler.addEvent(this.engine.number, (index << Bits.Kind) | kind)) counters.late++;
  }

  enter(mode: string, t?: Moment): void {
    this.command(Kind.Enter, placeOf("mode", mode, this.checked.modes), 0, momentOf(t));
  }

  leave(mode: string, t?: Moment): void {
    this.command(Kind.Leave, placeOf("mode", mode, this.checked.modes), 0, momentOf(t));
  }

  mute(action: string, reason: string, moment?: Moment): void {
    const id = placeOf("action", action, this.checked.actions);
    mustBeText(reason, "reason");
    const t = momentOf(moment);
    this.command(Kind.Mute, id, reasonBit(this.engine, this.engine.tables, reason), t);
  }

  unmute(action: string, reason?: string, moment?: Moment): void {
    const id = placeOf("action", action, this.checked.actions);
    if (reason !== undefined) mustBeText(reason, "reason");
    const t = momentOf(moment);
    const { engine } = this;
    // By the time it is handled, a callback may have muted for a new reason.
    const bitOf = t === undefined ? knownReason : reasonBit;
    const bit = reason === undefined ? -1 : bitOf(engine, engine.tables, reason);
    if (bit !== 0) this.command(Kind.Unmute, id, bit, t);
  }

  setSwitch(action: string, on: boolean, t?: Moment): void {
    this.switchOf(action);
    mustBeTruth(on, `the switch ${action}`);
    this.command(Kind.SetSwitch, placeOf("action", action, this.checked.actions), on ? 1 : 0, momentOf(t));
  }

  drive(action: string, given: Driving, reason: string, options?: number | DriveOptions): void {
    const place = placeOf("action", action, this.checked.actions);
    const value = drivenValue(this.checked.actions[place]!, given);
    mustBeText(reason, "reason");
    const t = momentOf(options);
    const { alone = false } = Object(options) as DriveOptions;
    const isLetGo = value === null;
    const { engine } = this;
    // By the time it is handled, it may be driven for a new reason.
    const driving = this.reasonsDriving(place);
    if (
      !isLetGo &&
      (driving & knownReason(engine, engine.tables, reason)) === 0 &&
      countBits(driving) >= MOST_DRIVES
    )
      throw new ReacherError(
        `${MOST_DRIVES} reasons drive ${action} already; let one of them go, or use its name again`,
      );
    const bitOf = isLetGo && t === undefined ? knownReason : reasonBit;
    const bit = bitOf(engine, engine.tables, reason);
    if (bit === 0) return;
    const [x, y] = value ?? [NaN, NaN];
    const index =
      (place << DriveBits.Action) | ((31 - Math.clz32(bit)) << DriveBits.Reason) | (alone ? 1 : 0);
    this.command(Kind.Drive, index, x, t, y);
  }

  /** The reasons that drive an action once all waiting events are handled, one bit each. */
  private reasonsDriving(action: number): number {
    const { engine, hub } = this;
    let bits = drivesOf(engine.tables.actions[action]!)?.(engine) ?? 0;
    for (const queue of [hub.scheduler.commands, hub.scheduler.events])
      for (let at = queue.first(engine.number); at >= 0; at = queue.after(at)) {
        const what = queue.whatAt(at);
        const index = what >> Bits.Kind;
        if ((what & Bits.KindMask) !== Kind.Drive || index >> DriveBits.Action !== action) continue;
        const bit = 1 << ((index >> DriveBits.Reason) & DriveBits.ReasonMask);
        const value = queue.valueAt(at);
        bits = value === value ? bits | bit : bits & ~bit;
      }
    return bits;
  }

  take(action: string): boolean {
    const took = this.switchOf(action).keeper?.take(this.engine) ?? false;
    if (took) this.tellCommand({ take: action });
    return took;
  }

  /** Tells watchers what was done at once, or at a moment that is known. */
  tellCommand(command: WatchedCommand, t?: number): void {
    const { engine, name: seat } = this;
    const when = {
      t: t ?? engine.clock[Clock.Now]!,
      seat,
      after: t === undefined && engine.isAfter,
      done: true,
    };
    callEach(this.hub.watchers, (one) => one.command?.(command, when));
  }

  private switchOf(action: string) {
    const { tables } = this.engine;
    const one = switchOf(tables, action);
    if (one === undefined) throw unknownName("switch", action, tables.switches);
    return one;
  }

  snapshot(into?: Uint8Array): Uint8Array {
    return copyOf([this.engine], into);
  }

  restore(snapshot: Uint8Array): void {
    putBack([this.engine], snapshot);
  }

  /** Its controls away from rest at this moment. */
  heldNow(): { control: string; pad: number; value: number }[] {
    const { tables, f } = this.engine;
    return tables.bound.flatMap(({ name, places, value: at }) =>
      Array.from({ length: places }, (_, place) => ({
        control: name,
        pad: this.padOf(name, place),
        value: f[at + place]!,
      })).filter(({ value }) => value !== 0),
    );
  }

  /** The same, then those that waiting events change (0: to rest). */
  heldControls(): { control: string; pad: number; value: number }[] {
    const { tables, number } = this.engine;
    const { events } = this.hub.scheduler;
    const held = this.heldNow();
    const note = (control: string, place: number, value: number) =>
      held.push({ control, pad: this.padOf(control, place), value });
    for (let at = events.first(number); at >= 0; at = events.after(at)) {
      const what = events.whatAt(at);
      if ((what & Bits.KindMask) !== Kind.Control) continue;
      const control = what >> (Bits.Kind + Bits.Place);
      const name = nameOf(control);
      const place = (what >> Bits.Kind) & Bits.PlaceMask;
      if (!isMotion(name)) note(name, place, events.valueAt(at));
      const second = events.otherAt(at);
      const other = tables.channels[control]?.other;
      if (second === second && other != null) note(other.name, place, second);
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

/** What is lost: the index of a pad, or `undefined` for everything; and when. */
export function lostOf(
  what: unknown,
  [first, second]: readonly unknown[],
): [pad: number | undefined, t: number | undefined] {
  if (what === "focus") return [undefined, momentOf(first)];
  if (what !== "pad")
    throw new ReacherError(`${shown(what)} is nothing to lose; it is "focus", or "pad" with its index`);
  if (typeof first !== "number" || !Number.isInteger(first) || first < 0)
    throw new ReacherError(
      `${shown(first)} is no pad; lose("pad", pad, t) takes the index of a pad, then the time`,
    );
  return [first, momentOf(second)];
}

function placeOf(what: string, name: string, known: readonly { readonly name: string }[]): number {
  for (let n = 0; n < known.length; n++) if (known[n]!.name === name) return n;
  throw unknownName(what, name, known);
}

function unknownName(what: string, name: string, known: readonly { readonly name: string }[]): ReacherError {
  return new ReacherError(
    `the plan has no ${what} ${shown(name)}; it has ${known.map((one) => one.name).join(", ") || "none"}`,
  );
}
