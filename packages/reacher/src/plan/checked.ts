/** A plan that has been read and found able to run: defaults filled in, names resolved, entries taken apart. */
import type { Control } from "../controls/catalogue.js";
import type { OwnControl } from "../controls/ownControls.js";
import type { Direction, Style } from "./types.js";

/** A plan as it runs: every default filled in, every name resolved. */
export interface CheckedPlan {
  readonly name: string;
  readonly version: number;
  readonly yAxis: "up" | "down";
  /** The controls that the plan names itself. */
  readonly controls: readonly OwnControl[];
  readonly slots: readonly CheckedSlot[];
  readonly flags: readonly CheckedFlag[];
  readonly numbers: readonly { readonly name: string; readonly value: number }[];
  /** From where the pointer may be measured; the last is the pointer's own place. Empty without a pointer and spots. */
  readonly spots: readonly { readonly name: string; readonly value: readonly [x: number, y: number] }[];
  /** In the plan's order; those below come before those above only by being entered. */
  readonly modes: readonly CheckedMode[];
  /** The modes on at the start, lowest first. */
  readonly start: readonly string[];
  readonly actions: readonly CheckedAction[];
  /** The players' places; one, `solo`, with all slots, where the plan names none. */
  readonly seats: readonly CheckedSeat[];
  /** A release followed by a press within this time is none, in ms. */
  readonly bounceMs: number;
  /** Controls that no player may give to anything else. */
  readonly protected: readonly string[];
  /** Whether the plan names its seats: then each has one pad of its own. */
  readonly seated: boolean;
}

/** A player's place, with the slots that it plays with. */
export interface CheckedSeat {
  readonly name: string;
  readonly slots: readonly string[];
}

/** A column of bindings. */
export interface CheckedSlot {
  readonly name: string;
  readonly label: string;
  readonly device: string | undefined;
}

/** A fact that the game tells, with its value at the start. */
export interface CheckedFlag {
  readonly name: string;
  readonly start: boolean;
  readonly lingerMs: number;
}

/** A situation, and what it hides of those below. */
export interface CheckedMode {
  readonly name: string;
  readonly covers: "none" | "same" | "all";
}

/** An action of any kind. */
export type CheckedAction = CheckedSwitch | CheckedMovement | CheckedTurn;

/** An amount turned in each step. */
export interface CheckedTurn {
  readonly kind: "turn";
  readonly name: string;
  readonly label: string;
  readonly in: readonly string[];
  /** What multiplies it while it holds. */
  readonly rules: readonly CheckedPaceRule[];
  /** The mouse, with the amount for each pixel each way, y up; and own amounts, with that for each unit. */
  readonly mice: readonly (Placed & {
    readonly perPixel: number;
    readonly perPixelX: number;
    readonly perPixelY: number;
  })[];
  /** Sticks, with the amount for each second at full tilt. */
  readonly sticks: readonly (CheckedStick & { readonly perSecond: number })[];
}

/** An action that is on or off. */
export interface CheckedSwitch extends CheckedOptions {
  readonly kind: "switch";
  readonly name: string;
  readonly label: string;
  readonly in: readonly string[];
  readonly entries: readonly CheckedEntry[];
  /** Whether its style is, or a player may make it, an either, whose rule has a cell. */
  readonly mayBeEither: boolean;
}

/** What else a switch may say, with the defaults filled in. A new option of the language stands here. */
export interface CheckedOptions {
  readonly style: Style;
  readonly tapMs: number;
  readonly startsOn: boolean;
  readonly needs: readonly Word[];
  /** Or the needs with which it comes back. */
  readonly resume: boolean | readonly Word[];
  readonly anew: boolean;
  readonly oneOf: string | undefined;
  readonly repeat:
    { readonly everyMs: number; readonly afterMs: number; readonly apartMs: number } | undefined;
  readonly cooldownMs: number;
  readonly beginsIf: readonly Word[];
  /** Names of flags. */
  readonly spends: readonly string[];
  readonly bufferMs: number;
  readonly carry: boolean;
  readonly comesBack: boolean;
}

/** What drives a switch: something pressed, or a gesture made of such. */
export type CheckedEntry = {
  [K in keyof CheckedGestures]: {
    readonly kind: K;
    readonly address: string;
    readonly slot: string;
    /** One; the members of a gesture that has several; or of taps the four directions, each counted on its own. */
    readonly of: readonly Source[];
  } & CheckedGestures[K];
}[keyof CheckedGestures];

/** The kinds of entries. Numbers of ms that are absent are `undefined`. A new gesture of the language stands here. */
export interface CheckedGestures {
  readonly plain: { readonly waits: boolean };
  readonly taps: {
    readonly taps: number;
    readonly gapMs: number;
    readonly eachMs: number | undefined;
    readonly brokenBy: "opposite" | "any" | "none";
    readonly withinMs: number | undefined;
    readonly with: readonly Source[];
  };
  readonly short: { readonly beforeMs: number };
  readonly long: { readonly afterMs: number };
  readonly all: { readonly spreadMs: number | undefined };
  readonly series: {
    readonly gapMs: number;
    readonly withinMs: number | undefined;
    readonly with: readonly Source[];
  };
  readonly flick: { readonly withinMs: number };
}

/** Something that can be pressed: a control, a direction of a vector or an axis, or what these come out as. */
export type Source =
  | { readonly name: string; readonly control: Control; readonly press: number; readonly release: number }
  | { readonly name: string; readonly action: string; readonly end: Direction }
  | ResultSource;

/** A direction or the length of an axis or a vector as it comes out of the hands. */
export interface ResultSource {
  readonly name: string;
  readonly action: string;
  readonly result: "component" | "sector" | "length";
  /** Which way; of a length this says nothing. */
  readonly way: Sector;
  readonly press: number;
  readonly release: number;
}

/** One of the eight directions. */
export type Sector = Direction | "upLeft" | "upRight" | "downLeft" | "downRight";

/** An axis or a vector; an axis is a vector that has only its x. */
export interface CheckedMovement {
  readonly kind: "axis" | "vector";
  readonly name: string;
  readonly label: string;
  readonly in: readonly string[];
  readonly opposed: "latest" | "earliest" | "neutral";
  readonly directions: "free" | 8 | 4;
  readonly diagonal: "round" | "square";
  readonly faces: Direction;
  readonly facingFrom: number;
  readonly settleMs: number;
  /** Lowest first. */
  readonly gaits: readonly { readonly name: string; readonly from: number }[];
  readonly gaitsBy: "length" | "speed";
  /** Missing where the default is to be taken. */
  readonly gaitMargin: number | undefined;
  readonly pace: CheckedPace | undefined;
  readonly ease: { readonly riseMs: number; readonly fallMs: number; readonly through: boolean } | undefined;
  readonly combine: "longest" | "sum";
  readonly lingerMs: number;
  /** The names of all its ends. */
  readonly endNames: readonly string[];
  readonly ends: readonly CheckedEnd[];
  readonly sticks: readonly CheckedStick[];
}

/** Where an entry stands: `swim.main.up`. */
export interface Placed {
  readonly address: string;
  readonly slot: string;
  readonly control: Control;
}

/** A control that counts as pressed from `press` and as released below `release`. */
export interface CheckedPress extends Placed {
  readonly press: number;
  readonly release: number;
}

/** One end of an axis or one direction of a vector. */
export interface CheckedEnd extends CheckedPress {
  /** As the plan names it. */
  readonly end: string;
  /** Where it leads: the two ends of an axis are left and right. */
  readonly way: Direction;
  readonly shape: CheckedShape;
}

/** A stick of a vector, or a one-dimensional control of an axis. */
export interface CheckedStick extends Placed {
  readonly shape: CheckedShape;
  /** Of the pointer: the spot that it is measured from (the middle without one), and from which distance on its length is 1. */
  readonly pointer?: { readonly around?: string; readonly fullFrom: number };
}

/** What turns a raw stick or trigger into a usable number. */
export interface CheckedShape {
  readonly kind: "round" | "cross";
  readonly inner: number;
  readonly outer: number;
  readonly power: number;
  readonly points: readonly (readonly [number, number])[] | undefined;
  readonly gain: number;
  readonly invertX: boolean;
  readonly invertY: boolean;
}

/** The speed that goes with a movement. */
export interface CheckedPace {
  readonly unit: string;
  /** A number, or the name of one. */
  readonly base: number | string;
  readonly rules: readonly CheckedPaceRule[];
  readonly easeMs: number;
}

/** One rule of a pace, or of a turn's factors. */
export interface CheckedPaceRule {
  readonly when: readonly Word[];
  readonly set: number | string | undefined;
  readonly times: number | string | undefined;
}

/** A condition that must be so, or with `not` must not. */
export interface Word {
  readonly name: string;
  readonly not: boolean;
  /** For how long it must have been so, in ms. */
  readonly forMs?: number;
  /** Of a direction: what comes out. */
  readonly of?: ResultSource;
}
