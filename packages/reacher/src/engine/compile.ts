/** Compiles a checked plan into tables: each feature makes its own rules, and every rule takes its cells and listens to its signals. */
import type {
  CheckedAction,
  CheckedEntry,
  CheckedMovement,
  CheckedPlan,
  CheckedSwitch,
  ResultSource,
  Word,
} from "../plan/checked.js";
import { controlsOf } from "../controls/ownControls.js";
import { ReacherError } from "../plan/errors.js";
import type { Cells, RuleCells } from "./cells.js";
import { Condition, Conditions } from "./conditions.js";
import { printOf } from "./fingerprint.js";
import { listOf } from "./lists.js";
import { rank } from "./rank.js";
import type { Spot } from "./situations/spots.js";
import type { Listener, Signal } from "./signals.js";
import type { SeatState } from "./state.js";
import { MOST_REASONS } from "./reasons.js";
import {
  Live,
  PAD,
  type Action,
  type ChordRule,
  type KeeperRule,
  type NumberRule,
  type MovementRule,
  type PacedRule,
  type SourceRule,
  type SwitchRule,
  type Tables,
  type Updatable,
} from "./tables.js";
import { Timers } from "./timers.js";
import { Wiring, isOnlyStick } from "./wiring.js";
import { PADS_TOGETHER } from "./meanings.js";

type Maker<What> = (compiler: Compiler, what: What, number: number) => void;

/** A part of the language, with the makers of its rules. A game may ship only the features that its plan uses. */
export interface Feature {
  /** Runs before any rule is made. */
  readonly open?: (compiler: Compiler) => void;
  readonly actions?: { readonly [kind in CheckedAction["kind"]]?: Maker<never> };
  readonly entries?: { readonly [kind in EntryKind]?: Maker<never> };
  /** What a switch may have besides entries, by field. */
  readonly options?: readonly SwitchOption[];
  /** What a movement may have besides its ends, by field. */
  readonly movementOptions?: readonly MovementOption[];
  /** Makes what raises a signal of an axis or a vector as it comes out. */
  readonly results?: (
    compiler: Compiler,
    source: ResultSource,
    signal: Signal,
  ) => { condition: Condition | null };
  /** Makes the condition that another has been so for a while; `order`: its timer's. */
  readonly lasting?: (
    compiler: Compiler,
    base: Condition,
    word: Word,
    name: string,
    order: number,
  ) => Condition;
  /** Runs when every rule exists. */
  readonly link?: (compiler: Compiler) => void;
}

/** A kind of entry; `waits` is a plain one that waits for gestures. */
export type EntryKind = CheckedEntry["kind"] | "waits";

/** An entry of a switch, and its owner. */
export interface EntryOf<Owner, Kind extends CheckedEntry["kind"]> {
  readonly owner: Owner;
  readonly entry: CheckedEntry & { readonly kind: Kind };
}

/** An optional field of a switch: whether an action uses it, and the maker of its rule. */
export interface SwitchOption {
  readonly name: string;
  readonly appliesTo: (action: CheckedSwitch) => boolean;
  readonly make: (
    compiler: Compiler,
    owner: never,
    action: CheckedSwitch,
    cells: RuleCells,
    number: number,
  ) => void;
}

/** An optional field of an axis or a vector: whether an action uses it, and the maker of its rule. */
export interface MovementOption {
  readonly name: string;
  readonly appliesTo: (action: CheckedMovement) => boolean;
  readonly make: (compiler: Compiler, owner: never, action: CheckedMovement, number: number) => void;
}

/** A gesture, as seen by the entries that wait for it. */
export interface ClaimingGesture {
  readonly owner: { readonly name: string };
  /** Whether it takes the press that completes it. */
  readonly consumesPress: boolean;
  readonly signals: readonly Signal[];
  /** The cell that says whether it has fired (byte), and the event in which it did so (int), which is kept from `keepEvent` on. */
  readonly fired: number;
  readonly firedIn: number;
  keepEvent(eventNumber: number): void;
  /** Until when it may still claim the press of a signal that so many newer ones have followed; -Infinity if it cannot. */
  claimEnd(s: SeatState, signal: Signal, newer: number): number;
  /** An entry has let go the press that it might have claimed: an event that is late for its window no longer finds that. */
  lapse(s: SeatState, signal: Signal, newer: number): void;
  /** Entries whose waiting presses it may claim. */
  readonly claims: Claimed[];
}

/** An entry whose presses wait for gestures. */
export interface Claimed {
  readonly signal: Signal;
  /** A gesture takes so many of them, the newest. */
  claim(s: SeatState, presses: number): void;
}

/** An entry or a gesture, and the switch that it presses. */
interface Owned extends SourceRule {
  readonly owner: { readonly sources: SourceRule[]; keepInstantPresses(): void };
}

/** A cell that a plan does not need. */
export const NEVER = -1;

/** Builds the rules of a plan; finished, it is the plan's tables. */
export class Compiler extends Wiring implements Tables {
  readonly timers = new Timers(this.cells);
  readonly users = new Map<number, { liveAt: number; hiddenAt: number }[]>();
  readonly sticks: Updatable[] = listOf();
  readonly movements: MovementRule[] = listOf();
  readonly turns: Updatable[] = listOf();
  readonly paced: PacedRule[] = listOf();
  readonly switches: SwitchRule[] = listOf();
  readonly ranked: SwitchRule[] = listOf();
  readonly actions: Action[] = [];
  readonly readings: Tables["readings"][number][] = [];
  readonly waiting: Tables["waiting"][number][] = listOf();
  readonly conditions = new Map<string, Condition>();
  readonly commands: Tables["commands"][number][] = [];
  readonly resets: { reset(s: SeatState): void }[] = listOf();
  readonly recounts: { recount(s: SeatState): void }[] = listOf();
  /** Runs once every action is made. */
  readonly links: (() => void)[] = [];
  readonly numbers = new Map<string, NumberRule>();
  /** Spots by name, and all pointers. */
  readonly spots = new Map<string, Spot>();
  readonly pointers: { place(s: SeatState, x: number, y: number): void }[] = listOf();
  /** Flags by name. */
  readonly flags = new Map<string, object>();
  readonly keepers: KeeperRule[] = listOf();
  readonly gestures: ClaimingGesture[] = listOf();
  /** What raises each result. */
  private readonly results = new Map<Signal, { condition: Condition | null }>();
  /** Taps that any other press interrupts. */
  readonly brokenByAny: ClaimingGesture[] = listOf();
  /** Modes and mutes, if the layer has them. */
  situation: Tables["situation"];
  chords: ChordRule | null = null;
  /** Notifies of every signal late. Notifying early is a shortcut for signals whose order cannot be observed. */
  notifiesLater = false;
  readonly print: number;
  readonly started: number;
  readonly printAt: number;
  readonly stamp: number;
  readonly instantCount: number;
  readonly kept: number;
  readonly eventNumber: number;
  reasons = NEVER;
  /** How often any direction was pressed (int): the later of two opposite ones has the higher count. */
  readonly presses: number;
  /** Whether a mode may hide a control from the modes below. */
  readonly hides: boolean;
  private readonly groups = new Map<string, unknown[]>();

  constructor(
    readonly plan: CheckedPlan,
    readonly slots: readonly string[],
    private readonly features: readonly Feature[],
    like: Cells | null = null,
  ) {
    super(plan.seated ? 1 : PADS_TOGETHER, controlsOf(plan), like);
    this.hides = plan.modes.some(({ covers }) => covers === "same");
    this.print = printOf(plan, slots);
    const { head } = this;
    this.stamp = head.float("stamp", 0, 3);
    this.printAt = head.int("print", this.print);
    this.eventNumber = head.int("turn");
    this.presses = head.int("presses");
    this.instantCount = head.int("blipping");
    this.kept = head.count("kept");
    this.started = head.byte("started");
  }

  /** Makes all rules, step by step, so that a page may show a frame in between. */
  *making(): Generator<void, void> {
    const { plan, slots, features } = this;
    for (const { open } of features) open?.(this);
    yield;
    const actions = plan.actions.map((action) => within(action, slots));
    // Movements first, since switches may use their directions. Timers keep the plan's order all the same.
    for (const isFirst of [true, false])
      for (const [number, action] of actions.entries())
        if ((action.kind !== "switch") === isFirst) {
          this.make("actions", action.kind)(this, action as never, number);
          yield;
        }
    for (const link of this.links) link();
    yield;
    for (const { link } of features) {
      link?.(this);
      yield;
    }
    rank(this);
    this.findUsers();
    yield;
    this.reasons = this.cells.rule("reasons").int("names", 0, MOST_REASONS);
    this.timers.close();
    this.recounts.unshift(this.timers, ...this.signals);
    const later = this.orderedControls();
    for (const signal of this.signals) {
      signal.controls = this.controlsOf(signal);
      // What comes out is told after the controls and directions behind it.
      signal.isHeardLater =
        this.notifiesLater || signal.isResult || signal.controls.some((control) => later.has(control));
      signal.reviews =
        signal.breaks.some(({ claims }) => claims.length > 0) ||
        (signal.strokes.length > 0 && this.waiting.length > 0);
      signal.isHeard =
        signal.gestures.length + signal.entries.length > 0 ||
        (this.chords !== null && signal.channel !== null && signal.isHeardLater);
    }
    for (const channel of this.bound)
      channel.isStickAlone = channel.other !== null && [channel, channel.other].every(isOnlyStick);
  }

  get usesPads(): boolean {
    return this.bound.some(({ device }) => device === PAD);
  }

  /** The maker of a kind of action or entry, from whichever feature has it. */
  make(group: "actions" | "entries", kind: string): Maker<never> {
    for (const feature of this.features) {
      const maker = feature[group]?.[kind as never] as Maker<never> | undefined;
      if (maker !== undefined) return maker;
    }
    throw missing(kind);
  }

  /** Makes what a switch has besides its entries. */
  makeOptions(owner: object, action: CheckedSwitch, cells: RuleCells, number: number): void {
    for (const { options } of this.features)
      for (const option of options ?? [])
        if (option.appliesTo(action)) option.make(this, owner as never, action, cells, number);
  }

  /** Makes what a movement has besides its ends. */
  makeMovementOptions(owner: object, action: CheckedMovement, number: number): void {
    for (const { movementOptions } of this.features)
      for (const option of movementOptions ?? [])
        if (option.appliesTo(action)) option.make(this, owner as never, action, number);
  }

  /** The cell that says whether an action is live. */
  live(cells: RuleCells): number {
    return cells.byte("live", this.plan.seated && this.slots.length === 0 ? Live.Hidden : Live.Yes);
  }

  /** The cell that says whether a part is hidden. */
  hidden(cells: RuleCells): number {
    return this.hides ? cells.byte("hidden") : NEVER;
  }

  /** Adds an action, and the maker of its reading. */
  addAction(action: Action, reading: Tables["readings"][number]): void {
    this.actions[action.number] = action;
    this.readings[action.number] = reading;
  }

  /** Adds a plain entry of a switch: notified after the gestures of its signal. */
  addEntry(entry: Listener & Owned, signal: Signal): void {
    this.addSource(entry);
    signal.entries.push(entry);
  }

  private addSource(source: Owned): void {
    const { owner, signals } = source;
    owner.sources.push(source);
    this.recounts.push(source);
    if (signals.some(({ channel }) => channel !== null && channel.isAxis)) owner.keepInstantPresses();
  }

  /** Adds a gesture of a switch. */
  addGesture(gesture: ClaimingGesture & Listener & Owned): void {
    this.gestures.push(gesture);
    this.addSource(gesture);
    for (const signal of new Set(gesture.signals)) signal.gestures.push(gesture);
  }

  /** The switches that share one `oneOf`. */
  groupOf<Member>(name: string): Member[] {
    let group = this.groups.get(name);
    if (group === undefined) this.groups.set(name, (group = listOf()));
    return group as Member[];
  }

  /** Conditions for the plan's words; `ask` is called with each once all are known. */
  conditionsOf(words: readonly Word[], ask: (condition: Condition) => void): Conditions {
    const own = new Conditions();
    this.links.push(() => {
      own.link(words, (word) => this.conditionOf(word));
      for (const condition of new Set(own.all)) ask(condition);
    });
    return own;
  }

  /** The condition of a word: of a name, of a direction as it comes out, and each for a while. */
  private conditionOf(word: Word): Condition {
    const { name, not, forMs, of } = word;
    const base = this.conditions.get(name) ?? this.conditionOfResult(name, of!);
    if (forMs === undefined) return base;
    const text = `${not ? "not " : ""}${name} for ${forMs} ms`;
    const known = this.conditions.get(text);
    if (known !== undefined) return known;
    const { flags, actions } = this.plan;
    const flag = flags.findIndex((one) => one.name === name);
    const action = actions.findIndex((one) => one.name === (of?.action ?? name));
    // Flags before actions, and both before all that actions do.
    const order = (flag < 0 ? action : flag - flags.length) - actions.length;
    const own = this.ofFeature("lasting", text)(this, base, word, text, order);
    this.conditions.set(text, own);
    return own;
  }

  private conditionOfResult(name: string, source: ResultSource): Condition {
    const own = new Condition(this.cells.rule(`word ${name}`), name);
    this.results.get(this.signal(source))!.condition = own;
    this.conditions.set(name, own);
    return own;
  }

  /** What one of the features makes; `what` is that for which the plan needs it. */
  private ofFeature<K extends "results" | "lasting">(kind: K, what: string): NonNullable<Feature[K]> {
    const feature = this.features.find((one) => one[kind] !== undefined);
    if (feature === undefined) throw missing(what);
    return feature[kind]!;
  }

  protected makeResult(source: ResultSource, signal: Signal): void {
    this.results.set(
      signal,
      this.ofFeature("results", `${source.name} as it comes out`)(this, source, signal),
    );
  }

  /** Controls whose presses something takes or claims: everything they press is notified in the order of the rules. */
  private orderedControls(): Set<number> {
    const ordered = [...this.waiting, ...this.gestures.filter(({ consumesPress: takes }) => takes)];
    const controls = ordered.flatMap(({ signals }) => signals.flatMap((signal) => this.controlsOf(signal)));
    // All axes of a pad may move in one event.
    const axes = this.bound.filter(({ isAxis }) => isAxis).map(({ id }) => id);
    return new Set(controls.some((control) => axes.includes(control)) ? [...controls, ...axes] : controls);
  }

  private findUsers(): void {
    for (const { parts, liveAt } of this.actions)
      for (const { controls, hiddenAt } of parts)
        for (const control of controls) {
          const own = this.users.get(control);
          if (own === undefined) this.users.set(control, [{ liveAt, hiddenAt }]);
          // The sticks of all pads are used as one.
          else if (!own.some((one) => one.liveAt === liveAt && one.hiddenAt === hiddenAt))
            own.push({ liveAt, hiddenAt });
        }
  }
}

/**
 * A plan's tables for a seat with these slots. `like`: the cells of a seat with all slots, where those of other seats lie as well, so that a change of
 * slots moves none. @throws ReacherError if the plan needs a feature that is not among these
 */
export function compile(
  plan: CheckedPlan,
  slots: readonly string[],
  features: readonly Feature[],
  like: Cells | null = null,
): Tables {
  const compiler = new Compiler(plan, slots, features, like);
  for (const _ of compiler.making());
  return compiler;
}

function missing(kind: string): ReacherError {
  return new ReacherError(
    `the plan uses ${kind}, which is not among the features of this layer; add it, or take all`,
  );
}

/** An action with only its entries of these slots. */
function within(action: CheckedAction, slots: readonly string[]): CheckedAction {
  const mine = ({ slot }: { readonly slot: string }) => slots.includes(slot);
  if (action.kind === "switch") return { ...action, entries: action.entries.filter(mine) };
  if (action.kind === "turn")
    return { ...action, sticks: action.sticks.filter(mine), mice: action.mice.filter(mine) };
  return { ...action, sticks: action.sticks.filter(mine), ends: action.ends.filter(mine) };
}
