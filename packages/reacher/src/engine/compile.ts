/** From a checked plan to tables: each feature makes its own rules, every rule takes its cells and listens to its signals. */
import type { Control } from "../controls/catalogue.js";
import { numberOf } from "../controls/numbers.js";
import type {
  CheckedAction,
  CheckedEntry,
  CheckedPlan,
  CheckedSwitch,
  Source,
  Word,
} from "../plan/checked.js";
import { ReacherError } from "../plan/findings.js";
import { Cells, type RuleCells } from "./cells.js";
import { Conditions, type Condition } from "./conditions.js";
import { fingerprint } from "./fingerprint.js";
import { listOf } from "./lists.js";
import { Call, Channel, Signal, type Listener, type StickReader } from "./signals.js";
import type { SeatState } from "./state.js";
import { MOST_REASONS } from "./reasons.js";
import {
  DEVICES,
  PAD,
  type Action,
  type ChordRule,
  type MovementRule,
  type SourceRule,
  type SwitchRule,
  type Tables,
  type Worked,
} from "./tables.js";
import { Timers } from "./timers.js";

/** A plan without seats takes up to this many pads at once. */
export const PADS_TOGETHER = 4;

/** More pixels than any mouse moves by at once. */
const FURTHEST = 1e9;

type Maker<What> = (compiler: Compiler, what: What, number: number) => void;

/** What a bundle can do: each feature knows what it makes of a plan. A game may ship only those that its plan uses. */
export interface Feature {
  /** Before anything is made. */
  readonly open?: (compiler: Compiler) => void;
  readonly actions?: { readonly [kind in CheckedAction["kind"]]?: Maker<never> };
  readonly entries?: { readonly [kind in EntryKind]?: Maker<never> };
  /** What a switch may have beside entries, by its field. */
  readonly options?: readonly SwitchOption[];
  /** When every rule is there. */
  readonly link?: (compiler: Compiler) => void;
}

/** A kind of entry; `waits` is a plain one that waits for gestures. */
export type EntryKind = CheckedEntry["kind"] | "waits";

/** An entry of a switch, and whose it is. */
export interface EntryOf<Owner, Kind extends CheckedEntry["kind"]> {
  readonly owner: Owner;
  readonly entry: CheckedEntry & { readonly kind: Kind };
}

/** A field of a switch: whether an action asks for it, and what is made of it. */
export interface SwitchOption {
  readonly name: string;
  readonly isAsked: (action: CheckedSwitch) => boolean;
  readonly make: (
    compiler: Compiler,
    owner: never,
    action: CheckedSwitch,
    cells: RuleCells,
    number: number,
  ) => void;
}

/** A gesture, as entries that wait for it see it. */
export interface Rival {
  readonly owner: { readonly name: string };
  /** Whether it takes the press that completes it. */
  readonly takes: boolean;
  readonly signals: readonly Signal[];
  /** Where it stands whether it has fired (bytes). */
  readonly fired: number;
  /** Until when it may still claim the press that it saw last; -Infinity where it cannot. */
  claimEnd(s: SeatState): number;
  /** Entries whose waiting presses it may claim. */
  readonly claims: { forget(s: SeatState): void }[];
}

/** An entry or a gesture, and the switch that it presses. */
interface Owned extends SourceRule {
  readonly owner: { readonly sources: SourceRule[]; keepBlips(): void };
}

/** A stick, one end of which presses a direction. */
export interface GivingStick {
  readonly stick: {
    readonly controls: readonly number[];
    tiltTo(s: Pick<SeatState, "f">, end: number): number;
  };
  readonly end: number;
}

/** The rules of a plan while they are made. */
export class Compiler implements Tables {
  readonly cells = new Cells();
  readonly timers = new Timers(this.cells);
  readonly channels: (Channel | undefined)[] = [];
  readonly bound: Channel[] = listOf();
  readonly byName = new Map<string, Channel>();
  readonly named = new Map<string, Set<number>>();
  readonly users = new Map<number, { liveAt: number; hiddenAt: number }[]>();
  readonly signals: Signal[] = listOf();
  readonly sticks: (Worked & { recount(s: SeatState): void })[] = listOf();
  readonly movements: MovementRule[] = listOf();
  readonly turns: Worked[] = listOf();
  readonly switches: SwitchRule[] = listOf();
  readonly ranked: SwitchRule[] = listOf();
  readonly actions: Action[] = [];
  readonly readings: Tables["readings"][number][] = [];
  readonly waiting: Tables["waiting"][number][] = listOf();
  readonly conditions = new Map<string, Condition>();
  readonly commands: Tables["commands"][number][] = [];
  readonly resets: { reset(s: SeatState): void }[] = listOf();
  readonly recounts: { recount(s: SeatState): void }[] = listOf();
  /** What can only be done when every action is made. */
  readonly links: (() => void)[] = [];
  readonly gestures: Rival[] = listOf();
  chords: ChordRule | null = null;
  /** Tells every signal late: what is told early is told so only where the order shows nowhere. */
  tellsLater = false;
  readonly print: number;
  readonly started: number;
  readonly printAt: number;
  readonly stamp: number;
  readonly blipping: number;
  readonly lastDevice: number;
  readonly turn: number;
  readonly reasons: number;
  /** How often any direction was pressed: their order decides between opposite ones (int). */
  readonly presses: number;
  /** How many pads are kept apart: a plan without seats takes any pad, and puts them together. */
  readonly places: number;
  /** Whether a mode may hide a control from the modes below. */
  readonly hides: boolean;
  private readonly groups = new Map<string, unknown[]>();
  private readonly bySource = new Map<string, Signal>();
  /** Directions, with the signals of the controls that give them, and the sticks. */
  private readonly givers = new Map<
    Signal,
    { readonly signals: Set<Signal>; readonly sticks: GivingStick[] }
  >();
  /** How a movement's direction becomes a signal. */
  private readonly directions = new Map<string, (end: string, signal: Signal) => void>();

  constructor(
    readonly plan: CheckedPlan,
    readonly slots: readonly string[],
    private readonly features: readonly Feature[],
  ) {
    this.places = plan.seated ? 1 : PADS_TOGETHER;
    this.hides = plan.modes.some(({ covers }) => covers === "same");
    this.print = fingerprint(JSON.stringify([plan, slots]));
    const head = this.cells.rule("seat");
    this.stamp = head.float("stamp", 0, 3);
    this.printAt = head.int("print", this.print);
    this.lastDevice = head.int("lastDevice");
    this.turn = head.int("turn");
    this.presses = head.int("presses");
    this.blipping = head.int("blipping");
    this.started = head.byte("started");
    for (const { open } of features) open?.(this);
    const actions = plan.actions.map((action) => within(action, slots));
    // Movements first: switches may use their directions. Their timers keep the plan's order all the same.
    for (const isFirst of [true, false])
      actions.forEach((action, number) => {
        if ((action.kind !== "switch") === isFirst)
          this.make("actions", action.kind)(this, action as never, number);
      });
    for (const link of this.links) link();
    for (const { link } of features) link?.(this);
    this.rank();
    this.findUsers();
    this.reasons = this.cells.rule("reasons").int("names", 0, MOST_REASONS);
    this.timers.close();
    this.recounts.unshift(this.timers, ...this.signals);
    const later = this.orderedControls();
    for (const signal of this.signals) {
      signal.controls = this.controlsOf(signal);
      signal.isHeardLater = this.tellsLater || signal.controls.some((control) => later.has(control));
      signal.reviews =
        signal.breaks.some(({ claims }) => claims.length > 0) ||
        (signal.strokes.length > 0 && this.waiting.length > 0);
      signal.isHeard =
        signal.gestures.length + signal.entries.length > 0 ||
        (this.chords !== null && signal.channel !== null && signal.isHeardLater);
    }
    for (const one of this.bound)
      one.isStickAlone = one.other !== null && [one, one.other].every(isOnlyStick);
  }

  get usesPads(): boolean {
    return this.bound.some(({ device }) => device === PAD);
  }

  /** Live and hidden follow from modes and mutes; whoever knows these takes this over. */
  refresh: Tables["refresh"] = () => {};

  /** The maker of what the plan asks for, of whichever feature has it. */
  make(group: "actions" | "entries", kind: string): Maker<never> {
    for (const feature of this.features) {
      const maker = feature[group]?.[kind as never] as Maker<never> | undefined;
      if (maker !== undefined) return maker;
    }
    throw missing(kind);
  }

  /** Makes what a switch has beside its entries. */
  makeOptions(owner: object, action: CheckedSwitch, cells: RuleCells, number: number): void {
    for (const { options } of this.features)
      for (const option of options ?? [])
        if (option.isAsked(action)) option.make(this, owner as never, action, cells, number);
  }

  /** Where it stands whether an action is live. */
  live(cells: RuleCells): number {
    return cells.byte("live", this.plan.seated && this.slots.length === 0 ? 0 : 1);
  }

  /** Where it stands whether a part is hidden. */
  hidden(cells: RuleCells): number {
    return this.hides ? cells.byte("hidden") : NEVER;
  }

  /** An action, with what makes its reading. */
  addAction(action: Action, reading: Tables["readings"][number]): void {
    this.actions[action.number] = action;
    this.readings[action.number] = reading;
  }

  /** A plain entry of a switch: told after the gestures of its signal. */
  addEntry(entry: Listener & Owned, signal: Signal): void {
    this.addSource(entry);
    signal.entries.push(new Call(entry));
  }

  private addSource(source: Owned): void {
    const { owner, signals } = source;
    owner.sources.push(source);
    this.recounts.push(source);
    if (signals.some(({ channel }) => channel !== null && channel.isAxis)) owner.keepBlips();
  }

  /** A gesture of a switch. */
  addGesture(gesture: Rival & Listener & Owned): void {
    this.gestures.push(gesture);
    this.addSource(gesture);
    for (const signal of new Set(gesture.signals)) signal.gestures.push(new Call(gesture));
  }

  /** The switches with one `oneOf`. */
  groupOf<Member>(name: string): Member[] {
    let group = this.groups.get(name);
    if (group === undefined) this.groups.set(name, (group = listOf()));
    return group as Member[];
  }

  /** Conditions by the plan's words; `ask` is called with each when all are known. */
  words(words: readonly Word[], ask: (condition: Condition) => void): Conditions {
    const own = new Conditions();
    this.links.push(() => {
      own.link(words, this.conditions);
      for (const condition of new Set(own.all)) ask(condition);
    });
    return own;
  }

  /** A movement lets its directions be pressed. */
  addDirections(action: string, use: (end: string, signal: Signal) => void): void {
    this.directions.set(action, use);
  }

  /** The signal of a control or of a direction. */
  signal(source: Source): Signal {
    const key = "control" in source ? `${source.name} ${source.press} ${source.release}` : source.name;
    const known = this.bySource.get(key);
    if (known !== undefined) return known;
    const cells = this.cells.rule(`signal ${key}`);
    const id = this.signals.length;
    let signal: Signal;
    if ("control" in source) {
      const { control, press, release } = source;
      const channel = this.channel(control.parts[0]!, control);
      signal = new Signal(cells, id, source.name, channel, control.sign, press, release);
      channel.signals.push(signal);
    } else {
      signal = new Signal(cells, id, source.name, null, 1, 0, 0);
      this.directions.get(source.action)!(source.end, signal);
    }
    this.signals.push(signal);
    this.bySource.set(key, signal);
    return signal;
  }

  /** A control gives an end of a movement: told in the same event, so that the direction is pressed in it. */
  addEnd(signal: Signal, end: Listener): void {
    signal.ends.push(new Call(end));
  }

  /** A direction is read off this control, as a press or as a tilt. */
  giveDirection(direction: Signal, by: Signal | GivingStick): void {
    let own = this.givers.get(direction);
    if (own === undefined) this.givers.set(direction, (own = { signals: new Set(), sticks: [] }));
    if (by instanceof Signal) own.signals.add(by);
    else own.sticks.push(by);
  }

  /** Something reads these controls itself: to be called once for each of several pads, in their order. */
  readBy(reader: StickReader, controls: readonly number[]): void {
    for (const control of controls) this.channels[control]!.sticks.push(reader);
  }

  /** The sticks that a direction is pressed by, and to which of their ends. */
  sticksOf(direction: Signal): readonly GivingStick[] {
    return this.givers.get(direction)?.sticks ?? [];
  }

  /** The signals of the controls that a direction is pressed by. */
  giversOf(direction: Signal): ReadonlySet<Signal> | undefined {
    return this.givers.get(direction)?.signals;
  }

  /** The controls that a signal is read off, by their numbers. */
  controlsOf(signal: Signal): readonly number[] {
    if (signal.channel !== null) return [signal.channel.id];
    const { signals = [], sticks = [] } = this.givers.get(signal) ?? {};
    const tilted = new Set(sticks.flatMap(({ stick }) => stick.controls));
    return [...[...signals].map(({ channel }) => channel!.id), ...tilted];
  }

  /** The channel of a control's part. */
  channel(name: string, control: Control): Channel {
    const id = numberOf(name);
    for (const known of new Set([name, control.name]))
      this.named.set(known, (this.named.get(known) ?? new Set()).add(id));
    const known = this.channels[id];
    if (known !== undefined) return known;
    const { family, device } = control;
    const isMouse = family === "motion";
    const isAxis = !isDigital(control) && family !== "trigger" && !isMouse;
    const least = isMouse ? -FURTHEST : isAxis ? -1 : 0;
    const places = device === "pad" ? this.places : 1;
    const channel = new Channel(
      this.cells.rule(`channel ${name}`),
      name,
      id,
      DEVICES.indexOf(device),
      isDigital(control),
      isAxis,
      least,
      isMouse ? FURTHEST : 1,
      places,
      this.lastDevice,
    );
    while (this.channels.length < id) this.channels.push(undefined);
    this.channels[id] = channel;
    this.byName.set(name, channel);
    this.bound.push(channel);
    return channel;
  }

  /** Controls whose presses something takes or claims: all that they press is told in the order of the rules. */
  private orderedControls(): Set<number> {
    const ordered = [...this.waiting, ...this.gestures.filter(({ takes }) => takes)];
    const controls = ordered.flatMap(({ signals }) => signals.flatMap((signal) => this.controlsOf(signal)));
    // The axes of a pad may move in one event.
    const axes = this.bound.filter(({ isAxis }) => isAxis).map(({ id }) => id);
    return new Set(controls.some((control) => axes.includes(control)) ? [...controls, ...axes] : controls);
  }

  private findUsers(): void {
    for (const { parts, liveAt } of this.actions)
      for (const { controls, hiddenAt } of parts)
        for (const control of controls) {
          const own = this.users.get(control);
          if (own === undefined) this.users.set(control, [{ liveAt, hiddenAt }]);
          else own.push({ liveAt, hiddenAt });
        }
  }

  /** Those that others need come first, else the plan's order. */
  private rank(): void {
    const byCondition = new Map(this.switches.map((one) => [this.conditions.get(one.name)!, one]));
    const needed = new Map<SwitchRule, SwitchRule[]>();
    for (const [condition, one] of byCondition)
      for (const other of condition.needing as readonly { readonly rank: number }[]) {
        const own = needed.get(other as SwitchRule) ?? [];
        needed.set(other as SwitchRule, own);
        own.push(one);
      }
    const seen = new Set<SwitchRule>();
    for (const begin of this.switches) {
      // A chain of needs may be as long as the plan: it is walked, not called through.
      const path = [begin];
      while (path.length > 0) {
        const one = path[path.length - 1]!;
        const next = seen.has(one) ? undefined : needed.get(one)?.find((other) => !seen.has(other));
        if (next !== undefined) {
          path.push(next);
          continue;
        }
        path.pop();
        if (seen.has(one)) continue;
        seen.add(one);
        (one as { rank: number }).rank = this.ranked.push(one) - 1;
      }
    }
  }
}

/** No part of this plan is ever hidden. */
export const NEVER = -1;

/** A plan's tables for a seat with these slots. @throws ReacherError where the plan needs a feature that is not among these */
export function compile(plan: CheckedPlan, slots: readonly string[], features: readonly Feature[]): Tables {
  return new Compiler(plan, slots, features);
}

function missing(kind: string): ReacherError {
  return new ReacherError(
    `the plan uses ${kind}, which is not among the features of this layer; add it, or take all`,
  );
}

/** Down or up, with nothing between that counts. */
export function isDigital({ family }: Control): boolean {
  return family === "key" || family === "button";
}

function isOnlyStick({ signals, movements, filter, sticks, other }: Channel): boolean {
  return signals.length + movements.length === 0 && filter === null && sameList(sticks, other!.sticks);
}

function sameList(one: readonly unknown[], other: readonly unknown[]): boolean {
  return one.length === other.length && one.every((item, n) => item === other[n]);
}

/** An action with the entries that stand in these slots. */
function within(action: CheckedAction, slots: readonly string[]): CheckedAction {
  const mine = ({ slot }: { readonly slot: string }) => slots.includes(slot);
  if (action.kind === "switch") return { ...action, entries: action.entries.filter(mine) };
  if (action.kind === "turn")
    return { ...action, sticks: action.sticks.filter(mine), mice: action.mice.filter(mine) };
  return { ...action, sticks: action.sticks.filter(mine), ends: action.ends.filter(mine) };
}
