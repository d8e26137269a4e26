/**
 * What a plan becomes for the engine: numbers in place of names. Made once per plan, shared by all layers of it, never changed.
 *
 * The way of a value through these tables: channel (one raw value) -> signal (that value as pressed or released), stick or
 * analog end -> switch, mover -> readings. A mover is an axis or a vector; an axis is a mover that has only its x.
 */
import type { CheckedPlan } from "../plan/checked.js";
import type { Device } from "../controls/catalogue.js";
import type { ShapeTable } from "./shape.js";

export interface Tables {
  readonly plan: CheckedPlan;
  /** Identifies the plan in snapshots. */
  readonly print: number;
  /** How many pads are kept apart: a plan without seats takes any pad, and puts them together. */
  readonly places: number;

  /** Channel numbers by the names of raw controls. */
  readonly channels: ReadonlyMap<string, number>;
  /** The names of all controls that the plan binds, and of their parts. */
  readonly used: ReadonlySet<string>;
  readonly channel: readonly ChannelTable[];
  readonly signal: readonly SignalTable[];
  readonly stick: readonly StickTable[];
  readonly switch: readonly SwitchTable[];
  readonly mover: readonly MoverTable[];

  /** Facts are flags, then actions, in the plan's order; by name. */
  readonly facts: ReadonlyMap<string, number>;
  /** By fact: the movers whose pace asks for it. */
  readonly pacedBy: readonly (readonly number[])[];

  /** Settling deadlines and their like: the movers they belong to, by deadline. */
  readonly deadlines: readonly DeadlineTable[];
  /** Deadlines from here on are ends of windows: they come after the events of their moment. */
  readonly firstWindow: number;

  /** How many numbers of each type a seat's state has. */
  readonly floats: number;
  readonly ints: number;
  /** Where facts, deadlines and the list of running deadlines begin in the state. */
  readonly factsAt: number;
  readonly deadlinesAt: number;
  readonly runningAt: number;
}

/** The devices by the numbers that the engine gives them; 0 is none. */
export const DEVICES: readonly (Device | null)[] = [null, "keyboard", "mouse", "pad"];
export const PAD = 3;

/** One raw value, as devices report it. */
export interface ChannelTable {
  readonly name: string;
  /** By its place in `DEVICES`. */
  readonly device: number;
  readonly isAxis: boolean;
  readonly least: number;
  /** Where its value stands (floats); a pad's channel has one for each place. */
  readonly f: number;
  readonly places: number;
  readonly signals: readonly SignalTable[];
  /** Numbers of sticks: for each that reads this channel, one for each place. */
  readonly sticks: readonly number[];
  readonly analogEnds: readonly AnalogEndTable[];
}

/** A channel as pressed or released. */
export interface SignalTable {
  readonly id: number;
  readonly sign: number;
  readonly press: number;
  readonly release: number;
  /** Where its up or down stands (ints). */
  readonly i: number;
  /** By its place in `DEVICES`. */
  readonly device: number;
  /** Name of the control, for `by`. */
  readonly control: string;
  /** Switches that it drives, and ends of movers. */
  readonly switches: readonly number[];
  readonly ends: readonly EndTable[];
}

/** One of four ends of a mover: 0 minus x, 1 plus x, 2 minus y, 3 plus y. */
export interface EndTable {
  readonly mover: number;
  readonly end: number;
  /** Where the mover and its counts for this end stand (ints). */
  readonly moverAt: number;
  readonly keysAt: number;
  /** An analog source keeps its value, so that it is not counted as a key. */
  readonly analog: boolean;
}

/** A trigger or half an axis as an end of a mover. */
export interface AnalogEndTable {
  readonly mover: number;
  readonly end: number;
  readonly f: number;
  readonly places: number;
  readonly sign: number;
  readonly shape: ShapeTable;
}

/** A stick, or the one-dimensional control of an axis, on one place. */
export interface StickTable {
  readonly mover: number;
  /** Its place among the mover's sticks. */
  readonly number: number;
  /** The mover's directions, and where it stands (ints). */
  readonly directions: number;
  readonly moverAt: number;
  /** Where its raw values stand (floats); y is -1 for an axis. */
  readonly rawX: number;
  readonly rawY: number;
  readonly signX: number;
  readonly signY: number;
  /** Where its shaped values stand: x, y, length (floats) and its sector (ints). */
  readonly f: number;
  readonly i: number;
  readonly shape: ShapeTable;
}

/** How a press becomes on and off. */
export const enum Style {
  Hold,
  Toggle,
  Either,
}

export interface SwitchTable {
  readonly name: string;
  readonly fact: number;
  readonly style: number;
  readonly tapMs: number;
  readonly startsOn: boolean;
  readonly f: number;
  readonly i: number;
}

/** What two opposite ends do together. */
export const enum Opposed {
  Latest,
  Earliest,
  Neutral,
}

/** The ends of a mover. */
export const enum End {
  Left,
  Right,
  Down,
  Up,
}

export interface MoverTable {
  readonly name: string;
  readonly kind: "axis" | "vector";
  readonly fact: number;
  readonly opposed: number;
  /** 0 is free. */
  readonly directions: number;
  readonly round: boolean;
  /** +1 where up is +1, -1 where up is -1. */
  readonly up: number;
  /** The facing at the start, as an index of the eight directions. */
  readonly faces: number;
  readonly facingFrom: number;
  readonly settleMs: number;
  /** Its settling deadline, or -1. */
  readonly settle: number;
  readonly gaitNames: readonly string[];
  readonly gaitFrom: readonly number[];
  readonly gaitKept: readonly number[];
  readonly pace: PaceTable | undefined;
  /** Time in which the pace moves to a new value, in ms. */
  readonly easeMs: number;
  readonly f: number;
  readonly i: number;
  /** Its sticks, and its analog sources by end. */
  readonly sticks: readonly StickTable[];
  readonly analogEnds: readonly (readonly AnalogEndTable[])[];
  readonly hasAnalogEnds: boolean;
}

export interface PaceTable {
  readonly base: number;
  readonly rules: readonly { readonly words: readonly WordTable[]; readonly set: boolean; readonly by: number }[];
}

export interface WordTable {
  readonly fact: number;
  readonly truth: number;
}

export interface DeadlineTable {
  readonly target: number;
}
