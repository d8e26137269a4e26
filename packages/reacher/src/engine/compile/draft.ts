/**
 * The tables of a plan while they are made: what is given away of the state, and the channels and signals that actions share.
 * In: controls and sources by name. Out: their numbers. May change: itself, which grows.
 */
import type { Control } from "../../controls/catalogue.js";
import type { CheckedAction, CheckedPlan, Source, Word } from "../../plan/checked.js";
import { HeadInt, Room, SignalInt } from "../layout.js";
import { listOf } from "../lists.js";
import { Bits, Kind } from "../queue.js";
import {
  DEVICES,
  Due,
  End,
  Way,
  type ActionTable,
  type ChannelTable,
  type DeadlineTable,
  type EndTable,
  type EntryTable,
  type GestureTable,
  type Hideable,
  type MoverTable,
  type SignalTable,
  type StickTable,
  type SwitchTable,
  type TurnTable,
} from "../tables.js";
import type { Growing } from "./ways.js";

/** A plan without seats takes up to this many pads at once. */
export const PADS_TOGETHER = 4;

/** More pixels than any mouse moves by at once: a whole number, so that all channels are laid out alike. */
export const FURTHEST = 1e9;

/** The ends of movers by the names of directions. */
export const ENDS = {
  minus: End.Left,
  plus: End.Right,
  left: End.Left,
  right: End.Right,
  down: End.Down,
  up: End.Up,
};

export class Draft {
  /** How many ints of the state are given away. */
  ints = HeadInt.End as number;
  readonly channels = new Map<string, number>();
  readonly used = new Set<string>();
  readonly channel: Growing<ChannelTable>[] = listOf();
  readonly signal: Growing<SignalTable>[] = listOf();
  readonly signals = new Map<string, number>();
  readonly stick: Growing<StickTable>[] = listOf();
  readonly switch: Growing<SwitchTable>[] = listOf();
  readonly mover: Growing<MoverTable>[] = listOf();
  readonly turn: TurnTable[] = listOf();
  readonly entry: Growing<EntryTable>[] = listOf();
  readonly gesture: Growing<GestureTable>[] = listOf();
  readonly action: Growing<ActionTable>[];
  /** Deadlines in the plan's order, and the ends of windows, which come after them. */
  readonly due: DeadlineTable[] = [];
  readonly windows: DeadlineTable[] = [];
  /** How many deadlines there are that are no ends of windows. */
  readonly dueCount: number;
  readonly facts: Map<string, number>;
  /** By fact: the movers whose pace asks for it, and the switches that need it. */
  readonly pacedBy: number[][];
  readonly neededBy: number[][];

  /** Where facts and live flags stand. */
  readonly factsAt: number;
  readonly liveAt: number;
  /** How many pads the seat takes at once. */
  readonly places: number;
  readonly actions: readonly CheckedAction[];
  /** Gestures that other presses break, once every signal is known. */
  readonly broken: { gesture: GestureTable; by: "opposite" | "any"; source: Source }[] = [];

  constructor(
    readonly plan: CheckedPlan,
    readonly slots: readonly string[],
  ) {
    this.places = plan.seated ? 1 : PADS_TOGETHER;
    this.actions = plan.actions.map((action) => within(action, slots));
    this.facts = new Map([...plan.flags, ...plan.actions].map(({ name }, fact) => [name, fact]));
    this.factsAt = this.takeInts(this.facts.size);
    this.liveAt = this.takeInts(plan.actions.length);
    this.pacedBy = [...this.facts].map(() => []);
    this.neededBy = [...this.facts].map(() => []);
    this.dueCount = this.actions.reduce((count, action) => count + dueCount(action), 0);
    const modes = plan.modes.map(({ name }) => name);
    this.action = this.actions.map((action) => ({
      modes: action.in.map((name) => modes.indexOf(name)),
      switch: -1,
      mover: -1,
      turn: -1,
      hideable: listOf(),
    }));
  }

  addDue(id: number, deadline: DeadlineTable): number {
    this.due[id] = deadline;
    return id;
  }

  addWindow(deadline: DeadlineTable): number {
    return this.dueCount + this.windows.push(deadline) - 1;
  }

  /** Something of an action that a mode above may hide. */
  hideable(action: number, i: number, signals: readonly number[], what: Partial<Hideable>): void {
    const channels = signals.map((signal) => this.signal[signal]!.channel).filter((channel) => channel >= 0);
    this.action[action]!.hideable.push({
      i,
      channels,
      entry: undefined,
      gesture: undefined,
      end: undefined,
      stick: -1,
      ...what,
    });
  }

  hideChannels(action: number, i: number, channels: readonly number[], stick: number): void {
    const nothing = { entry: undefined, gesture: undefined, end: undefined };
    this.action[action]!.hideable.push({ i, channels, stick, ...nothing });
  }

  /** Facts asked for by `asker`, who is told when they change. */
  words(words: readonly Word[], askers: number[][], asker: number) {
    return listOf(
      words.map(({ name, not }) => {
        const fact = this.facts.get(name)!;
        if (!askers[fact]!.includes(asker)) askers[fact]!.push(asker);
        return { fact, at: this.factsAt + fact, truth: not ? 0 : 1 };
      }),
    );
  }

  signalOf(source: Source): Growing<SignalTable> {
    const key = "control" in source ? `${source.name} ${source.press} ${source.release}` : source.name;
    const known = this.signals.get(key);
    if (known !== undefined) return this.signal[known]!;
    const id = this.signal.length;
    const i = this.takeInts(SignalInt.Size);
    const f = this.takeFloats(1);
    const lists = {
      entries: listOf<EntryTable>(),
      ends: listOf<EndTable>(),
      gestures: listOf<GestureTable>(),
      alls: listOf<GestureTable>(),
      breaks: listOf<GestureTable>(),
      movesOnly: false,
      long: false,
      ruled: true,
      direct: false,
    };
    this.signals.set(key, id);
    if ("control" in source) {
      const { control, press, release } = source;
      const channel = this.channelOf(control.parts[0]!, control);
      const device = DEVICES.indexOf(control.device);
      const half = control.family === "half";
      this.signal.push({
        id,
        sign: control.sign,
        press,
        release,
        i,
        device,
        control: control.name,
        channel,
        half,
        f,
        ...lists,
      });
      this.channel[channel]!.signals.push(this.signal[id]!);
      return this.signal[id]!;
    }
    const signal: Growing<SignalTable> = {
      id,
      sign: 1,
      press: 0,
      release: 0,
      i,
      device: 0,
      control: source.name,
      channel: -1,
      half: false,
      f,
      ...lists,
    };
    this.signal.push(signal);
    this.joinDirection(signal, source.action, ENDS[source.end]);
    return signal;
  }

  /** Lets the keys and sticks of a vector's direction drive a signal. */
  joinDirection(signal: SignalTable, action: string, end: number): void {
    const mover = this.mover.findIndex(({ name }) => name === action);
    for (const { ends } of this.signal) {
      for (const one of ends as Growing<EndTable>[])
        if (one.mover === mover && one.end === end) one.direction = signal;
    }
    for (const stick of this.stick) {
      if (stick.mover !== mover) continue;
      const signals = listOf(stick.directionSignals ?? [undefined, undefined, undefined, undefined]);
      signals[end] = signal;
      stick.directionSignals = signals;
    }
  }

  /** The channel of a control's part. */
  channelOf(name: string, control: Control): number {
    this.used.add(control.name).add(name);
    const known = this.channels.get(name);
    if (known !== undefined) return known;
    const places = control.device === "pad" ? this.places : 1;
    const isMouse = control.family === "motion";
    const isAxis = !isDigital(control) && control.family !== "trigger" && !isMouse;
    const device = DEVICES.indexOf(control.device);
    const f = this.takeFloats(places);
    const least = isMouse ? -FURTHEST : isAxis ? -1 : 0;
    const what = (this.channel.length << (Bits.Place + Bits.Kind)) | Kind.Control;
    const id = this.channel.push({
      name,
      device,
      isAxis,
      mice: listOf(),
      least,
      most: isMouse ? FURTHEST : 1,
      what,
      other: -1,
      otherWhat: -1,
      otherF: -1,
      special: isMouse,
      f,
      places,
      bounce: this.bounceOf(name, control, what, places),
      signals: listOf(),
      sticks: [],
      analogEnds: listOf(),
      way: Way.Steps,
      laneSticks: listOf(),
      laneMovers: listOf(),
    });
    this.channels.set(name, id - 1);
    return id - 1;
  }

  /** The first of a digital control's deadlines for releases that are held back, or -1. A notch of the wheel is no press of a hand. */
  bounceOf(name: string, control: Control, what: number, places: number): number {
    if (this.plan.bounceMs === 0 || !isDigital(control) || name.startsWith("Wheel")) return -1;
    const first = this.dueCount + this.windows.length;
    for (let place = 0; place < places; place++)
      this.addWindow({ kind: Due.Bounce, target: what | (place << Bits.Kind) });
    return first;
  }

  takeFloats(count: number): number {
    const first = Math.ceil(this.ints / Room.IntsInFloat);
    this.ints = (first + count) * Room.IntsInFloat;
    return first;
  }

  takeInts(count: number): number {
    this.ints += count;
    return this.ints - count;
  }
}

/** How many deadlines of its own an action has that are no ends of windows. */
export function dueCount(action: CheckedAction): number {
  if (action.kind === "turn") return 0;
  if (action.kind !== "switch")
    return (action.kind === "vector" ? 1 : 0) + (action.ease === undefined ? 0 : 1);
  return action.entries.filter(({ kind }) => kind === "long").length + (action.repeat === undefined ? 0 : 1);
}

/** Down or up, with nothing between that counts. */
export function isDigital({ family }: Control): boolean {
  return family === "key" || family === "button";
}

/** An action with the entries that stand in these slots. */
function within(action: CheckedAction, slots: readonly string[]): CheckedAction {
  const mine = ({ slot }: { readonly slot: string }) => slots.includes(slot);
  if (action.kind === "switch") return { ...action, entries: action.entries.filter(mine) };
  if (action.kind === "turn")
    return { ...action, sticks: action.sticks.filter(mine), mice: action.mice.filter(mine) };
  return { ...action, sticks: action.sticks.filter(mine), ends: action.ends.filter(mine) };
}
