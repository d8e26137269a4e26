/**
 * The plan as a programmer writes it: JSON, or the same object in TypeScript.
 *
 * Every field has its unit and default here; the JSON Schema takes its descriptions from these comments.
 * All times are milliseconds. All amounts are 0..1 unless said otherwise.
 */

import type { OwnKind } from "../controls/ownControls.js";
import type { AnyNames, AnyOtherNames, FieldNames, InSlots, OtherNames } from "./fieldNames.js";

/** What an action is for the game: on or off, one number, a direction with a length, or an amount turned. */
export type Kind = "switch" | "axis" | "vector" | "turn";

/** The kinds of a plan's actions by name; carried in the plan's type so that readings are typed. */
export type Kinds = Readonly<Record<string, Kind>>;

/** A whole plan: every action of the game and the controls that drive it. */
export interface Plan<
  K extends Kinds = Kinds,
  F extends string = string,
  N extends string = string,
  X extends OtherNames = AnyOtherNames,
> {
  /** Where editors find the JSON Schema of plans. */
  readonly $schema?: string;
  /** The version of the plan format: 1. */
  readonly reacherPlan: 1;
  /** The plan's name, used by players' own settings to find the plan they belong to. */
  readonly name?: string;
  /** The plan's own version, a whole number that rises with each release that renames or removes something. */
  readonly version?: number;
  /** Whether up is +1 or, as on a screen, -1. @default "up" */
  readonly yAxis?: "up" | "down";
  /** Controls that your game feeds: a button on the page, a thumb stick, a sensor. They go wherever a control goes. */
  readonly controls?: Readonly<Record<string, OwnKind | OwnControlFields>>;
  /** The columns of bindings, in the order of a settings screen. @default those used, in order of appearance */
  readonly slots?: Readonly<Record<X["slots"], Slot>>;
  /** Facts that your game sets, with their value at the start. */
  readonly flags?: Readonly<Record<F, boolean | Flag>>;
  /** Named numbers, used by name wherever a pace has one, which the game changes while playing. */
  readonly numbers?: Readonly<Record<N, number>>;
  /**
   * Where the pointer may be measured from: x and y in halves of the area's shorter side, from its middle, y down. The game tells where they are
   * while playing (`setSpot`).
   */
  readonly spots?: Readonly<Record<X["spots"], readonly [x: number, y: number]>>;
  /** Named situations that decide which actions are live. */
  readonly modes?: Readonly<Record<X["modes"], Mode>>;
  /** The modes on at the start, lowest first. @default the first mode */
  readonly start?: readonly string[];
  /** The players' places, each with its own slots of the same actions. @default one, `solo`, with all slots and any pad */
  readonly seats?: Readonly<Record<X["seats"], SeatFields>>;
  /**
   * For trembling hands: a release of a key or button that is followed by a press within this time is no release, in ms, its
   * end included. Every release counts that much later. @default 0
   */
  readonly bounceMs?: number;
  /** Controls that players cannot give to anything else. @default none */
  readonly protected?: readonly string[];
  /** What players may change of the whole plan. */
  readonly player?: PlanPlayerFields;
  /** The actions by name. */
  readonly actions: { readonly [A in keyof K]: Action<K[A]> };
}

/** A named column of bindings. */
export interface Slot {
  /** The heading that players read. @default the slot's name */
  readonly label?: string;
  /** What this slot is for: keyboard (it takes the mouse as well), mouse, pad, or the device of own controls. @default anything */
  readonly device?: "keyboard" | "mouse" | "pad" | (string & {});
}

/** A control that the game feeds itself. */
export interface OwnControlFields {
  /**
   * What it gives: `button` (0 or 1, or between), `trigger` (0..1), `axis` (-1..1), `stick` (its parts `ThumbX`, `ThumbY` -1..1, y down,
   * and sides such as `ThumbUp`), `amount` (`TiltX`, `TiltY`: adds up between steps).
   */
  readonly kind: OwnKind;
  /** The name that players read. @default the control's name */
  readonly label?: string;
  /** What it is on, as readings and slots say it. @default "own" */
  readonly device?: string;
  /** Whether it stays as it is when the focus is lost. @default false */
  readonly keepsFocus?: boolean;
}

/** One player's place. */
export interface SeatFields {
  /** The slots that this player uses; several seats may name one slot where its device is the pad. */
  readonly slots: readonly string[];
}

/** A fact that the game tells the layer. */
export interface Flag {
  /** Its value at the start and after a reset. @default false */
  readonly start?: boolean;
  /** How long it still counts as true after the game sets it false, in ms, its end included. @default 0 */
  readonly lingerMs?: number;
}

/** A named situation. */
export interface Mode {
  /** What it hides of the modes below: nothing, the controls that its own actions use, or all their actions. @default "same" */
  readonly covers?: "none" | "same" | "all";
}

/** What an action of this kind may say. */
export type Action<T extends Kind = Kind, N extends FieldNames = AnyNames> = {
  readonly kind: T;
} & ActionFields<N>[T];

/** The fields of an action by its kind. */
export interface ActionFields<N extends FieldNames = AnyNames> {
  /** On or off. */
  readonly switch: { readonly kind: "switch" } & SwitchFields<N>;
  /** One number. */
  readonly axis: { readonly kind: "axis" } & AxisFields<N>;
  /** A direction with a length. */
  readonly vector: { readonly kind: "vector" } & VectorFields<N>;
  /** An amount turned in each step. */
  readonly turn: { readonly kind: "turn" } & TurnFields<N>;
}

/** What every action may say. */
export interface CommonFields<N extends FieldNames = AnyNames> {
  /** The name that players read. @default the action's name */
  readonly label?: string;
  /** The modes in which it is live. @default always live, and covered by none */
  readonly in?: readonly N["mode"][];
  /** Whether players must leave it a control: a switch at least one, a vector one for every direction. @default false */
  readonly required?: boolean;
  /** Whether players can change nothing about it. @default false */
  readonly locked?: boolean;
  /** What players may change about it. @default its controls, and all styles of a switch */
  readonly player?: PlayerFields;
  /** Its names in earlier versions of the plan, so that older overrides still find it. */
  readonly was?: readonly string[];
}

/** What players may change of an action; a range is [least, most]. */
export interface PlayerFields {
  /** Whether players may change its controls. @default true */
  readonly controls?: boolean;
  /** Whether its control may do something else as well. @default true */
  readonly both?: boolean;
  /** The styles that a switch may have. @default all */
  readonly style?: readonly Style[];
  /** The window of its taps, in ms. @default not to be changed */
  readonly gapMs?: Range;
  /** How short a press of an `either` stays on, in ms. @default not to be changed */
  readonly tapMs?: Range;
  /** How long its long press takes, in ms. @default not to be changed */
  readonly afterMs?: Range;
  /** The time between its pulses, in ms. @default not to be changed */
  readonly everyMs?: Range;
  /** The inner dead zone, 0..1. @default not to be changed */
  readonly "deadZone.inner"?: Range;
  /** The outer dead zone, 0..1. @default not to be changed */
  readonly "deadZone.outer"?: Range;
  /** The gain. @default not to be changed */
  readonly gain?: Range;
  /** Of a turn: how far the mouse turns for each pixel. @default not to be changed */
  readonly perPixel?: Range;
  /** Of a turn: how far a stick turns in each second at full tilt. @default not to be changed */
  readonly perSecond?: Range;
  /** Whether a player may invert a stick, or the mouse of a turn. @default false */
  readonly invert?: boolean;
}

/** What players may change of the whole plan. */
export interface PlanPlayerFields {
  /** How long a release waits for a press that undoes it, in ms. @default [0, 100] */
  readonly bounceMs?: Range;
  /** Whether a player may swap the two sticks of a pad. @default true */
  readonly swapSticks?: boolean;
  /** Whether a player may turn all holds into toggles: those whose own `player.style` names "toggle". @default true */
  readonly holds?: boolean;
}

/** The least and the most that a player may set. */
export type Range = readonly [least: number, most: number];

/** On or off: a button of the game. */
export interface SwitchFields<N extends FieldNames = AnyNames> extends CommonFields<N> {
  /** By slot: a control, a direction of a vector (`swim.right`), a gesture, or a list of these. */
  readonly from: InSlots<N, SwitchEntry<N>>;
  /** How a press turns it on and off: on while held, on and off in turn, or either, depending on how long the press is. @default "hold" */
  readonly style?: Style;
  /** For `either`: a press no longer than this stays on, in ms, its end included. @default 250 */
  readonly tapMs?: number;
  /** For `toggle` and `either`: on at the start and after a reset. @default false */
  readonly startsOn?: boolean;
  /** Flags, switches, axes, vectors and their directions that must all be true; `not` before a name negates it. When one fails, it goes off. */
  readonly needs?: N["word"] | TimedWord<N> | readonly (N["word"] | TimedWord<N>)[];
  /**
   * Whether a held key turns it on again once all needs are true again. A list names the needs for which
   * it does, and for which a first press waits; after any other need has failed, it must be pressed again. A list is for holds. @default true
   */
  readonly resume?: boolean | N["word"] | TimedWord<N> | readonly (N["word"] | TimedWord<N>)[];
  /**
   * Whether each of its keys is a press of its own, even while it is on: a hold or a repeat starts over, a toggle
   * flips. Not for an `either`. Without it, a second key is ignored while it is on. @default false
   */
  readonly anew?: boolean;
  /** Of the switches with this name, at most one is on: the newest. */
  readonly oneOf?: string;
  /** Pulses while it is on. */
  readonly repeat?: Repeat;
  /** A press within this time after it last turned on is ignored, in ms, its end included. @default 0 */
  readonly cooldownMs?: number;
  /** Flags, switches, axes and vectors that must all be true when it begins; what fails later does not turn it off. @default none */
  readonly beginsIf?: N["word"] | TimedWord<N> | readonly (N["word"] | TimedWord<N>)[];
  /** Flags that go false, without lingering, when it begins: no second jump from one edge. @default none */
  readonly spends?: N["flag"] | readonly N["flag"][];
  /**
   * How long a press that cannot begin yet is kept, in ms, its end included; it begins as soon as it can. A beginning waits as
   * long for `take`, which is true once. @default 0
   */
  readonly bufferMs?: number;
  /** For a hold: a key already down counts when it becomes live. @default false */
  readonly carry?: boolean;
  /** Whether it comes back as it was when it is live again. @default true */
  readonly comesBack?: boolean;
}

/** A condition that must have been so for a while. */
export interface TimedWord<N extends FieldNames = AnyNames> {
  /** A flag, a switch that is on, an axis or a vector that moves, or a direction of it (`swim.up`); `not` negates it. */
  readonly is: N["word"];
  /** How long it must have been true, in ms. */
  readonly forMs: number;
}

/** Pulses while a switch is on: one when it turns on, then regularly. */
export interface Repeat {
  /** From one pulse to the next, in ms. */
  readonly everyMs: number;
  /** From the first pulse to the second, in ms. @default everyMs */
  readonly afterMs?: number;
  /** No two pulses are closer than this, whatever is released and pressed between, in ms; at most everyMs. @default 0 */
  readonly apartMs?: number;
}

/** What drives a switch. */
export type SwitchEntry<N extends FieldNames = AnyNames> = N["source"] | Gestures<N>[keyof Gestures];

/** The entries that are written out, by the kind that they are read as. A new gesture of the language stands here. */
export interface Gestures<N extends FieldNames = AnyNames> {
  /** A control or a direction, with options. */
  readonly plain: PlainEntry<N>;
  /** Presses that follow each other closely. */
  readonly taps: TapsEntry<N>;
  /** A press let go soon. */
  readonly short: ShortEntry<N>;
  /** A press held for a while. */
  readonly long: LongEntry<N>;
  /** Several controls held together. */
  readonly all: AllEntry<N>;
  /** Presses in a set order. */
  readonly series: SeriesEntry<N>;
  /** A stick thrown from rest to its end. */
  readonly flick: FlickEntry<N>;
}

/** What is pressed, with options. */
export interface SourceFields<N extends FieldNames = AnyNames> {
  /** The control, a direction of an axis or a vector, or an axis or a vector itself: its length, 0..1. */
  readonly use: N["source"];
  /** For controls with a value: where they count as pressed and as released. */
  readonly threshold?: Threshold;
  /**
   * Of a direction: as it comes out of the hands, after dead zone, curve, opposed and directions, before ease and pace. `true`: how far that
   * way. `"sector"`: the nearest of the eight directions (of four, with `directions` 4), one at a time. @default the raw direction; of a diagonal (`swim.upLeft`) "sector"
   */
  readonly result?: true | "sector";
}

/** A control or a direction, with options. */
export interface PlainEntry<N extends FieldNames = AnyNames> extends SourceFields<N> {
  /** Whether it waits until no gesture on the same control can still claim the press. @default false */
  readonly waits?: boolean;
}

/** From where on an analog control counts as pressed, and below which value as released. */
export interface Threshold {
  /** Pressed from here on, 0..1. @default 0.5 */
  readonly press?: number;
  /** Released below this, 0..1, so that a trembling trigger is one press. @default 0.8 of press */
  readonly release?: number;
}

/** Presses that follow each other closely. It rises at the last one and falls when that is released. */
export interface TapsEntry<N extends FieldNames = AnyNames> {
  /** Presses needed, 2 to 9. */
  readonly taps: number;
  /** A control, a direction (`swim.right`), or `swim.each`: the four directions, each on its own. */
  readonly of: N["source"] | SourceFields<N>;
  /** Longest time from one press to the next, in ms, its end included. @default 250 */
  readonly gapMs?: number;
  /** Longest time that any press but the last may be held, in ms, its end included. @default any */
  readonly eachMs?: number;
  /** What ends the count: a press of the opposite direction, of any other key or button, or nothing. @default "opposite" for directions, else "none" */
  readonly brokenBy?: "opposite" | "any" | "none";
  /** Longest time from the first press to the last, in ms, its end included; without `gapMs` that is as long. @default any */
  readonly withinMs?: number;
  /** What must be held throughout: a control, a direction, or several. */
  readonly with?: N["source"] | SourceFields<N> | readonly (N["source"] | SourceFields<N>)[];
}

/** A press let go soon. It rises and falls at the release. */
export interface ShortEntry<N extends FieldNames = AnyNames> {
  /** The control, or a direction. */
  readonly short: N["source"] | SourceFields<N>;
  /** Longest time from press to release, in ms, its end included. @default afterMs of a long on the same control, else 250 */
  readonly beforeMs?: number;
}

/** A press held for a while. It rises when the time is up and falls at the release. */
export interface LongEntry<N extends FieldNames = AnyNames> {
  /** The control, or a direction. */
  readonly long: N["source"] | SourceFields<N>;
  /** Time from the press, in ms. @default 400 */
  readonly afterMs?: number;
}

/** Several controls held together. The press that completes it is taken from other switches. */
export interface AllEntry<N extends FieldNames = AnyNames> {
  /** Two or more controls or directions. */
  readonly all: readonly (N["source"] | SourceFields<N>)[];
  /** Longest time from the first press to the last, in ms, its end included. @default any */
  readonly spreadMs?: number;
}

/** Presses in a set order. It rises at the last one and falls when that is released. */
export interface SeriesEntry<N extends FieldNames = AnyNames> {
  /** Two or more controls or directions, in order. */
  readonly series: readonly (N["source"] | SourceFields<N>)[];
  /** Longest time from one press to the next, in ms, its end included. @default 250 */
  readonly gapMs?: number;
  /** Longest time from the first press to the last, in ms, its end included; without `gapMs` that is as long. @default any */
  readonly withinMs?: number;
  /** What must be held throughout: a control, a direction, or several. */
  readonly with?: N["source"] | SourceFields<N> | readonly (N["source"] | SourceFields<N>)[];
}

/** A stick thrown from rest to its end. It rises there, and falls when the stick is let go. */
export interface FlickEntry<N extends FieldNames = AnyNames> {
  /** A direction (`swim.right`) or one side of a stick (`PadLeftStickRight`). Keys and buttons of a direction are ignored. */
  readonly flick: N["source"] | SourceFields<N>;
  /** Longest time from rest (0.3) to the end (0.8), in ms, its end included. @default 80 */
  readonly withinMs?: number;
}

/** How a press becomes on and off. */
export type Style = "hold" | "toggle" | "either";

/** What axes and vectors share. */
export interface MovementFields<N extends FieldNames = AnyNames> extends CommonFields<N> {
  /** What two opposite directions held together do: the one pressed last wins, the one pressed first keeps it, or zero. @default "latest" */
  readonly opposed?: "latest" | "earliest" | "neutral";
  /** What turns a raw stick or trigger into a usable number. */
  readonly shape?: Shape;
  /** A ramp that lets a key rise and fall like a stick. @default none: a key is there at once */
  readonly ease?: Ease;
  /** Whether the longest of keys and sticks wins, or all are added and limited to length 1. @default "longest" */
  readonly combine?: "longest" | "sum";
  /** The shaped length from which a stick turns the facing, 0..1. @default 0.25 */
  readonly facingFrom?: number;
  /** Named bands, each with the length (above 0 and up to 1) or the speed at which it begins. */
  readonly gaits?: Readonly<Record<string, number>>;
  /** What the bands measure: the length, or the length times the pace in the pace's unit, as for animations. @default "length" */
  readonly gaitsBy?: "length" | "speed";
  /** How far below its beginning a gait still holds, so that it does not flicker, as a length or a speed. @default 0.04; by speed 0.04 of where it begins */
  readonly gaitMargin?: number;
  /** How long "it moves" stays true after it comes to rest, in ms, its end included: a change of direction is no stop. @default 0 */
  readonly lingerMs?: number;
  /** The speed that goes with the movement. */
  readonly pace?: Pace<N>;
}

/** A ramp for what keys give, each component on its own; a function of time, whatever the step rate. */
export interface Ease {
  /** Time from rest to full, in ms. @default 90 */
  readonly riseMs?: number;
  /** Time from full to rest, in ms. @default 60 */
  readonly fallMs?: number;
  /** When the direction reverses: jump to zero and rise, or ramp down through zero. @default "instant" */
  readonly turn?: "instant" | "through";
}

/** A control written out, to carry options of its own. */
export interface UsedControl<N extends FieldNames = AnyNames, C extends string = N["end"]> {
  /** The control. */
  readonly use: C;
  /** Laid over the action's own shape, field by field; `gain` and `invert` multiply. */
  readonly shape?: Shape;
}

/** One end of a movement: a control, or one written out. */
export type EndEntry<N extends FieldNames = AnyNames> = N["end"] | UsedEnd<N>;

/** A control as one end of a movement, written out. */
export interface UsedEnd<N extends FieldNames = AnyNames> extends UsedControl<N, N["end"]> {
  /** Where it counts as pressed, for gestures on the direction. */
  readonly threshold?: Threshold;
}

/** What drives an axis. */
export type AxisEntry<N extends FieldNames = AnyNames> = N["axis"] | UsedControl<N, N["axis"]> | AxisEnds<N>;

/** A movement in one dimension, -1..1: left and right in most side-scrollers. */
export interface AxisFields<N extends FieldNames = AnyNames> extends MovementFields<N> {
  /** The names of its two ends, the negative one first, used in its entries, addresses and directions (`walk.left`). @default ["minus", "plus"] */
  readonly ends?: readonly [negative: string, positive: string];
  /** The end faced before anything has moved. @default the second end */
  readonly faces?: string;
  /** By slot: a one-dimensional control, a control for each end, or a list of these. */
  readonly from: InSlots<N, AxisEntry<N>>;
}

/** A control for each end of an axis. */
export interface AxisEnds<N extends FieldNames = AnyNames> {
  /** The control that gives -1. */
  readonly minus?: EndEntry<N>;
  /** The control that gives +1. */
  readonly plus?: EndEntry<N>;
  /** Where the axis names its ends: the control of each. */
  readonly [end: string]: EndEntry<N> | undefined;
}

/** An amount turned in each step, such as a look around: a mouse moves by amounts, a stick by a rate. */
export interface TurnFields<N extends FieldNames = AnyNames> extends CommonFields<N> {
  /** By slot: the mouse or a stick, or a list of these. */
  readonly from: InSlots<N, TurnEntry<N>>;
  /** The dead zone and curve of its sticks; `gain` and `invert` are the mouse's as well. */
  readonly shape?: Shape;
  /** What multiplies it while a condition is true: a slower look while aiming. */
  readonly pace?: TurnPace<N>;
}

/** The pace of a turn: factors alone. */
export interface TurnPace<N extends FieldNames = AnyNames> {
  /** Rules that all multiply, each while all its conditions are true. */
  readonly rules: readonly TurnPaceRule<N>[];
}

/** One factor of a turn. */
export interface TurnPaceRule<N extends FieldNames = AnyNames> {
  /** Flags, switches, axes and vectors that must all be true; `not` before a name negates it. */
  readonly when: N["word"] | TimedWord<N> | readonly (N["word"] | TimedWord<N>)[];
  /** The factor, or the name of a number. */
  readonly times: number | N["number"];
}

/** What drives a turn. */
export type TurnEntry<N extends FieldNames = AnyNames> = MouseTurn<N> | StickTurn<N> | OwnTurn<N>;

/** An own amount. */
export interface OwnTurn<N extends FieldNames = AnyNames> {
  /** A control of the plan's own whose kind is `amount`. */
  readonly use: N["turn"];
  /** Degrees, or whatever unit the game turns in, for each unit of it. */
  readonly perUnit: number;
  /** Its own gain and inversion, which multiply the action's. */
  readonly shape?: Pick<Shape, "gain" | "invert">;
}

/** The mouse as an amount. */
export interface MouseTurn<N extends FieldNames = AnyNames> {
  /** `MouseMove`. */
  readonly use: N["turn"];
  /** Degrees, or whatever unit the game turns in, for each pixel. */
  readonly perPixel: number;
  /** Its own gain and inversion, which multiply the action's. */
  readonly shape?: Pick<Shape, "gain" | "invert">;
}

/** A stick as a rate. */
export interface StickTurn<N extends FieldNames = AnyNames> extends UsedControl<N, N["turn"]> {
  /** Degrees, or whatever unit the game turns in, for each second at full tilt. */
  readonly perSecond: number;
}

/** A direction with a length, such as a movement in the plane. */
export interface VectorFields<N extends FieldNames = AnyNames> extends MovementFields<N> {
  /** By slot: a stick, a control for each direction, or a list of these. */
  readonly from: InSlots<N, VectorEntry<N>>;
  /** How many directions there are; with 4, of two perpendicular ones the one pressed last wins. @default "free" */
  readonly directions?: "free" | 8 | 4;
  /** Whether two keys give a length of 1 (`round`), or 1 in both components (`square`). @default "round" */
  readonly diagonal?: "round" | "square";
  /** The direction faced before anything has moved. @default "down" */
  readonly faces?: Direction;
  /** How long a movement must last before a diagonal facing turns to one of its two neighbours, in ms. @default 60 */
  readonly settleMs?: number;
}

/** What drives a vector. */
export type VectorEntry<N extends FieldNames = AnyNames> = N["vector"] | UsedVector<N> | Directions<N>;

/** A stick, a direction pad or the pointer of a vector, written out. */
export interface UsedVector<N extends FieldNames = AnyNames> extends UsedControl<N, N["vector"]> {
  /** Of `MousePoint`: the spot that it is measured from. @default the middle of the area */
  readonly around?: N["spot"];
  /** Of `MousePoint`: from this distance on the length is 1; nearer it falls to 0 at the spot. In halves of the area's shorter side. @default 0.25 */
  readonly fullFrom?: number;
}

/** One of the four directions. */
export type Direction = "up" | "left" | "down" | "right";

/** A control for each direction. */
export interface Directions<N extends FieldNames = AnyNames> {
  /** The control that moves up. */
  readonly up?: EndEntry<N>;
  /** The control that moves left. */
  readonly left?: EndEntry<N>;
  /** The control that moves down. */
  readonly down?: EndEntry<N>;
  /** The control that moves right. */
  readonly right?: EndEntry<N>;
}

/** What turns a raw stick or trigger into a usable number: dead zone, then curve, then gain. */
export interface Shape {
  /** The parts of the travel that count as rest and as full tilt. */
  readonly deadZone?: DeadZone;
  /** How the travel between the zones is bent. */
  readonly curve?: Curve;
  /** Multiplies the bent travel, limited to 1; for a mouse, multiplies the turn. @default 1 */
  readonly gain?: number;
  /** Which direction of a stick is inverted; any of these, or `true`, inverts an axis. @default neither */
  readonly invert?: "x" | "y" | "both" | true;
}

/** The parts of the travel that count as rest and as full tilt. */
export interface DeadZone {
  /** By the length of the tilt, keeping its direction (`round`), or on each axis alone (`cross`). @default "round" */
  readonly kind?: "round" | "cross";
  /** The share of the travel from the centre that counts as rest, 0..1. @default 0.12 for sticks, 0.05 for triggers */
  readonly inner?: number;
  /** The share of the travel at the rim that counts as full tilt, 0..1. @default 0.04 for sticks, 0.02 for triggers */
  readonly outer?: number;
}

/** How the travel between the zones is bent. */
export interface Curve {
  /** The travel to this power: above 1 is finer near the centre. @default 1 */
  readonly power?: number;
  /** Instead of a power: points [travel, result] from [0, 0], joined by straight lines; travel rises, and the result never falls. */
  readonly points?: readonly (readonly [number, number])[];
}

/** The speed that goes with a vector. */
export interface Pace<N extends FieldNames = AnyNames> {
  /** The unit of the speed, for people. */
  readonly unit?: string;
  /** The speed when no rule holds, in the pace's unit, or the name of a number. */
  readonly base: number | N["number"];
  /** Rules applied in order, each while all its conditions are true. */
  readonly rules?: readonly PaceRule<N>[];
  /** Time in which the pace moves to a new value, in a straight line, in ms. @default 0 */
  readonly easeMs?: number;
}

/** One rule of a pace: `set` replaces the speed, `times` multiplies it. */
export interface PaceRule<N extends FieldNames = AnyNames> {
  /** Flags, switches, axes and vectors that must all be true; `not` before a name negates it. */
  readonly when: N["word"] | TimedWord<N> | readonly (N["word"] | TimedWord<N>)[];
  /** The speed from here on, in the pace's unit, or the name of a number. */
  readonly set?: number | N["number"];
  /** The factor for the speed so far, or the name of a number. */
  readonly times?: number | N["number"];
}
