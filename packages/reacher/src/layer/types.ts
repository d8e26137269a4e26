/** The public types of a layer, for games, devices and recorders. */
import type { WatchedCommand } from "./command.js";
import type { EndedBy } from "../engine/switches/reading.js";
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import type { Device } from "../controls/catalogue.js";
import type { AnyOtherNames, OtherNames } from "../plan/fieldNames.js";
import type { Kinds, Plan } from "../plan/types.js";
import type { Reading } from "../engine/readings.js";
import type { Moment } from "../plan/arguments.js";

export type { Moment };

/** One raw event: a control has this value from now on. */
export interface RawEvent {
  /** The moment, in ms on the clock of `performance.now()` and `event.timeStamp`. */
  readonly t: number;
  /** A raw control: a key, a button, one axis of a stick. */
  readonly control: string;
  /** 1 and 0 for keys, 0..1 for buttons and triggers, -1..1 for axes (down is +1, as pads report it). */
  readonly value: number;
  /** The pad's index. @default 0 */
  readonly pad?: number;
}

/** How many events were late, ignored or left out. */
export interface Counters {
  /** Events stamped at or before the last step, which count at its time. */
  readonly late: number;
  /** Events that were ignored: an unknown control, a time or value that is not a number, too many pads. */
  readonly ignored: number;
  /** Pulses that were not announced: a step longer than 1000 ms announces at most one per whole second. */
  readonly skipped: number;
}

/** The names of a plan's actions of one kind: so `on` takes switches alone. */
export type NamesOf<K extends Kinds, T> = { [A in keyof K]: T extends K[A] ? A : never }[keyof K] & string;

/** Ends a callback. */
export type Unsubscribe = () => void;

/** One player's seat: its reading, and what the game can tell it. */
export interface Seat<
  K extends Kinds = Kinds,
  F extends string = string,
  N extends string = string,
  X extends OtherNames = AnyOtherNames,
> {
  readonly name: string;
  /**
   * The plan with this player's changes, and the slots of it that the seat plays with now. Where it plays by code that was made for its plan, and
   * `bringKeys` has loaded nothing yet, settings count all the same, and are missing in its text.
   */
  readonly own: Plan<K, F, N, X>;
  readonly slots: readonly string[];
  /** The reading; one object for the layer's life, always as of the last step. */
  readonly now: Reading<K, X["gaits"]>;
  /** The device the seat used last, for prompts; noise of a stick at rest does not count. `null` before anything was used. */
  readonly lastDevice: Device | (string & {}) | null;
  /** The index of this seat's own pad; `null` if it has none, and in a plan without seats, which takes any pad. */
  readonly pad: number | null;
  /** Whether that pad is lost and the seat waits for it. */
  readonly padLost: boolean;
  /**
   * Sets a flag, at time `t` (ms), or, without `t`, at the last step's time and before any event not yet handled.
   * @throws ReacherError if the plan has no such flag
   */
  setFlag(flag: F, on: boolean, t?: number | FlagOptions): void;
  /**
   * Sets one of the plan's numbers, at time `t` (ms), or, without `t`, at the last step's time: a power-up, a designer's slider.
   * A pace with `easeMs` ramps to it. @throws ReacherError if the plan has no such number, or the value is not one
   */
  setNumber(name: N, value: number, t?: Moment): void;
  /**
   * Tells where a spot is from which the pointer is measured, at time `t` (ms), or, without `t`, at the last step's time: x and y from the middle of the
   * area in halves of its shorter side, y down. It is no move of a hand. `"pointer"` is the pointer's own place, where the page has another size.
   * @throws ReacherError if the plan has no such spot
   */
  setSpot(name: X["spots"] | "pointer", x: number, y: number, t?: Moment): void;
  /** The present value of one of the plan's numbers. @throws ReacherError if the plan has no such number */
  number(name: N): number;
  /** The modes that are on, lowest first; which flags count as true; the reasons of each action that is muted. For a panel, or a test. */
  readonly modes: readonly X["modes"][];
  readonly flags: Readonly<Record<F, boolean>>;
  readonly mutes: Readonly<Partial<Record<keyof K & string, readonly string[]>>>;
  /** Whether an action is live: no mode covers it, and nothing mutes it. @throws ReacherError for an unknown action */
  live(action: keyof K & string): boolean;
  /** A frozen copy of the reading as plain values: for tests, and for state that is compared. */
  copy(): Reading<K, X["gaits"]>;
  /** Puts everything to rest as a cancellation, not a release: the window has lost its focus, or the pad with this index is gone. */
  lose(what: "pad", pad: number, t?: Moment): void;
  /** The same; or for the device of own controls, by its name. @throws ReacherError if the plan has no controls on such a device */
  lose(what: "focus" | (string & {}), t?: Moment): void;
  /**
   * Takes a raw event of one of the plan's own controls, for this seat alone. @throws ReacherError for any other control: the layer takes these
   */
  feed(event: RawEvent): void;
  /** Puts everything back to the start. Held controls keep moving axes and vectors, but turn a switch on only when pressed again. */
  reset(t?: Moment): void;
  /**
   * Calls `fn` during `step` whenever the switch turns on, turns off, pulses or begins with a `bufferMs` (`grant`), with the exact
   * moment in ms, and for `off` with how it ended. Returns a function that stops it.
   *
   * Callbacks come last at their moment, when all that the event changes has changed: readings (`now`) are as of that moment, and what a
   * callback calls happens at it, after the event at hand. They come by moments, in the plan's order at one moment; of one action
   * on or off first, then pulse, then grant; several of one change in the order in which they were added. One that throws keeps none
   * of the others from being called: the first error leaves `step` when the event is done.
   * @example input.on("kick", "off", (t, endedBy) => endedBy === "released" && glide(t));
   */
  on(action: NamesOf<K, "switch">, change: "off", fn: (t: number, endedBy: EndedBy) => void): Unsubscribe;
  on(action: NamesOf<K, "switch">, change: SwitchChange, fn: (t: number) => void): Unsubscribe;
  /** Puts a mode on top, or moves it there. @throws ReacherError if the plan has no such mode */
  enter(mode: X["modes"], t?: Moment): void;
  /** Leaves a mode. @throws ReacherError if the plan has no such mode */
  leave(mode: X["modes"], t?: Moment): void;
  /** Makes an action not live, for a reason: an animation, a cut scene. @throws ReacherError for an unknown action, or a 32nd reason */
  mute(action: keyof K & string, reason: string, t?: Moment): void;
  /** Removes one reason, or all of them; without reasons the action is live again. @throws ReacherError for an unknown action */
  unmute(action: keyof K & string, reason?: string, t?: Moment): void;
  /**
   * Sets a toggle or the latch of an `either`, whatever it was: calling it twice is calling it once. It checks only `needs`, and is
   * remembered while the action is not live. A hold can only be turned off, until it is pressed again: `true` does not compile.
   * @throws ReacherError for an unknown switch
   */
  setSwitch(action: NamesOf<K, "switch">, on: false, t?: Moment): void;
  setSwitch(action: NamesOf<K, "switch"> & X["toggles"], on: boolean, t?: Moment): void;
  /**
   * The game drives an action itself: a cutscene, an assist, a button on the screen. `true` presses a switch, a number moves an axis
   * (-1..1), `{ x, y }` or `[x, y]` a vector (clamped to length 1, y as in the reading); `false` or `null` lets go. No mute
   * silences it. At most 4 reasons move an action at once.
   * @example input.drive("swim", [0, 1], "cutscene", { how: "alone", blendMs: 400 }); // and later: input.drive("swim", null, "cutscene", { blendMs: 400 })
   * @throws ReacherError for an unknown action, a turn, a value that does not fit, or a reason too many
   */
  drive<A extends DrivenNames<K>>(
    action: A,
    value: DriveOf<K[A]> | false | null,
    reason: string,
    options?: number | DriveOptions,
  ): void;
  /** True once for each beginning of a switch with `bufferMs`, in the step that handled it and up to `bufferMs` after. @throws ReacherError for an unknown switch */
  take(action: NamesOf<K, "switch">): boolean;
  /**
   * Replaces this player's changes, at once and while playing: what is on stays on, what is held stays held if its control
   * still does the same, and a newly bound key that is already down waits for a new press. Returns the changes that did not fit.
   * @throws ReacherError if these are not overrides; then nothing changes
   */
  setOverrides(overrides: Overrides<keyof K & string, X["slots"]> | null): readonly OverrideFault[];
  /** Copies the seat's whole state, into `into` if given; for the layer, of all seats. @throws ReacherError if that has another size */
  snapshot(into?: Uint8Array): Uint8Array;
  /** Restores a copied state; events not yet handled are dropped. @throws ReacherError if it is of another plan */
  restore(snapshot: Uint8Array): void;
  /** Whether a live action of the seat uses this control. */
  uses(control: string): boolean;
}

/** The changes that a callback may listen to. */
export type SwitchChange = "on" | "off" | "pulse" | "grant";

/** The names of a plan's actions that the game may drive. */
export type DrivenNames<K extends Kinds> = NamesOf<K, "switch"> | NamesOf<K, "axis"> | NamesOf<K, "vector">;

/** The value that drives an action, by its kind. */
export type DriveOf<Kind> = Kind extends "switch"
  ? boolean
  : Kind extends "axis"
    ? number
    : Readonly<{ x: number; y: number }> | readonly [x: number, y: number];

/** How an action is driven. */
export interface DriveOptions {
  /** When, in ms. @default the last step's time */
  readonly t?: number | undefined;
  /**
   * How it meets the hands, for axes and vectors: the longer one counts (the hands on a tie), both are added and cut to length 1 (a
   * current, an auto-run that is steered), or the hands do not count (a cutscene). Of several reasons the newest `"alone"` counts, else
   * the newest `"longest"`; every `"add"` comes on top. @default "add" where the action says `combine: "sum"`, else "longest"
   */
  readonly how?: "longest" | "add" | "alone" | undefined;
  /**
   * For how long, in ms, the difference between what came out before and what comes out now fades to nothing, so that nothing jumps.
   * It counts where a reason begins, changes its `how`, or lets go; for axes and vectors. @default 0
   */
  readonly blendMs?: number | undefined;
}

/** How a flag is set. */
export interface FlagOptions {
  /** When, in ms. @default the last step's time */
  readonly t?: number | undefined;
  /** Whether a flag with `lingerMs` still counts as true for that time when it is set false. @default true */
  readonly linger?: boolean | undefined;
}

/** The input layer of a game. Calls that concern a seat go to the first one. */
export interface InputLayer<
  K extends Kinds = Kinds,
  F extends string = string,
  N extends string = string,
  X extends OtherNames = AnyOtherNames,
> extends Seat<K, F, N, X> {
  /** The plan that it was made from. */
  readonly plan: Plan<K, F, N, X>;
  readonly counters: Counters;
  /** Takes a raw event; an invalid one is ignored and counted. */
  feed(event: RawEvent): void;
  /** Advances the layer to the moment `t` (ms) and returns the first seat's reading. @throws ReacherError if `t` is not a finite number */
  step(t: number): Reading<K, X["gaits"]>;
  /**
   * Whether the layer repeats steps from before a `restore`: the game sets it while it repeats them. Callbacks are called all
   * the same, since what they tell the layer is part of its state; a sound or an effect checks this, so as not to happen twice. @default false
   */
  replaying: boolean;
  /**
   * Loads what players' own keys need, in a game that was built with code for its plan; anywhere else it is there at once. Await it before the first
   * `setOverrides` that changes something: before the first step where a player has a file, otherwise when the settings open. Given what will be set, it
   * loads nothing where that changes only numbers and styles. What is held stays held, and nothing is called. It rejects with a `ReacherError` if
   * the part does not come; the game then plays on as it was.
   */
  bringKeys(overrides?: Overrides<keyof K & string, X["slots"]> | null): Promise<void>;
  /**
   * Switches to another plan while playing: a changed number, another character, a level's keys. What is on stays on if the action
   * is still there and of the same kind, what is held stays held if its control still does the same, gestures and windows in
   * progress included; players' overrides are applied again. Flags, modes and numbers of the same name stay; a number that the
   * game has not changed takes the new plan's value. Returns this same layer, typed by the new plan.
   * @throws PlanError if the plan cannot run, or has other seats; then nothing changes
   */
  setPlan<const L extends Kinds, const G extends string, const M extends string, const Y extends OtherNames>(
    plan: Plan<L, G, M, Y>,
  ): InputLayer<L, G, M, Y>;
  /**
   * The moments at which a game with `hz` fixed steps a second has to step to reach `now`, oldest first, at most `most` (15 without it): after a
   * long frame the oldest are left out, and their events are the first step's. The next call reuses the list.
   */
  fixedSteps(now: number, hz: number, most?: number): readonly number[];
  /** The seats' names, in the plan's order. */
  readonly seats: readonly X["seats"][];
  /**
   * Gives a pad to a seat, or takes the seat's own away (`null`). Otherwise, the first press on a free pad gives it
   * to the first seat, in the plan's order, that has a slot for pads and no pad.
   * @throws ReacherError if there is no such seat, or the plan names no seats
   */
  assignPad(seat: X["seats"], pad: number | null, t?: Moment): void;
  /**
   * Lets a seat that has lost its pad wait for any pad: its own cannot be told from others of the same model. The first press on a free pad
   * then gives that pad to the first seat that waits. @throws ReacherError if there is no such seat
   */
  awaitPad(seat: X["seats"], t?: Moment): void;
  /**
   * Sets which seats play; at the start, all do. One that plays alone has all of the plan's slots; one that does not play is at rest,
   * has no slots and no pad, and starts over when it joins again. What the others hold stays held.
   *
   * `pads: "ask"`: no free pad is given by itself; `onPads` tells of each press on one (`unassigned`), and the game gives it by `assignPad`, or
   * by opening a seat with `pad`: then it goes to the one newly opened seat that takes pads. The press that asked is never seen; buttons
   * held count when pressed anew, sticks from where they are. `pads: "give"` ends that; left out, it stays as it was.
   * @example input.openSeats(["amber"], { pads: "ask" }); // and in onPads: input.openSeats(["amber", "teal"], { pad })
   * @throws ReacherError if there is no such seat, or none is named; or if `pad` could go to none or to several
   */
  openSeats(
    seats: readonly X["seats"][],
    options?: { readonly pads?: "ask" | "give"; readonly pad?: number },
  ): void;
  /** The seats that play, in the plan's order. */
  readonly open: readonly X["seats"][];
  /** Calls `fn` when a pad is taken by a seat, lost, back or freed, or pressed while no seat has it. Returns a function that stops it. */
  onPads(fn: (change: PadChange) => void): Unsubscribe;
  /** A seat by name. @throws ReacherError if there is no such seat */
  seat(name: X["seats"]): Seat<K, F, N, X>;
  /**
   * Puts an interceptor between devices and seats, replacing any other; what this seat holds goes to rest as a
   * cancellation. Returns a function that removes it. @throws ReacherError if there is no such seat
   */
  intercept(seat: X["seats"], interceptor: Interceptor): Unsubscribe;
  /**
   * Calls `fn` for every press of a key, a button, a trigger or the wheel, bound or not, in the step that reaches it and after
   * the press itself: "press any key". Tilting a stick is not a press, nor is what an interceptor takes. Returns a function that stops it.
   */
  onPress(fn: (press: Press) => void): Unsubscribe;
  /** Whether an interceptor is active: then neither the game nor the page gets keys and clicks. */
  readonly intercepted: boolean;
  /** All controls away from rest now, bound by the plan or not, with events not yet handled taken into account. */
  held(): readonly Held[];
  /** Lets recorders see events and changes at their moments. Returns a function that stops it. */
  watch(watcher: LayerWatcher): Unsubscribe;
}

/** A press of any control. */
export interface Press {
  readonly control: string;
  /** When it was pressed, in ms. */
  readonly t: number;
  /** The pad's index; 0 for keyboard and mouse. */
  readonly pad: number;
}

/** A control away from rest, as devices have reported it. */
export interface Held {
  readonly control: string;
  readonly value: number;
  /** The pad's index; 0 for keyboard and mouse. */
  readonly pad: number;
}

/** Sits between the devices and the seats. */
export interface Interceptor {
  /** Receives each raw event; true hides it from all seats. */
  feed(event: Required<RawEvent>): boolean;
  /** The layer was stepped to this moment. */
  passed(t: number): void;
  /** The window's focus is lost, or the pad with this index. */
  lost(what: "focus" | "pad" | (string & {}), pad: number): void;
  /** Another interceptor has replaced it. */
  replaced(): void;
}

/** A change of a pad's owner. */
export interface PadChange {
  /** Its seat; empty if no seat could take it. */
  readonly seat: string;
  readonly pad: number;
  /** `unassigned`: a press on a free pad that no seat that plays can take; a game may let another player join. */
  readonly what: "taken" | "lost" | "back" | "freed" | "unassigned";
}

/** When a watcher is told of a command, and of which seat. */
export interface When {
  /** The moment at which it counts, in ms. */
  readonly t: number;
  readonly seat: string;
  /** Whether everything due at that moment, and the windows that end then, had been handled before. */
  readonly after: boolean;
  /** Whether it has been handled just now; otherwise it is about to be, and `settled` follows. */
  readonly done: boolean;
}

/** What recorders and explanations see of a layer: events of devices, commands of the game, and changes. */
export interface LayerWatcher {
  /**
   * A raw event is about to be handled. `event.t` is the moment at which it counts, in ms; `seat` handles it, and `again` is true where a seat
   * before this one handles it too (a key that two players share); `after`: everything due at that moment had been handled before.
   */
  event?(event: Required<RawEvent>, seat: string, again: boolean, after: boolean): void;
  /** The game has told the layer something, or a device was lost, given or taken away. */
  command?(command: WatchedCommand, when: When): void;
  /** A switch, axis or vector of this seat has changed, at this exact moment, in ms: before the game's callbacks, whose order it has. */
  changed?(t: number, action: string, seat: string): void;
  /** A turn was moved by the mouse, or the stick that sets its rate has moved. */
  turned?(t: number, action: string, seat: string): void;
  /** @internal A timer of the seat, by its number in the tables, is about to be handled. */
  due?(timer: number, seat: string): void;
  /** @internal A seat, or without one all, are back at this moment, in ms: what they did after it has not happened. */
  restored?(t: number, seat?: string): void;
  /** @internal The layer has been stepped to this moment, in ms: all seats are there. */
  stepped?(t: number): void;
  /** An event, a command or a timer has been handled, with everything that followed from it. */
  settled?(t: number, seat: string): void;
}
