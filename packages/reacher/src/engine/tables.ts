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
  /** Whether it has no slot at all, and so does not play: nothing of it is live. */
  readonly closed: boolean;
  /** Whether it has bound anything on a pad. */
  readonly usesPads: boolean;

  /** Channel numbers by the names of raw controls. */
  readonly channels: ReadonlyMap<string, number>;
  /** The names of all controls that the plan binds, and of their parts. */
  readonly used: ReadonlySet<string>;
  readonly channel: readonly ChannelTable[];
  readonly signal: readonly SignalTable[];
  readonly stick: readonly StickTable[];
  readonly switch: readonly SwitchTable[];
  readonly mover: readonly MoverTable[];
  readonly turn: readonly TurnTable[];

  /** Facts are flags, then actions, in the plan's order; by name. */
  readonly facts: ReadonlyMap<string, number>;
  /** By fact: the movers whose pace asks for it, and the switches that need it. */
  readonly pacedBy: readonly (readonly number[])[];
  readonly neededBy: readonly (readonly number[])[];
  /** By flag: its lingering deadline, or -1, and how long it lingers. */
  readonly linger: readonly { readonly deadline: number; readonly ms: number }[];

  readonly entry: readonly EntryTable[];
  /** Entries that wait for gestures. */
  readonly waiting: readonly EntryTable[];
  readonly gesture: readonly GestureTable[];
  /** Whether any of them is an `all`, which takes presses. */
  readonly hasAlls: boolean;
  readonly mode: readonly ModeTable[];
  /** The modes on at the start, lowest first. */
  readonly start: readonly number[];
  readonly action: readonly ActionTable[];

  /** Settling deadlines and their like: the movers they belong to, by deadline. */
  readonly deadlines: readonly DeadlineTable[];
  /** Deadlines from here on are ends of windows: they come after the events of their moment. */
  readonly firstWindow: number;

  /** How long a seat's state is, in ints. */
  readonly ints: number;
  /** Where facts, deadlines and the list of running deadlines begin in the state. */
  readonly factsAt: number;
  readonly deadlinesAt: number;
  readonly runningAt: number;
  /** By action: whether it is live, and the reasons for which it is muted, one bit each. */
  readonly liveAt: number;
  readonly mutesAt: number;
  /** By channel: the switch whose `all` has taken its press, plus 1. */
  readonly takenAt: number;
  /** The modes that are on, lowest first. */
  readonly stackAt: number;
}

/** A mode, and the channels that its actions use. */
export interface ModeTable {
  readonly name: string;
  readonly covers: "none" | "same" | "all";
  readonly channels: ReadonlySet<number>;
}

/** When an action is live, and what of it can be hidden. */
export interface ActionTable {
  /** Its modes; empty where it is always live. */
  readonly modes: readonly number[];
  /** Its switch, its mover or its turn, or -1. */
  readonly switch: number;
  readonly mover: number;
  readonly turn: number;
  /** Where the flags of what can be hidden stand (ints), with the channels of each. */
  readonly hideable: readonly Hideable[];
}

export interface Hideable {
  readonly i: number;
  readonly channels: readonly number[];
  readonly entry: EntryTable | undefined;
  readonly gesture: GestureTable | undefined;
  readonly end: EndTable | undefined;
  readonly stick: number;
}

/** A plain entry of a switch. */
export interface EntryTable {
  readonly id: number;
  readonly switch: number;
  readonly action: number;
  readonly signal: number;
  readonly i: number;
  readonly owner: SwitchTable;
  /** Where the live flag of its action stands (ints). */
  readonly live: number;
  /** Its window deadline where it waits, else -1; and the gestures that may claim its press. */
  readonly deadline: number;
  readonly rivals: readonly GestureTable[];
}

/** What a gesture is. */
export const enum Gesture {
  Taps,
  Short,
  Long,
  All,
  Series,
}

export interface GestureTable {
  readonly id: number;
  readonly kind: Gesture;
  readonly switch: number;
  readonly action: number;
  readonly f: number;
  readonly i: number;
  /** Where the live flag of its action stands (ints). */
  readonly live: number;
  /** Signals: one, or its members. */
  readonly of: readonly number[];
  /** Taps needed. */
  readonly taps: number;
  /** Its gap, limit, delay or spread, in ms; Infinity where there is none. */
  readonly ms: number;
  readonly eachMs: number;
  /** Of a series: by members matched, how many match after a wrong one. */
  readonly fallback: readonly number[];
  /** Of a long: its deadline. */
  readonly deadline: number;
  /** Waiting entries whose presses it claims when it fires. */
  readonly claims: readonly EntryTable[];
}

/** The devices by the numbers that the engine gives them; 0 is none. */
export const DEVICES: readonly (Device | null)[] = [null, "keyboard", "mouse", "pad"];
export const PAD = 3;

/** Values from which on something is so. */
export const enum Level {
  /** A control counts as used: sticks at rest are never quite still. */
  Used = 0.5,
  /** A button below this is up. */
  Release = 0.4,
}

/** How the events of a channel are handled: step by step, or in one go as those of a key or of a stick. */
export const enum Way {
  Steps,
  Key,
  Stick,
}

/** One raw value, as devices report it. */
export interface ChannelTable {
  readonly name: string;
  /** By its place in `DEVICES`. */
  readonly device: number;
  readonly isAxis: boolean;
  /** Turns that its values add to: the mouse moves by amounts. */
  readonly mice: readonly TurnMouse[];
  readonly least: number;
  readonly most: number;
  /** Its events' `what` in the queue, for its first place. */
  readonly what: number;
  /** The number of the same stick's other axis, or -1, and that one's `what`. */
  readonly other: number;
  readonly otherWhat: number;
  /** Where that one's value stands (floats). */
  readonly otherF: number;
  /** Whether its values have more to do than to move sticks, where it is an axis, or to be pressed and released, where it is not. */
  readonly special: boolean;
  /** Where its value stands (floats); a pad's channel has one for each place. */
  readonly f: number;
  readonly places: number;
  /** Where releases are held back for a while: the deadline of its first place, else -1. */
  readonly bounce: number;
  readonly signals: readonly SignalTable[];
  /** Numbers of sticks: for each that reads this channel, one for each place. */
  readonly sticks: readonly number[];
  readonly analogEnds: readonly AnalogEndTable[];
  /** How its events are handled, and, where that is in one go (`lane.ts`), the sticks and the movers that it moves. */
  readonly way: Way;
  readonly laneSticks: readonly StickTable[];
  readonly laneMovers: readonly MoverTable[];
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
  /** Its channel, or -1 for a direction; whether it is one side of a stick. */
  readonly channel: number;
  readonly half: boolean;
  /** Where the moment of its last press stands (floats). */
  readonly f: number;
  /** Plain entries that it drives, ends of movers, gestures, and gestures that its press breaks. */
  readonly entries: readonly EntryTable[];
  readonly ends: readonly EndTable[];
  readonly gestures: readonly GestureTable[];
  readonly alls: readonly GestureTable[];
  readonly breaks: readonly GestureTable[];
  /** Whether it has ends at most, and none of the others. */
  readonly movesOnly: boolean;
  /** Whether a long press may fire on it. */
  readonly long: boolean;
  /** Whether its entries have to wait until gestures have seen the press. */
  readonly ruled: boolean;
  /** Whether nothing on its channel takes presses or waits for gestures: then a key's press may go to all of them at once. */
  readonly direct: boolean;
}

/** One of four ends of a mover: 0 minus x, 1 plus x, 2 minus y, 3 plus y. */
export interface EndTable {
  readonly mover: number;
  readonly end: number;
  /** Where the mover stands (ints), and the number of its newest press of this end. */
  readonly moverAt: number;
  readonly newestAt: number;
  /** The end's eight bits in the mover's counts, and one key more in them: 0 for an analog source, which is not counted. */
  readonly bits: number;
  readonly key: number;
  /** Whether it matters which of the keys held was pressed first. */
  readonly ordered: boolean;
  /** Where its own state stands (ints). */
  readonly i: number;
  /** The direction as a signal, where a gesture or a switch uses it. */
  readonly direction: SignalTable | undefined;
}

/** A trigger or half an axis as an end of a mover. */
export interface AnalogEndTable {
  readonly mover: number;
  readonly end: number;
  readonly f: number;
  readonly places: number;
  readonly sign: number;
  readonly shape: ShapeTable;
  /** Where its hidden flag stands (ints). */
  readonly hiddenAt: number;
}

/** A stick, or the one-dimensional control of an axis, on one place. */
export interface StickTable {
  /** Its mover, or its turn; the other is -1. */
  readonly mover: number;
  readonly turn: number;
  /** For a turn: the amount in a ms at full tilt. */
  readonly perMs: number;
  /** Its place among the mover's sticks. */
  readonly number: number;
  /** The mover's directions, and where it stands (ints). */
  readonly directions: number;
  readonly moverAt: number;
  /** Whether it is shaped otherwise than most, which have a round zone, a power, no gain and any direction. */
  readonly unusual: boolean;
  /** Where its raw values stand (floats); y is -1 for an axis. */
  readonly rawX: number;
  readonly rawY: number;
  readonly signX: number;
  readonly signY: number;
  /** Where its shaped values stand: x, y, length (floats) and its sector (ints). */
  readonly f: number;
  readonly i: number;
  readonly shape: ShapeTable;
  /** The mover's directions as signals, by end, where any of them is used. */
  readonly directionSignals: readonly (SignalTable | undefined)[] | undefined;
}

/** How a press becomes on and off. */
export const enum Style {
  Hold,
  Toggle,
  Either,
}

export interface SwitchTable {
  readonly id: number;
  readonly name: string;
  readonly fact: number;
  readonly action: number;
  /** Where its fact and its live flag stand (ints), and whether a pace or a switch asks for the fact. */
  readonly factAt: number;
  readonly live: number;
  readonly heard: boolean;
  /** Whether it is on while it is held and live, and nothing else comes into it. */
  readonly simple: boolean;
  /** Whether it has to wait until the event's other switches are looked at. */
  readonly waits: boolean;
  readonly style: number;
  readonly tapMs: number;
  readonly startsOn: boolean;
  readonly needs: readonly WordTable[];
  /** Before it come those that it needs. */
  readonly rank: number;
  readonly resume: boolean;
  /** The other switches of which one at most is on. */
  readonly group: readonly number[];
  readonly everyMs: number;
  readonly afterMs: number;
  /** Its deadline for pulses, or -1. */
  readonly repeat: number;
  readonly restMs: number;
  readonly keepMs: number;
  readonly carry: boolean;
  readonly keeps: boolean;
  readonly entries: readonly EntryTable[];
  readonly gestures: readonly GestureTable[];
  /** Its long presses, for the reading's progress. */
  readonly longs: readonly GestureTable[];
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
  readonly id: number;
  readonly name: string;
  readonly action: number;
  readonly isAxis: boolean;
  readonly fact: number;
  /** Where its fact and its live flag stand (ints), and whether a pace or a switch asks for the fact. */
  readonly factAt: number;
  readonly live: number;
  readonly heard: boolean;
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
  readonly gaitFrom: Float64Array;
  readonly gaitKept: Float64Array;
  /** Where the highest gait begins; beyond all lengths where there is none. */
  readonly gaitTop: number;
  readonly pace: PaceTable | undefined;
  /** Whether keys and sticks are added. */
  readonly sums: boolean;
  /** Its ramp, with its deadline, or -1. */
  readonly ease: EaseTable | undefined;
  readonly easing: number;
  /** Time in which the pace moves to a new value, in ms. */
  readonly easeMs: number;
  /** Whether neither its keys nor its pace are on a ramp, ever. */
  readonly plain: boolean;
  readonly f: number;
  /** How many floats it has: all, or the plain ones. */
  readonly floats: number;
  readonly i: number;
  /** Its sticks, and its analog sources by end. */
  readonly sticks: readonly StickTable[];
  readonly analogEnds: readonly (readonly AnalogEndTable[])[];
  readonly hasAnalogEnds: boolean;
  /**
   * Of a mover whose keys count at once and alone, what they give: x, y and length for each of the 16 sets of ends, a bit
   * each. `null` where ramps, analog ends or a sum come into it.
   */
  readonly keyVectors: Float64Array | null;
}

export interface PaceTable {
  readonly base: number;
  readonly rules: readonly {
    readonly words: readonly WordTable[];
    readonly set: boolean;
    readonly by: number;
  }[];
}

export interface WordTable {
  readonly fact: number;
  /** Where the fact stands (ints). */
  readonly at: number;
  readonly truth: number;
}

/** A ramp: times from rest to full and back, in ms, and whether a change of sign runs through zero. */
export interface EaseTable {
  readonly riseMs: number;
  readonly fallMs: number;
  readonly through: boolean;
}

export interface TurnTable {
  readonly name: string;
  readonly action: number;
  readonly f: number;
  readonly sticks: readonly StickTable[];
}

/** The mouse, one way, as part of a turn. */
export interface TurnMouse {
  readonly turn: number;
  readonly vertical: boolean;
  readonly perPixel: number;
  readonly hiddenAt: number;
}

/** What falls due. At one moment they come in the plan's order; those from `Claim` on are ends of windows. */
export const enum Due {
  Settle,
  Ease,
  Long,
  Repeat,
  Claim,
  Linger,
  /** A release that no press has followed; its target is the channel and the place, as in an event's `what`. */
  Bounce,
}

export interface DeadlineTable {
  readonly kind: Due;
  readonly target: number;
}
