/**
 * A compiled plan: rules, each with its cells and its listeners. Made once, immutable, shared by all seats with the
 * same slots and keys. The loop knows each kind of rule only by the interfaces here.
 */
import type { Device } from "../controls/catalogue.js";
import { DEVICE_NAMES } from "../controls/ownControls.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Cells, Keyed } from "./cells.js";
import type { ReadSeat } from "./reading.js";
import type { Channel, Signal } from "./signals.js";
import type { SeatState } from "./state.js";
import type { Timers } from "./timers.js";

/** Devices by the engine's numbers; 0 is none. Those of a plan's own controls follow. */
export const DEVICES: readonly (Device | null)[] = [null, ...DEVICE_NAMES];
export const PAD = /* @__PURE__ */ DEVICES.indexOf("pad");

/** A source of an action that a mode above may hide: an entry, a gesture, an end or a stick of a movement. */
export interface Component {
  /** The cell that says whether it is hidden (byte); -1 if nothing ever hides it. */
  readonly hiddenAt: number;
  /** The controls that it reads, by number. */
  readonly controls: readonly number[];
  hide(s: SeatState, hidden: number): void;
}

/** Whether an action is live. A muted one obeys only the game's own drives. */
export const enum Live {
  Hidden,
  Yes,
  Muted,
}

/** What all kinds of actions have in common. */
export interface Action {
  readonly name: string;
  readonly kind: string;
  /** Its index in the plan. */
  readonly number: number;
  /** Its modes; empty if it is always live. */
  readonly in: readonly string[];
  /** The cell that says whether it is live, by `Live` (byte). */
  readonly liveAt: number;
  readonly parts: Component[];
  /** `was`: by `Live`, before. */
  liveChanged(s: SeatState, was: Live): void;
  /** The game drives it for a reason, or with NaN for `x` lets it go. `way`: how that meets the hands. */
  drive?(s: SeatState, reason: number, way: number, x: number, y: number): void;
  /** How long the next drive blends, in ms; and what a command has said of that. */
  blendNext?(s: SeatState, ms: number): void;
  nextBlend?(s: Pick<SeatState, "f">): number;
  /** The reasons that drive it, one bit each. */
  drivenBy?(s: Pick<SeatState, "i">): number;
}

/** Is updated when it is marked. */
export interface Updatable {
  update(s: SeatState): void;
}

/** A movement as the loop sees it. */
export interface MovementRule extends Updatable {
  readonly name: string;
  /** Devices are lost: what lingers because of them ends. `device`: which one, or -1 for all. */
  lose(s: SeatState, device: number): void;
  /** Devices have other numbers. */
  renumber(s: SeatState, deviceOf: (device: number) => number): void;
}

/** Has a pace, which is updated after switches. */
export interface PacedRule {
  updatePace(s: SeatState): void;
}

/** Knows whether another switch's chord has taken the press of a signal. */
export interface PressConsumer {
  isConsumed(s: SeatState, signal: Signal, by: SwitchRule): boolean;
}

/** Handles one kind of command; `index` says which flag, action or mode. */
export interface CommandRule {
  apply(s: SeatState, index: number, value: number, other: number): void;
}

/** Modes and mutes as the loop sees them. */
export interface SituationRule {
  /** Enters the start modes if no mode is on. */
  startModes(s: SeatState): void;
  /** Whether the game has left every mode: then none is entered automatically. */
  hasLeftAll(s: SeatState): boolean;
  /** Recomputes what is live and what is hidden. */
  refresh(s: SeatState): void;
}

/** An entry or a gesture of a switch. */
export interface SourceRule extends Component {
  readonly signals: readonly Signal[];
  /** `null` if no chord takes presses. */
  consumer: PressConsumer | null;
  /** Whether it presses its switch, or would if no mode hid it. */
  isDown(s: SeatState): boolean;
  /** Of a gesture: how many of its presses count so far, and until when it may go on with so many. */
  pending?(s: SeatState): number;
  windowEnd?(s: SeatState, pending: number): number;
  /** Forgets what it has seen so far. */
  forget(s: SeatState): void;
  /** After a change of tables: recounts what is down. */
  recount(s: SeatState): void;
}

/** A switch as the loop sees it. */
export interface SwitchRule extends Updatable, Keyed {
  readonly sources: readonly SourceRule[];
  /** A device is lost: presses kept from it are dropped. */
  lose(s: SeatState, isLost: (signal: Signal) => boolean): void;
  reset(s: SeatState): void;
  readonly id: number;
  readonly rank: number;
  readonly name: string;
  /** The cell that counts presses that rise and fall at this moment (byte); -1 if none ever does. */
  readonly instantPresses: number;
  /** Makes its state visible to the game. True if that has changed. */
  settle(s: SeatState): boolean;
  isOn(s: SeatState): boolean;
  readonly pulses: boolean;
  /** Whether it has just begun, so that a grant has to be announced. */
  consumeNews(): boolean;
  /** The game takes what has begun; false if nothing waits to be taken. */
  take(s: SeatState): boolean;
  /** Plays the next half of a blip; true if it was the last. */
  playInstantPress(s: SeatState): boolean;
}

/** Keeps a press that cannot begin yet. */
export interface KeeperRule {
  canBegin(s: SeatState): boolean;
  isNewer(s: SeatState, other: KeeperRule): boolean;
  beginKept(s: SeatState): void;
}

/** Decides the chords of an event. */
export interface ChordRule {
  /** `items` holds the signals that changed: twice their number, plus 1 if pressed. */
  judge(s: SeatState, changes: Int32Array, count: number): void;
  /** Frees the controls that were released. */
  returnPresses(s: SeatState, changes: Int32Array, count: number): void;
}

/** A named number, as a pace sees it. */
export interface NumberRule {
  /** Its cell (float). */
  readonly at: number;
  readonly paced: number[];
}

export interface Tables {
  /** Tables of made code, which each seat has for itself, take it once its buffer is laid out. */
  bind?(s: SeatState): void;
  /** Of code made without some calls: bytes that no snapshot may have otherwise, each as their place and what stands there. */
  readonly fixed?: readonly (readonly number[])[];
  readonly plan: CheckedPlan;
  /** Identifies plan, overrides and slots in snapshots. */
  readonly print: number;
  readonly cells: Cells;
  readonly timers: Timers;
  /** By the control's number; sparse, since most are not bound. */
  readonly channels: readonly (Channel | undefined)[];
  /** The same without the holes. */
  readonly bound: readonly Channel[];
  /** The controls behind a name, by their numbers: one, or the parts of a stick. */
  readonly named: ReadonlyMap<string, ReadonlySet<number>>;
  /** By control: the cells that say whether its users are live and hidden. */
  readonly users: ReadonlyMap<number, readonly { readonly liveAt: number; readonly hiddenAt: number }[]>;
  readonly signals: readonly Signal[];
  readonly sticks: readonly Updatable[];
  readonly movements: readonly MovementRule[];
  readonly turns: readonly Updatable[];
  readonly paced: readonly PacedRule[];
  readonly switches: readonly SwitchRule[];
  /** The same by rank: those that others need come first. */
  readonly ranked: readonly SwitchRule[];
  readonly actions: readonly Action[];
  /** By action: makes its reading. */
  readonly readings: readonly ((s: ReadSeat, action: number) => object)[];
  /** Entries that wait for gestures: reviewed when one of these gives up a claim. */
  readonly waiting: readonly {
    readonly signals: readonly Signal[];
    review(s: SeatState, isOver: boolean): void;
  }[];
  readonly chords: ChordRule | null;
  /** Rules that keep presses, and the cell that counts the kept ones (int). */
  readonly keepers: readonly KeeperRule[];
  readonly kept: number;
  /** The handler of each kind of command. */
  readonly commands: readonly (CommandRule | undefined)[];
  /** Conditions by name. */
  readonly conditions: ReadonlyMap<string, { readonly at: number }>;
  /** Named numbers. */
  readonly numbers: ReadonlyMap<string, NumberRule>;
  /** Spots that the pointer is measured from, by name: their cells (floats). */
  readonly spots: ReadonlyMap<string, { readonly x: number; readonly y: number }>;
  /** Rules that a reset puts back to the start. */
  readonly resets: readonly { reset(s: SeatState): void }[];
  /** Rules that recount what is down after a change of tables, signals first. */
  readonly recounts: readonly { recount(s: SeatState): void }[];
  /** Modes and mutes, for a plan that has any. */
  readonly situation: SituationRule | undefined;

  /** Cells of the seat itself: whether it has begun (byte), the hash of its plan, the clock of a snapshot (floats). */
  readonly started: number;
  readonly printAt: number;
  readonly stamp: number;
  /** How many switches have a press that rises and falls at the current moment (int). */
  readonly instantCount: number;
  /** The channel of a control, by its name: in another plan an own control has another number. */
  find(control: string): Channel | undefined;
  /** A control by its number. */
  nameOf(control: number): string;
  /** All devices by the engine's numbers, with those of own controls. */
  readonly devices: readonly (string | null)[];
  /** The device used last (int), as an index there. */
  readonly lastDevice: number;
  /** A counter of events (int): of two at one moment, the later has the higher number. */
  readonly eventNumber: number;
  /** The hashes of reasons' names (ints). */
  readonly reasons: number;
  /** Whether anything is bound on a pad. */
  readonly usesPads: boolean;
}
