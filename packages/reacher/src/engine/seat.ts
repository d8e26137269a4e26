/**
 * One player's place: its state, its reading, and what the game tells it. May change: its state, by its events alone, and
 * the callbacks that it holds.
 */
import type { Device } from "../controls/catalogue.js";
import type { CheckedPlan } from "../plan/checked.js";
import { ReacherError } from "../plan/findings.js";
import type { OverrideFault, Overrides } from "../plan/overrides.js";
import { Clock, HeadInt, Room } from "./layout.js";
import type { LayerWatcher, Off, Seat } from "./face.js";
import { Bits, Kind } from "./queue.js";
import { makeReading, pointReadings, type Reading } from "./readings.js";
import type { Roster } from "./roster.js";
import { RunningSeat } from "./running.js";
import { Change, type SeatState, type Watcher } from "./state.js";
import { takePress } from "./switches.js";
import { DEVICES, PAD, type ChannelTable, type Tables } from "./tables.js";

const MOST_REASONS = 31;

/** What a layer's seats share. */
export interface Hub {
  readonly plan: CheckedPlan;
  readonly roster: Roster;
  /** The plan with a player's changes. */
  override(overrides: Overrides | null): {
    readonly plan: CheckedPlan;
    readonly faults: readonly OverrideFault[];
  };
  /** The tables of a plan for a seat, with the slots that it has now. */
  tablesFor(seat: SeatCore, plan: CheckedPlan): Tables;
  watchers: readonly LayerWatcher[];
  readonly counters: { late: number; ignored: number };
  /** The slots that a seat plays with now. */
  slotsOf(seat: SeatCore): readonly string[];
  /** The pad that stands at a place of a seat. */
  padAt(seat: SeatCore, place: number): number;
  /** A seat has other tables. */
  tablesChanged(): void;
  /** Whether a seat before this one handles the control as well. */
  isShared(seat: SeatCore, control: string): boolean;
}

/** The state behind a seat, for the explainer: to be read, never written. */
export function stateBehind(seat: object): SeatState {
  return (seat as SeatCore).state;
}

export class SeatCore implements Seat {
  readonly plan: CheckedPlan;
  readonly now: Reading;
  /** The plan with this player's changes. */
  own: CheckedPlan;
  /** The pad that is its own, and whether it is lost. */
  pad: number | null = null;
  padLost = false;
  declare readonly state: RunningSeat;
  private readonly listeners: (((t: number) => void)[] | undefined)[] = [];
  /** Reasons of mutes, each a bit of a number. */
  private readonly reasons: string[] = [];
  private recentName = "";
  private recent: ChannelTable | undefined;
  private olderName = "";
  private older: ChannelTable | undefined;

  constructor(
    readonly name: string,
    protected readonly hub: Hub,
    tables: Tables,
  ) {
    this.plan = this.own = hub.plan;
    this.state = new RunningSeat(tables, hub.roster);
    this.now = makeReading(this.state);
  }

  /** The channel of a control; a stick's two axes come again and again, so the last two are remembered. */
  channelOf(control: string): ChannelTable | undefined {
    return control === this.recentName
      ? this.recent
      : control === this.olderName
        ? this.older
        : this.look(control);
  }

  /** The channel of a control that was not fed lately. */
  private look(control: string): ChannelTable | undefined {
    this.olderName = this.recentName;
    this.older = this.recent;
    this.recentName = control;
    const id = this.state.tables.channels.get(control);
    this.recent = id === undefined ? undefined : this.state.tables.channel[id];
    return this.recent;
  }

  /** Takes a value that is a number, at a time that is one. */
  takeEvent(channel: ChannelTable, place: number, t: number, value: number): void {
    const clamped = value > channel.most ? channel.most : value < channel.least ? channel.least : value;
    if (this.hub.roster.addControl(this.state.number, channel, place, t, clamped)) this.hub.counters.late++;
  }

  useOverrides(overrides: Overrides | null): readonly OverrideFault[] {
    const { plan, faults } = this.hub.override(overrides);
    this.own = plan;
    this.useTables(this.hub.tablesFor(this, plan));
    return faults;
  }

  /** Goes on by other tables of the plan. */
  useTables(tables: Tables): void {
    this.state.useTables(tables);
    pointReadings(this.now, this.state);
    this.recentName = this.olderName = "";
    this.recent = this.older = undefined;
    this.hub.tablesChanged();
  }

  /** Begins or ends to tell watchers what happens. */
  showWatchers(): void {
    const all = this.hub.watchers;
    const { handled, changed, turned, due, settled } = this.seatWatcher;
    // Only what somebody listens to is told: a recorder that waits for changes costs nothing else.
    const listens = (...names: (keyof LayerWatcher)[]) => all.some((one) => names.some((name) => one[name]));
    this.state.watcher =
      all.length === 0
        ? null
        : {
            ...(listens("event", "flag", "lost", "reset", "mode", "mute") && { handled }),
            ...(listens("changed") && { changed }),
            ...(listens("turned") && { turned }),
            ...(listens("due") && { due }),
            ...(listens("settled") && { settled }),
          };
  }

  get slots(): readonly string[] {
    return this.hub.slotsOf(this);
  }

  get lastDevice(): Device | null {
    return DEVICES[this.state.i[HeadInt.LastDevice]!]!;
  }

  setFlag(flag: string, on: boolean, t?: number): void {
    const id = this.numberOf("flag", flag, this.plan.flags);
    this.told(Kind.Flag, id, on ? 1 : 0, t);
  }

  lose(what: "focus" | "pad", t?: number, pad = 0): void {
    if (what === "focus") {
      this.told(Kind.Lose, -1, 0, t);
      return;
    }
    if (pad === this.pad) this.losePlace(0, pad, t);
  }

  reset(t?: number): void {
    this.told(Kind.Reset, 0, 0, t);
  }

  /** The pad at a place of this seat goes to rest. */
  losePlace(place: number, pad: number, t: number | undefined): void {
    this.told(Kind.Lose, place, pad, t);
  }

  protected told(kind: number, index: number, value: number, t: number | undefined): void {
    if (t === undefined) this.state.addTold((index << Bits.Kind) | kind, value);
    else if (!(t - t === 0))
      throw new ReacherError(`${t} is no time; give milliseconds on the clock of performance.now()`);
    else if (this.hub.roster.addEvent(this.state.number, t, (index << Bits.Kind) | kind, value))
      this.hub.counters.late++;
  }

  enter(mode: string, t?: number): void {
    this.told(Kind.Enter, this.numberOf("mode", mode, this.plan.modes), 0, t);
  }

  leave(mode: string, t?: number): void {
    this.told(Kind.Leave, this.numberOf("mode", mode, this.plan.modes), 0, t);
  }

  mute(action: string, reason: string, t?: number): void {
    const id = this.numberOf("action", action, this.plan.actions);
    if (!this.reasons.includes(reason)) {
      if (this.reasons.length === MOST_REASONS)
        throw new ReacherError(`${MOST_REASONS} reasons for mutes are the most; reuse their names`);
      this.reasons.push(reason);
    }
    this.told(Kind.Mute, id, 1 << this.reasons.indexOf(reason), t);
  }

  unmute(action: string, reason?: string, t?: number): void {
    const id = this.numberOf("action", action, this.plan.actions);
    const bit = reason === undefined ? -1 : this.reasons.indexOf(reason);
    if (reason === undefined || bit >= 0) this.told(Kind.Unmute, id, reason === undefined ? -1 : 1 << bit, t);
  }

  take(action: string): boolean {
    const took = takePress(this.state, this.numberOf("switch", action, this.state.tables.switch));
    if (took)
      for (const watcher of this.hub.watchers)
        watcher.took?.(this.state.clock[Clock.Now]!, action, this.name);
    return took;
  }

  on(action: string, change: "on" | "off" | "pulse", fn: (t: number) => void): Off {
    const id = this.numberOf("switch", action, this.state.tables.switch);
    const key = id * 3 + (change === "on" ? Change.On : change === "off" ? Change.Off : Change.Pulse);
    // Lists are replaced, not changed, so that a callback may end itself or another.
    this.listeners[key] = [...(this.listeners[key] ?? []), fn];
    this.state.tell = this.tell;
    let ended = false;
    return () => {
      if (ended) return;
      ended = true;
      const list = this.listeners[key]!;
      const at = list.indexOf(fn);
      this.listeners[key] = list.filter((_, n) => n !== at);
    };
  }

  private readonly tell = (id: number, change: Change): void => {
    const fns = this.listeners[id * 3 + change];
    if (fns !== undefined) for (const fn of fns) fn(this.state.clock[Clock.Now]!);
  };

  private numberOf(what: string, name: string, known: readonly { readonly name: string }[]): number {
    const number = known.findIndex((one) => one.name === name);
    if (number < 0) throw unknownName(what, name, known);
    return number;
  }

  snapshot(into?: Uint8Array): Uint8Array {
    const { bytes } = this.state;
    this.state.stamp();
    if (into === undefined) return bytes.slice();
    if (into.length !== bytes.length) {
      throw new ReacherError(
        `the kept copy has ${into.length} bytes; a snapshot of this plan has ${bytes.length}`,
      );
    }
    into.set(bytes);
    return into;
  }

  restore(snapshot: Uint8Array): void {
    const { bytes, tables } = this.state;
    const at = HeadInt.Print * Room.BytesInInt;
    const fits =
      snapshot.length === bytes.length &&
      snapshot[at] === bytes[at] &&
      snapshot[at + 1] === bytes[at + 1] &&
      snapshot[at + 2] === bytes[at + 2] &&
      snapshot[at + 3] === bytes[at + 3];
    if (!fits)
      throw new ReacherError(
        `the snapshot is not of this plan${tables.plan.name && ` (${tables.plan.name})`}; take a new one`,
      );
    this.state.restore(snapshot);
  }

  /** Its controls away from rest, and those that an event not yet handled puts there (0: to rest), in that order. */
  heldControls(): { control: string; place: number; value: number }[] {
    const { tables, f, events, number } = this.state;
    const held = tables.channel.flatMap(({ name, places, f: at }) =>
      Array.from({ length: places }, (_, place) => ({ control: name, place, value: f[at + place]! })).filter(
        ({ value }) => value !== 0,
      ),
    );
    for (const at of events.places(number)) {
      const what = events.whatAt(at);
      if ((what & Bits.KindMask) !== Kind.Control) continue;
      const { name, mice, other } = tables.channel[what >> (Bits.Kind + Bits.Place)]!;
      const place = (what >> Bits.Kind) & Bits.PlaceMask;
      if (mice.length === 0) held.push({ control: name, place, value: events.valueAt(at) });
      const second = events.otherAt(at);
      if (second === second) held.push({ control: tables.channel[other]!.name, place, value: second });
    }
    return held;
  }

  uses(control: string): boolean {
    return this.usesAlone(control);
  }

  /** Whether this seat, whatever the others do, uses the control. */
  usesAlone(control: string): boolean {
    return this.state.tables.used.has(control) && this.isSeen(control);
  }

  /** Whether any live action sees this control, or a part of it. */
  private isSeen(control: string): boolean {
    const { action, channel, liveAt } = this.state.tables;
    const { i } = this.state;
    return action.some(
      ({ hideable }, id) =>
        i[liveAt + id] === 1 &&
        hideable.some(
          (part) =>
            i[part.i] === 0 &&
            part.channels.some(
              (one) => control.startsWith(channel[one]!.name) || channel[one]!.name.startsWith(control),
            ),
        ),
    );
  }

  private readonly seatWatcher: Required<Watcher> = {
    handled: (t, kind, index, value) => {
      for (const watcher of this.hub.watchers) {
        if (kind === Kind.Control) {
          const { name, device } = this.state.tables.channel[index >> Bits.Place]!;
          const pad = device === PAD ? this.hub.padAt(this, index & Bits.PlaceMask) : 0;
          watcher.event?.({ t, control: name, value, pad }, this.name, this.hub.isShared(this, name));
        } else if (kind === Kind.Flag)
          watcher.flag?.(t, this.plan.flags[index]!.name, value === 1, this.name);
        else if (kind === Kind.Lose) watcher.lost?.(t, index < 0 ? "focus" : "pad", value, this.name);
        else if (kind === Kind.Reset) watcher.reset?.(t, this.name);
        else if (kind === Kind.Enter || kind === Kind.Leave)
          watcher.mode?.(t, this.plan.modes[index]!.name, kind === Kind.Enter, this.name);
        else
          watcher.mute?.(
            t,
            this.plan.actions[index]!.name,
            value < 0 ? undefined : this.reasons[31 - Math.clz32(value)],
            kind === Kind.Mute,
            this.name,
          );
      }
    },
    changed: (t, action) => {
      for (const watcher of this.hub.watchers)
        watcher.changed?.(t, this.plan.actions[action]!.name, this.name);
    },
    turned: (t, action) => {
      for (const watcher of this.hub.watchers)
        watcher.turned?.(t, this.plan.actions[action]!.name, this.name);
    },
    due: (deadline) => {
      for (const watcher of this.hub.watchers) watcher.due?.(deadline, this.name);
    },
    settled: (t) => {
      for (const watcher of this.hub.watchers) watcher.settled?.(t, this.name);
    },
  };
}

function unknownName(what: string, name: string, known: readonly { readonly name: string }[]): ReacherError {
  return new ReacherError(
    `the plan has no ${what} ${JSON.stringify(name)}; it has ${known.map((one) => one.name).join(", ") || "none"}`,
  );
}
