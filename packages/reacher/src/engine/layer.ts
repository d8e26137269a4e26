/**
 * The input layer's face: what devices feed, what games tell and what they read. It holds the seats and which pad is where;
 * everything a step changes stands in the seats' states.
 */
import { Head, HeadInt } from "./layout.js";
import type { CheckedPlan } from "../plan/checked.js";
import { ReacherError } from "../plan/findings.js";
import type { Kinds } from "../plan/types.js";
import { compilePlan } from "./compile.js";
import { Bits, Kind } from "./queue.js";
import { makeReading, type Reading } from "./readings.js";
import { Change, SeatState, type Watcher } from "./state.js";
import { takePress } from "./switches.js";
import { DEVICES, type ChannelTable, type Tables } from "./tables.js";
import type { Device } from "../controls/catalogue.js";

/** One raw event: a control has this value from now on. */
export interface RawEvent {
  /** The moment, in ms on the clock of `performance.now()` and `event.timeStamp`. */
  readonly t: number;
  /** A control that reports by itself: a key, a button, one axis of a stick. */
  readonly control: string;
  /** 1 and 0 for keys, 0..1 for buttons and triggers, -1..1 for axes (down is +1, as pads report it). */
  readonly value: number;
  /** The pad's index. @default 0 */
  readonly pad?: number;
}

/** How many events were not taken as they came. */
export interface Counters {
  /** Stamped at or before the last step, and handled at its time. */
  readonly late: number;
  /** Ignored: an unknown control, a time or a value that is no number, a pad too many. */
  readonly ignored: number;
}

/** The names of a plan's actions of one kind. */
export type NamesOf<K extends Kinds, T> = { [A in keyof K]: T extends K[A] ? A : never }[keyof K] & string;

/** Ends a callback. */
export type Off = () => void;

/** One player's place: its reading, and what the game tells it. */
export interface Seat<K extends Kinds = Kinds, F extends string = string> {
  readonly name: string;
  /** The reading; one object for the layer's life, always as of the last step. */
  readonly now: Reading<K>;
  /** What the seat used last, for prompts; noise of a stick at rest does not count. `null` before anything was used. */
  readonly lastDevice: Device | null;
  /**
   * Sets a flag, at time `t` (ms), or, without `t`, at the last step's time and before any event not yet handled.
   * @throws ReacherError where the plan has no such flag
   */
  setFlag(flag: F, on: boolean, t?: number): void;
  /** Puts everything to rest as a cancellation, not as a release: the window's focus is gone, or the pad with this index is. */
  lose(what: "focus", t?: number): void;
  lose(what: "pad", t: number | undefined, pad: number): void;
  /** Everything as at the start. What is held moves axes and vectors on, and turns a switch on only when pressed anew. */
  reset(t?: number): void;
  /** Calls `fn` during `step` whenever the switch turns on, turns off or pulses, with the exact moment in ms. Returns what ends it. */
  on(action: NamesOf<K, "switch">, change: "on" | "off" | "pulse", fn: (t: number) => void): Off;
  /** Puts a mode on top, or moves it there. @throws ReacherError where the plan has no such mode */
  enter(mode: string, t?: number): void;
  /** Takes a mode away. @throws ReacherError where the plan has no such mode */
  leave(mode: string, t?: number): void;
  /** Makes an action not live, for a reason: an animation, a cut scene. @throws ReacherError for an unknown action, or a 32nd reason */
  mute(action: keyof K & string, reason: string, t?: number): void;
  /** Takes a reason away, or all of them; with the last the action is live again. @throws ReacherError for an unknown action */
  unmute(action: keyof K & string, reason?: string, t?: number): void;
  /** True once for a press kept by `keepMs`, while the switch's needs hold. @throws ReacherError for an unknown switch */
  take(action: NamesOf<K, "switch">): boolean;
  /** Copies the seat's whole state, into a kept copy where given. @throws ReacherError where that is of another size */
  snapshot(into?: Uint8Array): Uint8Array;
  /** Takes a copied state back; events not yet handled are dropped. @throws ReacherError where it is of another plan */
  restore(snapshot: Uint8Array): void;
  /** Whether a live action of the seat uses this control. */
  uses(control: string): boolean;
}

/** The input layer of a game. What concerns a seat goes to the first one. */
export interface InputLayer<K extends Kinds = Kinds, F extends string = string> extends Seat<K, F> {
  /** The plan as it was read, with all defaults. */
  readonly plan: CheckedPlan;
  readonly counters: Counters;
  /** Takes a raw event; what cannot be used is ignored and counted. */
  feed(event: RawEvent): void;
  /** Carries the layer to the moment `t` (ms) and returns the first seat's reading. */
  step(t: number): Reading<K>;
  /**
   * The moments at which a game of `hz` fixed steps a second has to step to reach `now`, oldest first, `most` at most.
   * The list is used again by the next call.
   */
  fixedSteps(now: number, hz: number, most?: number): readonly number[];
  /** A seat by name. @throws ReacherError where there is none */
  seat(name: string): Seat<K, F>;
  /** Lets recorders see events and changes at their moments. Returns what ends it. */
  watch(watcher: LayerWatcher): Off;
}

/** The state behind a layer's first seat, for the explainer: to be read, never written. */
export function stateBehind(input: InputLayer): SeatState {
  return (input as unknown as { readonly state: SeatState }).state;
}

/** What recorders and explanations see of a layer. */
export interface LayerWatcher {
  /** A raw event is about to be handled, at the time at which it counts. */
  event?(event: Required<RawEvent>): void;
  /** What the game told is about to be handled. */
  flag?(t: number, flag: string, on: boolean): void;
  lost?(t: number, what: "focus" | "pad", pad: number): void;
  reset?(t: number): void;
  mode?(t: number, mode: string, on: boolean): void;
  /** `reason` is undefined where all reasons are taken away. */
  mute?(t: number, action: string, reason: string | undefined, on: boolean): void;
  /** The game took a kept press, at this time, with `take`. */
  took?(t: number, action: string): void;
  /** A switch, axis or vector has changed, at this exact moment. */
  changed?(t: number, action: string): void;
  /** A deadline, by its number in the engine's tables, is about to be handled. */
  due?(deadline: number): void;
  /** The event or deadline at hand has been handled, with all that came of it. */
  settled?(t: number): void;
}

/** Plans that layers were made of before; many layers of one plan share its tables. */
const compiled = new WeakMap<CheckedPlan, Tables>();

/** Makes an input layer of a plan that was read before. `isRaw`: whether devices report a control of this name. */
export function createCheckedLayer(
  plan: CheckedPlan,
  isRaw: (name: string) => boolean = () => true,
): InputLayer {
  let tables = compiled.get(plan);
  if (tables === undefined) {
    tables = compilePlan(plan);
    compiled.set(plan, tables);
  }
  return new Layer(tables, isRaw);
}

const SOLO = "solo";
const MOST_REASONS = 31;

class Layer implements InputLayer {
  readonly plan: CheckedPlan;
  readonly name = SOLO;
  readonly now: Reading;
  readonly counters = { late: 0, ignored: 0 };
  private readonly state: SeatState;
  private readonly pads: PadPlaces;
  private readonly listeners: (((t: number) => void)[] | undefined)[] = [];
  private readonly watchers = new Set<LayerWatcher>();
  private readonly moments: number[] = [];
  /** Reasons of mutes, each a bit of a number. */
  private readonly reasons: string[] = [];
  private recentName = "";
  private recent: ChannelTable | undefined;
  private olderName = "";
  private older: ChannelTable | undefined;

  constructor(
    private readonly tables: Tables,
    private readonly isRaw: (name: string) => boolean,
  ) {
    this.plan = tables.plan;
    this.state = new SeatState(tables);
    this.pads = new PadPlaces(tables.places);
    this.now = makeReading(this.state);
  }

  get lastDevice(): Device | null {
    return DEVICES[this.state.i[HeadInt.LastDevice]!]!;
  }

  feed(event: RawEvent): void {
    const { control } = event;
    // A stick's two axes come again and again, so the last two channels are remembered.
    const channel =
      control === this.recentName
        ? this.recent
        : control === this.olderName
          ? this.older
          : this.look(control);
    const t = +event.t;
    const value = +event.value;
    if (channel === undefined || value !== value || !(t - t === 0)) {
      // A control that nobody bound is no fault.
      if (channel !== undefined || !this.isRaw(control)) this.counters.ignored++;
      return;
    }
    let what = channel.what;
    if (channel.places > 1) {
      const place = this.pads.placeOf(event.pad === undefined ? 0 : event.pad);
      if (place < 0) {
        this.counters.ignored++;
        return;
      }
      what |= place << Bits.Kind;
    }
    const clamped = value > 1 ? 1 : value < channel.least ? channel.least : value;
    if (this.state.addEvent(t, what, clamped)) this.counters.late++;
  }

  /** The channel of a control that was not fed lately. */
  private look(control: string): ChannelTable | undefined {
    this.olderName = this.recentName;
    this.older = this.recent;
    this.recentName = control;
    const id = this.tables.channels.get(control);
    this.recent = id === undefined ? undefined : this.tables.channel[id];
    return this.recent;
  }

  step(t: number): Reading {
    this.state.step(+t);
    return this.now;
  }

  fixedSteps(now: number, hz: number, most = 15): readonly number[] {
    const { moments } = this;
    moments.length = 0;
    const last = Math.floor((now * hz) / 1000);
    const begun = this.state.f[Head.Now]! > -Infinity;
    const first = begun ? Math.floor((this.state.f[Head.Now]! * hz) / 1000 + 1e-6) + 1 : last;
    for (let n = Math.max(first, last - most + 1); n <= last; n++) moments.push((n * 1000) / hz);
    return moments;
  }

  seat(name: string): Seat {
    if (name !== SOLO)
      throw new ReacherError(`there is no seat ${JSON.stringify(name)}; this plan has one, ${SOLO}`);
    return this;
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
    const place = this.pads.leave(pad);
    if (place >= 0) this.told(Kind.Lose, place, pad, t);
  }

  reset(t?: number): void {
    this.told(Kind.Reset, 0, 0, t);
  }

  private told(kind: number, index: number, value: number, t: number | undefined): void {
    if (t === undefined) this.state.addTold((index << Bits.Kind) | kind, value);
    else if (!(t - t === 0))
      throw new ReacherError(`${t} is no time; give milliseconds on the clock of performance.now()`);
    else if (this.state.addEvent(t, (index << Bits.Kind) | kind, value)) this.counters.late++;
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
    const took = takePress(this.state, this.numberOf("switch", action, this.tables.switch));
    if (took) for (const watcher of this.watchers) watcher.took?.(this.state.f[Head.Now]!, action);
    return took;
  }

  on(action: string, change: "on" | "off" | "pulse", fn: (t: number) => void): Off {
    const id = this.numberOf("switch", action, this.tables.switch);
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
    if (fns !== undefined) for (const fn of fns) fn(this.state.f[Head.Now]!);
  };

  private numberOf(what: string, name: string, known: readonly { readonly name: string }[]): number {
    const number = known.findIndex((one) => one.name === name);
    if (number < 0) throw unknownName(what, name, known);
    return number;
  }

  snapshot(into?: Uint8Array): Uint8Array {
    const { bytes } = this.state;
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
    const { bytes, i, tables } = this.state;
    const at = i.byteOffset + HeadInt.Print * 4;
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

  uses(control: string): boolean {
    return this.tables.used.has(control) && this.isSeen(control);
  }

  /** Whether any live action sees this control, or a part of it. */
  private isSeen(control: string): boolean {
    const { action, channel, liveAt } = this.tables;
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

  watch(watcher: LayerWatcher): Off {
    this.watchers.add(watcher);
    this.state.watcher = this.seatWatcher;
    return () => {
      this.watchers.delete(watcher);
      if (this.watchers.size === 0) this.state.watcher = null;
    };
  }

  private readonly seatWatcher: Watcher = {
    handled: (t, kind, index, value) => {
      for (const watcher of this.watchers) {
        if (kind === Kind.Control) {
          const { name, places } = this.tables.channel[index >> Bits.Place]!;
          const pad = places > 1 ? this.pads.padAt(index & Bits.PlaceMask) : 0;
          watcher.event?.({ t, control: name, value, pad });
        } else if (kind === Kind.Flag) watcher.flag?.(t, this.plan.flags[index]!.name, value === 1);
        else if (kind === Kind.Lose) watcher.lost?.(t, index < 0 ? "focus" : "pad", value);
        else if (kind === Kind.Reset) watcher.reset?.(t);
        else if (kind === Kind.Enter || kind === Kind.Leave)
          watcher.mode?.(t, this.plan.modes[index]!.name, kind === Kind.Enter);
        else
          watcher.mute?.(
            t,
            this.plan.actions[index]!.name,
            value < 0 ? undefined : this.reasons[31 - Math.clz32(value)],
            kind === Kind.Mute,
          );
      }
    },
    changed: (t, action) => {
      for (const watcher of this.watchers) watcher.changed?.(t, this.plan.actions[action]!.name);
    },
    due: (deadline) => {
      for (const watcher of this.watchers) watcher.due?.(deadline);
    },
    settled: (t) => {
      for (const watcher of this.watchers) watcher.settled?.(t);
    },
  };
}

function unknownName(what: string, name: string, known: readonly { readonly name: string }[]): ReacherError {
  return new ReacherError(
    `the plan has no ${what} ${JSON.stringify(name)}; it has ${known.map((one) => one.name).join(", ") || "none"}`,
  );
}

/**
 * Which pad stands where. A lost pad keeps its place until another needs it: when it comes back, or when a snapshot from
 * before is restored, it is where it was.
 */
class PadPlaces {
  private readonly pads: Int32Array;
  private readonly lost: Uint8Array;

  constructor(places: number) {
    this.pads = new Int32Array(places).fill(-1);
    this.lost = new Uint8Array(places).fill(1);
  }

  /** The place of this pad; where it has none, one that nobody had, then a lost pad's; -1 where all are taken. */
  placeOf(pad: number): number {
    const { pads, lost } = this;
    if (!(pad >= 0)) return -1;
    for (let n = 0; n < pads.length; n++) {
      if (pads[n] === pad) {
        lost[n] = 0;
        return n;
      }
    }
    if (!Number.isInteger(pad)) return -1;
    let place = pads.indexOf(-1);
    if (place < 0) place = lost.indexOf(1);
    if (place < 0) return -1;
    pads[place] = pad;
    lost[place] = 0;
    return place;
  }

  padAt(place: number): number {
    return this.pads[place]!;
  }

  /** Gives the pad's place free and returns it, -1 where it had none. */
  leave(pad: number): number {
    const place = this.pads.indexOf(pad);
    if (place >= 0) this.lost[place] = 1;
    return place;
  }
}
