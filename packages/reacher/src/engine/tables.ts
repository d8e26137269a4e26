/**
 * What a plan becomes for the engine: rules, each with its cells and its listeners. Made once, shared by all seats that have the
 * same slots and keys, never changed. The loop knows of each kind of rule only what stands here.
 */
import type { Device } from "../controls/catalogue.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Cells, Keyed } from "./cells.js";
import type { ReadSeat } from "./reading.js";
import type { Channel, Signal } from "./signals.js";
import type { SeatState } from "./state.js";
import type { Timers } from "./timers.js";

/** The devices by the numbers that the engine gives them; 0 is none. */
export const DEVICES: readonly (Device | null)[] = [null, "keyboard", "mouse", "pad"];
export const PAD = 3;

/** A source of an action that a mode above may hide: an entry, a gesture, an end or a stick of a movement. */
export interface Part {
  /** Where it stands whether it is hidden (bytes); -1 where nothing ever hides it. */
  readonly hiddenAt: number;
  /** Controls that it is read off, by their numbers. */
  readonly controls: readonly number[];
  hide(s: SeatState, hidden: number): void;
}

/** Whether an action is live. Muted, it is so for the game's own drives alone. */
export const enum Live {
  Hidden,
  Yes,
  Muted,
}

/** An action, as what happens to all kinds of them sees it. */
export interface Action {
  readonly name: string;
  readonly kind: string;
  /** Its place in the plan. */
  readonly number: number;
  /** Its modes; none where it is always live. */
  readonly in: readonly string[];
  /** Where it stands whether it is live, by `Live` (bytes). */
  readonly liveAt: number;
  readonly parts: Part[];
  liveChanged(s: SeatState): void;
}

/** What is worked out when it is marked. */
export interface Worked {
  update(s: SeatState): void;
}

/** A movement as the loop sees it. */
export interface MovementRule extends Worked {
  readonly name: string;
  /** Everything is lost, or a pad is: what it came to before lingers no more. */
  lose(s: SeatState, isAll: boolean): void;
}

/** Whatever goes by a pace: it is worked out after switches. */
export interface PacedRule {
  updatePace(s: SeatState): void;
}

/** Whether another switch's chord has taken the press of a signal. */
export type IsTaken = (s: SeatState, signal: Signal, by: SwitchRule) => boolean;

/** An entry or a gesture of a switch. */
export interface SourceRule extends Part {
  readonly signals: readonly Signal[];
  /** `null` where no chord takes anything. */
  isTaken: IsTaken | null;
  /** What it has seen so far counts no more. */
  forget(s: SeatState): void;
  /** Other tables took over: counts anew what is down. */
  recount(s: SeatState): void;
}

/** A switch as the loop sees it. */
export interface SwitchRule extends Worked, Keyed {
  readonly sources: readonly SourceRule[];
  /** A device is lost: what it pressed for later is over. */
  lose(s: SeatState, isLost: (signal: Signal) => boolean): void;
  reset(s: SeatState): void;
  readonly id: number;
  readonly rank: number;
  readonly name: string;
  /** Where it stands how many presses rise and fall at this moment (bytes); -1 where none ever does. */
  readonly blips: number;
  /** The game may know. True where that is news. */
  settle(s: SeatState): boolean;
  isOn(s: SeatState): boolean;
  readonly pulses: boolean;
  /** Whether it has begun, and the game has to be told of a grant. */
  takeNews(): boolean;
  /** The next half of a blip; true where it was the last. */
  playBlip(s: SeatState): boolean;
}

/** Keeps a press that cannot begin yet. */
export interface KeeperRule {
  canBegin(s: SeatState): boolean;
  isNewer(s: SeatState, other: KeeperRule): boolean;
  beginKept(s: SeatState): void;
}

/** Who judges the chords of an event. */
export interface ChordRule {
  /** Of the signals that changed, so many: twice their number, and 1 more where they were pressed. */
  judge(s: SeatState, changes: Int32Array, count: number): void;
  /** What was released is free again. */
  giveBack(s: SeatState, changes: Int32Array, count: number): void;
}

/** A named number, as a pace sees it. */
export interface NumberRule {
  /** Where it stands (floats). */
  readonly at: number;
  readonly paced: number[];
}

export interface Tables {
  readonly plan: CheckedPlan;
  /** Identifies plan, overrides and slots in snapshots. */
  readonly print: number;
  readonly cells: Cells;
  readonly timers: Timers;
  /** By the number of the control; most are not bound. */
  readonly channels: readonly (Channel | undefined)[];
  /** The same without the holes. */
  readonly bound: readonly Channel[];
  /** Channels by the names of their controls. */
  readonly byName: ReadonlyMap<string, Channel>;
  /** The controls behind a name, by their numbers: one, or the parts of a stick. */
  readonly named: ReadonlyMap<string, ReadonlySet<number>>;
  /** By control: where it stands whether those that use it are live and hidden. */
  readonly users: ReadonlyMap<number, readonly { readonly liveAt: number; readonly hiddenAt: number }[]>;
  readonly signals: readonly Signal[];
  readonly sticks: readonly Worked[];
  readonly movements: readonly MovementRule[];
  readonly turns: readonly Worked[];
  readonly paced: readonly PacedRule[];
  readonly switches: readonly SwitchRule[];
  /** The same, those first that others need. */
  readonly ranked: readonly SwitchRule[];
  readonly actions: readonly Action[];
  /** By action: makes the reading that a game gets. */
  readonly readings: readonly ((s: ReadSeat, action: number) => object)[];
  /** Entries that wait for gestures: looked at when one of these can claim nothing any more. */
  readonly waiting: readonly {
    readonly signals: readonly Signal[];
    review(s: SeatState, isOver: boolean): void;
  }[];
  readonly chords: ChordRule | null;
  /** What keeps presses, and how many are kept (int). */
  readonly keepers: readonly KeeperRule[];
  readonly kept: number;
  /** What an event that the game tells does, by its kind. */
  readonly commands: readonly (
    ((s: SeatState, index: number, value: number, other: number) => void) | undefined
  )[];
  /** What can be so or not, by name. */
  readonly conditions: ReadonlyMap<string, { readonly at: number }>;
  /** Named numbers. */
  readonly numbers: ReadonlyMap<string, NumberRule>;
  /** What goes back to the start. */
  readonly resets: readonly { reset(s: SeatState): void }[];
  /** What counts anew what is down, after other tables took over: from the signals up. */
  readonly recounts: readonly { recount(s: SeatState): void }[];
  /** The modes of the start, where none is on. */
  startModes(s: SeatState): void;
  /** Whether the game has left every mode: then none begins by itself. */
  hasLeftAll(s: SeatState): boolean;
  /** What follows from modes and mutes, worked out anew. */
  refresh(s: SeatState): void;

  /** Cells of the seat itself: whether it has begun (byte), the fingerprint, the clock of a snapshot (floats). */
  readonly started: number;
  readonly printAt: number;
  readonly stamp: number;
  /** How many switches have a press that rises and falls at the moment at hand (int). */
  readonly blipping: number;
  /** The device used last (int), by its place in `DEVICES`. */
  readonly lastDevice: number;
  /** The number of the event at hand: of what happens at one moment, what comes later has the higher one (int). */
  readonly turn: number;
  /** The names of reasons, as numbers (ints). */
  readonly reasons: number;
  /** Whether anything is bound on a pad. */
  readonly usesPads: boolean;
}
