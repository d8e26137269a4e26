/**
 * A seat as a game sees it: its reading, and the game's commands. May change: its engine's seat, by events alone, and the
 * callbacks that it holds.
 */
import type { Device } from "../controls/catalogue.js";
import { nameOf } from "../controls/numbers.js";
import type { CheckedPlan } from "../plan/checked.js";
import { ReacherError } from "../plan/findings.js";
import type { OverrideFault, Overrides } from "../plan/overrides.js";
import type { Plan } from "../plan/types.js";
import { Clock } from "../engine/clock.js";
import { Notice } from "../engine/notices.js";
import { Bits, DriveBits, Kind, Slot } from "../engine/queue.js";
import { makeReading, readingAnew, type Reading } from "../engine/readings.js";
import { knownReason, reasonBit, reasonNames } from "../engine/reasons.js";
import { drivesOf } from "../engine/situations/drives.js";
import { MOST_DRIVES } from "../engine/movement/driven.js";
import { FALSE_AT_ONCE } from "../engine/situations/flags.js";
import { situationOf } from "../engine/situations/modes.js";
import type { EndedBy, SwitchReading } from "../engine/switches/reading.js";
import type { Scheduler } from "../engine/scheduler.js";
import { Seat as EngineSeat } from "../engine/seat.js";
import type { Channel } from "../engine/signals.js";
import { switchOf } from "../engine/switches/switch.js";
import { DEVICES, Live, type Tables } from "../engine/tables.js";
import { copyOf, putBack } from "./snapshots.js";
import { countBits, drivenValue, type Driving } from "./driving.js";
import type { DriveOptions, FlagOptions, LayerWatcher, Off, Seat, SwitchChange } from "./types.js";
import type { Unbound } from "./unbound.js";
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
  /** The pad at a place of a player. */
  padAt(player: Player, place: number): number;
  /** Called when a player has new tables. */
  tablesChanged(player: Player): void;
  /** Whether a player before this one handles the control as well. */
  isShared(player: Player, control: string): boolean;
}

/** The engine's seat behind a public one, for explanations: read only. */
export function engineBehind(seat: object): EngineSeat {
  return (seat as Player).engine;
}

const CHANGES = { on: Notice.On, off: Notice.Off, pulse: Notice.Pulse, grant: Notice.Grant };

type Callback = (t: number, endedBy: EndedBy) => void;

export class Player implements Seat, Watched {
  plan: Plan;
  now: Reading;
  private overrides: Overrides | null = null;
  /** The plan with this player's changes, as written and as read. */
  own: Plan;
  checked: CheckedPlan;
  /** Its own pad, and whether that is lost. */
  pad: number | null = null;
  padLost = false;
  declare readonly engine: EngineSeat;
  /** Callbacks by kind of change, then by action. */
  private readonly listeners = new Map<Notice, Map<string, readonly Callback[]>>();
  private recentName = "";
  private recent: Channel | undefined;
  private olderName = "";
  private older: Channel | undefined;

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

  /** The channel of a control. The last two are cached, since a stick's axes alternate. */
  protected channelOf(control: string): Channel | undefined {
    return control === this.recentName
      ? this.recent
      : control === this.olderName
        ? this.older
        : this.lookUp(control);
  }

  /** The channel of a control that is not among the last two. */
  private lookUp(control: string): Channel | undefined {
    this.olderName = this.recentName;
    this.older = this.recent;
    this.recentName = control;
    return (this.recent = this.findChannel(control));
  }

  /** The channel of a control. */
  findChannel(control: string): Channel | undefined {
    return this.engine.tables.byName.get(control);
  }

  setOverrides(overrides: Overrides | null): readonly OverrideFault[] {
    const { written, checked, faults } = this.hub.override(this.hub.written, overrides);
    this.overrides = overrides;
    this.own = written;
    this.checked = checked;
    this.useTables(this.hub.tablesFor(this, checked));
    const t = this.engine.clock[Clock.Now]!;
    for (const watcher of this.hub.watchers)
      watcher.overrides?.(t, overrides, this.name, this.engine.isAfter);
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
    const held = this.heldControls();
    if (isOtherPlan) this.engine.usePlan(tables);
    else this.engine.useTables(tables);
    this.recentName = this.olderName = "";
    this.recent = this.older = undefined;
    // Controls that are no longer bound may still be held.
    for (const { control, pad, value } of held)
      if (!tables.named.has(control)) this.hub.unbound.note(control, pad, value);
    this.takeHeld(before);
    this.hub.tablesChanged(this);
  }

  /** A newly bound key that is down already counts as down, but not as pressed: so its release is expected. */
  private takeHeld({ channels: before }: Tables): void {
    const { unbound } = this.hub;
    const { tables, f, b } = this.engine;
    for (const { id, name, isDigital, value, places, signals } of tables.bound) {
      if (before[id] !== undefined || !isDigital) continue;
      for (let place = 0; place < places; place++)
        f[value + place] = unbound.valueOf(name, this.padOf(name, place));
      for (const signal of signals)
        if (signal.channel!.strongest(this.engine, signal.sign) >= signal.press) b[signal.up] = 1;
    }
  }

  watchers(): readonly LayerWatcher[] {
    return this.hub.watchers;
  }

  isShared(control: string): boolean {
    return this.hub.isShared(this, control);
  }

  padOf(control: string, place: number): number {
    return control.startsWith("Pad") ? this.hub.padAt(this, place) : 0;
  }

  /** Starts or stops notifying the game and the watchers. */
  showWatchers(): void {
    const { watchers } = this.hub;
    const { engine } = this;
    engine.audience = watchers.length > 0 || this.listeners.size > 0 ? this.tell : null;
    engine.watcher = watchers.length > 0 ? watchSeat(this) : null;
  }

  private readonly tell = (action: string, notice: Notice): void => {
    const { watchers } = this.hub;
    if (notice === Notice.Changed || notice === Notice.Turned) {
      const t = this.engine.clock[Clock.Now]!;
      for (const watcher of watchers) {
        if (notice === Notice.Turned) watcher.turned?.(t, action, this.name);
        else watcher.changed?.(t, action, this.name);
      }
      return;
    }
    const fns = this.listeners.get(notice)?.get(action);
    if (fns === undefined) return;
    for (const fn of fns) {
      // An earlier callback may have set a plan without this action.
      const reading = this.now[action] as SwitchReading | undefined;
      if (reading !== undefined) fn(this.engine.clock[Clock.Now]!, reading.endedBy!);
    }
  };

  on(action: string, change: SwitchChange, fn: (t: number, endedBy: EndedBy) => void): Off {
    this.switchOf(action);
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
    const { t, linger = true } = typeof options === "object" ? options : { t: options };
    const value = on ? 1 : linger ? 0 : FALSE_AT_ONCE;
    this.command(Kind.Flag, placeOf("flag", flag, this.checked.flags), value, t);
  }

  lose(what: "focus" | "pad", t?: number, pad = 0): void {
    if (what === "focus") this.losePlace(-1, 0, t);
    else if (pad === this.pad) this.losePlace(0, pad, t);
  }

  reset(t?: number): void {
    this.command(Kind.Reset, 0, 0, t);
  }

  setNumber(name: string, value: number, t?: number): void {
    if (!Number.isFinite(value)) throw new ReacherError(`${value} is no value for ${name}; give a number`);
    this.command(Kind.Number, placeOf("number", name, this.checked.numbers), value, t);
  }

  number(name: string): number {
    placeOf("number", name, this.checked.numbers);
    return this.engine.f[this.engine.tables.numbers.get(name)!.at]!;
  }

  get modes(): readonly string[] {
    const { engine, checked } = this;
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
    return b[tables.actions[placeOf("action", action, this.checked.actions)]!.liveAt] === Live.Yes;
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
    if (!(t - t === 0))
      throw new ReacherError(`${t} is no time; give milliseconds on the clock of performance.now()`);
    scheduler.fed[Slot.T] = t;
    scheduler.fed[Slot.Value] = value;
    scheduler.fed[Slot.Other] = other;
    if (scheduler.addEvent(this.engine.number, (index << Bits.Kind) | kind)) counters.late++;
  }

  enter(mode: string, t?: number): void {
    this.command(Kind.Enter, placeOf("mode", mode, this.checked.modes), 0, t);
  }

  leave(mode: string, t?: number): void {
    this.command(Kind.Leave, placeOf("mode", mode, this.checked.modes), 0, t);
  }

  mute(action: string, reason: string, t?: number): void {
    const id = placeOf("action", action, this.checked.actions);
    this.command(Kind.Mute, id, reasonBit(this.engine, this.engine.tables, reason), t);
  }

  unmute(action: string, reason?: string, t?: number): void {
    const id = placeOf("action", action, this.checked.actions);
    const { engine } = this;
    // By the time it is handled, a callback may have muted for a new reason.
    const bitOf = t === undefined ? knownReason : reasonBit;
    const bit = reason === undefined ? -1 : bitOf(engine, engine.tables, reason);
    if (bit !== 0) this.command(Kind.Unmute, id, bit, t);
  }

  setSwitch(action: string, on: boolean, t?: number): void {
    this.switchOf(action);
    this.command(Kind.SetSwitch, placeOf("action", action, this.checked.actions), on ? 1 : 0, t);
  }

  drive(action: string, given: Driving, reason: string, options?: number | DriveOptions): void {
    const { t, alone = false } = typeof options === "object" ? options : { t: options };
    const place = placeOf("action", action, this.checked.actions);
    const value = drivenValue(this.checked.actions[place]!, given);
    const isLetGo = value === null;
    const { engine } = this;
    // By the time it is handled, it may be driven for a new reason.
    const bitOf = isLetGo && t === undefined ? knownReason : reasonBit;
    const bit = bitOf(engine, engine.tables, reason);
    if (bit === 0) return;
    const [x, y] = value ?? [NaN, NaN];
    if (!isLetGo && countBits(this.reasonsDriving(place) | bit) > MOST_DRIVES)
      throw new ReacherError(
        `${MOST_DRIVES} reasons drive ${action} already; let one of them go, or use its name again`,
      );
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
    if (took)
      for (const watcher of this.hub.watchers)
        watcher.took?.(this.engine.clock[Clock.Now]!, action, this.name);
    return took;
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

  /** Its controls away from rest, then those that waiting events change (0: to rest). */
  heldControls(): { control: string; pad: number; value: number }[] {
    const { tables, f, number } = this.engine;
    const { events } = this.hub.scheduler;
    const held: { control: string; pad: number; value: number }[] = [];
    const note = (control: string, place: number, value: number) =>
      held.push({ control, pad: this.padOf(control, place), value });
    for (const { name, places, value: at } of tables.bound)
      for (let place = 0; place < places; place++) if (f[at + place] !== 0) note(name, place, f[at + place]!);
    for (let at = events.first(number); at >= 0; at = events.after(at)) {
      const what = events.whatAt(at);
      if ((what & Bits.KindMask) !== Kind.Control) continue;
      const control = what >> (Bits.Kind + Bits.Place);
      const name = nameOf(control);
      const place = (what >> Bits.Kind) & Bits.PlaceMask;
      if (!name.startsWith("MouseMove")) note(name, place, events.valueAt(at));
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

/** A frozen copy of a reading's values. */
function plainCopy(reading: object): object {
  const values = Object.entries(reading).map(([name, value]) => [
    name,
    typeof value === "object" && value !== null ? plainCopy(value as object) : (value as unknown),
  ]);
  return Object.freeze(Object.fromEntries(values)) as object;
}

function placeOf(what: string, name: string, known: readonly { readonly name: string }[]): number {
  for (let n = 0; n < known.length; n++) if (known[n]!.name === name) return n;
  throw unknownName(what, name, known);
}

function unknownName(what: string, name: string, known: readonly { readonly name: string }[]): ReacherError {
  return new ReacherError(
    `the plan has no ${what} ${JSON.stringify(name)}; it has ${known.map((one) => one.name).join(", ") || "none"}`,
  );
}
