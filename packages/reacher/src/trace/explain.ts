/**
 * Explains: for each press, the rule that decided and its numbers, as a reason.
 * In: a running layer, or a plan and a trace. Out: reasons. A layer that is not explained pays nothing.
 *
 * It compares the seat's cells before and after each event, so it reports what the engine did, not what it should have done.
 */
import { bounceWhy } from "../engine/bounce.js";
import { hasRisen, ms, nowOf, because, type Change, type Because } from "../engine/explaining.js";
import type { Chords } from "../engine/gestures/all.js";
import { Gesture } from "../engine/gestures/gesture.js";
import type { WatchedCommand } from "../layer/command.js";
import { engineBehind } from "../layer/player.js";
import type { InputLayer, Off, Seat } from "../layer/types.js";
import { reasonNames } from "../engine/reasons.js";
import type { Seat as EngineSeat } from "../engine/seat.js";
import type { Signal } from "../engine/signals.js";
import { situationOf } from "../engine/situations/modes.js";
import type { Entry } from "../engine/switches/entry.js";
import { Keep } from "../engine/switches/keep.js";
import { Needs } from "../engine/switches/needs.js";
import { BeginsIf } from "../engine/switches/beginsIf.js";
import { OneOf } from "../engine/switches/oneOf.js";
import { Rest } from "../engine/switches/rest.js";
import { Ending, type Switch } from "../engine/switches/switch.js";
import { Live, type Tables } from "../engine/tables.js";
import { WaitingEntry } from "../engine/switches/waits.js";
import { whyOf } from "../engine/why.js";
import type { Kinds, Plan } from "../plan/types.js";
import type { TraceEntry } from "./entry.js";
import { mustBeLayer, mustCall } from "../plan/arguments.js";
import { pushAll, startReplay, type Replay } from "./replay.js";

/** Why an action turned on, turned off, or did neither, at one moment. */
export interface Reason {
  /** The moment, in ms. */
  readonly at: number;
  readonly action: string;
  /** `counts`: a press that is part of something. `nothing`: a press that did nothing. */
  readonly outcome: "on" | "off" | "counts" | "nothing";
  /** The rule that decided: `needs`, `muted`, `covered`, `too-late` ... */
  readonly rule: string;
  /** One sentence without its full stop. */
  readonly text: string;
}

/** Starts a replay that passes each reason to `emit`, so that a trace of any length can be explained. */
export function startExplaining<K extends Kinds, F extends string>(
  plan: Plan<K, F>,
  emit: (reason: Reason) => void,
  seat?: string,
): Replay {
  const running = startReplay(plan, {}, () => {});
  explainLayer(running.layer, emit, seat);
  return running;
}

/** Explains a whole trace, or one action in it. */
export function explain<K extends Kinds, F extends string>(
  plan: Plan<K, F>,
  entries: Iterable<TraceEntry>,
  action?: string,
): Reason[] {
  const reasons: Reason[] = [];
  const running = startExplaining(plan, (reason) => {
    if (action === undefined || reason.action === action) reasons.push(reason);
  });
  pushAll(running, entries);
  return reasons;
}

/** Explains a layer while it works: its first seat, or the one named. Returns a function that stops it. @throws ReacherError for an unknown seat */
export function explainLayer<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  emit: (reason: Reason) => void,
  named?: string,
): Off {
  mustBeLayer(input);
  mustCall(emit, "explainLayer(input, emit)");
  const seat = named ?? input.seats[0]!;
  const explainer = new Explainer(engineBehind(input.seat(seat) as Seat), emit);
  const here = (name: string, cause: Cause) => {
    if (name === seat) explainer.before(cause);
  };
  return input.watch({
    // For each move of a stick: nothing is made for what does not count.
    event: ({ control }, name) => {
      if (name === seat && explainer.isIdle) explainer.before({ control });
    },
    command: (command, { t: at, seat: name, done }) => {
      if (name !== seat) return;
      if ("take" in command)
        emit({ at, action: command.take, ...because("counts", "took", "taken by call") });
      else if (!done && explainer.isIdle) explainer.before(causeOf(command));
    },
    due: (timer, name) => here(name, { timer }),
    settled: (at, name) => {
      if (name === seat) explainer.after(at);
    },
  });
}

/** What a reason says of a command. */
function causeOf(command: WatchedCommand): Cause {
  if ("flag" in command) return { command: `${command.flag} is ${command.value ? "so" : "not so"}` };
  if ("setSwitch" in command)
    return {
      command: `${command.setSwitch} is set ${command.value ? "on" : "off"}`,
      set: command.setSwitch,
    };
  if ("drive" in command)
    return { drive: { action: command.drive, isOn: command.value !== null, reason: command.reason } };
  if ("number" in command) return { command: `${command.number} is ${command.value}` };
  if ("lost" in command) return { command: `${command.lost} lost` };
  if ("seatPad" in command) return { command: "pad lost" };
  return "reset" in command ? { command: "reset" } : {};
}

/** The cause of a change: an event of a control, a command of the game, a lost device, or a timer. */
interface Cause {
  readonly control?: string;
  readonly command?: string;
  /** The switch that the game sets. */
  readonly set?: string;
  readonly timer?: number;
  /** The game drives an action, or lets it go. */
  readonly drive?: { readonly action: string; readonly isOn: boolean; readonly reason: string };
}

class Explainer {
  private f: Float64Array;
  private i: Int32Array;
  private b: Uint8Array;
  private cause: Cause | undefined;
  private stirs = 0;
  /** For the tables that the seat has now. */
  private listeners: Listeners | undefined;

  constructor(
    private readonly seat: EngineSeat,
    private readonly emit: (reason: Reason) => void,
  ) {
    const copy = seat.b.slice().buffer;
    this.f = new Float64Array(copy);
    this.i = new Int32Array(copy);
    this.b = new Uint8Array(copy);
  }

  /** Whether no event is being handled. */
  get isIdle(): boolean {
    return this.cause === undefined;
  }

  before(cause: Cause): void {
    // The two axes of a stick are one event: the state before the first of them counts.
    if (!this.isIdle) return;
    this.cause = cause;
    this.stirs = this.seat.stirs;
    const { b } = this.seat;
    if (this.b.length !== b.length) {
      // With other slots or keys the cells are laid out differently.
      const copy = b.slice().buffer;
      this.f = new Float64Array(copy);
      this.i = new Int32Array(copy);
      this.b = new Uint8Array(copy);
    }
    this.b.set(b);
  }

  after(at: number): void {
    const { cause, seat } = this;
    this.cause = undefined;
    if (cause === undefined) return;
    const { tables } = seat;
    const due = cause.timer === undefined ? undefined : tables.timers.all[cause.timer];
    const { f, i, b } = this;
    const risen = this.reach();
    const asksAll = due !== undefined || cause.drive !== undefined || tables.plan.bounceMs > 0;
    // Nearly always a stick that only moves.
    if (!asksAll && risen === undefined && this.stirs === seat.stirs) return;
    const change: Change = { before: { f, i, b }, after: seat, tables, due, risen: risen ?? NOTHING_ROSE };
    const { switches, reported, onAt, touched } = this.listeners!;
    for (let n = 0; n < switches.length; n++) {
      const one = switches[n]!;
      const isTold = b[reported[n]!] !== seat.b[reported[n]!] || f[onAt[n]!] !== seat.f[onAt[n]!];
      if (!asksAll && !isTold && touched[one.number] === 0) continue;
      const said = this.tell(one, change, cause);
      // Written out, since a long trace makes many of these and a spread takes ten times as long.
      if (said !== undefined)
        this.emit({ at, action: one.name, outcome: said.outcome, rule: said.rule, text: said.text });
    }
  }

  /** Marks the switches that the changed signals can reach: only these have a reason to give. Returns the signals that rose; `undefined` if none has changed. */
  private reach(): readonly Signal[] | undefined {
    const { b, seat } = this;
    const { tables } = seat;
    if (this.listeners?.tables !== tables) this.listeners = listenersOf(tables);
    const { of, up, touched } = this.listeners;
    const is = seat.b;
    touched.fill(0);
    let risen: Signal[] | undefined;
    for (let n = 0; n < up.length; n++) {
      const at = up[n]!;
      if (b[at] === is[at]) continue;
      risen ??= [];
      if (is[at] === 1) risen.push(tables.signals[n]!);
      for (const { number } of of[n]!) touched[number] = 1;
    }
    return risen;
  }

  private tell(one: Switch, change: Change, cause: Cause): Because | undefined {
    const { before, after } = change;
    const was = before.b[one.reported] === 1;
    const is = after.b[one.reported] === 1;
    const said = this.ofSources(one, change);
    const isBlip = before.f[one.onAt] !== after.f[one.onAt];
    const drive = cause.drive?.action === one.name ? cause.drive : undefined;
    if (is !== was || (isBlip && !is)) {
      const on = said.find(({ outcome }) => outcome === "on");
      if (!is && was) {
        const off = this.wentOff(one, change, cause);
        const isByPress = off.rule === "released" || off.rule === "pressed-again";
        return isByPress && on?.rule === "waited" ? { ...off, text: on.text } : off;
      }
      if (drive?.isOn === true) return because("on", "driven", `driven: ${drive.reason}`);
      if (cause.set === one.name) return because("on", "set", "set on by the game");
      return on ?? cameBack(one, change, cause);
    }
    const { keeper } = one;
    if (keeper instanceof Keep && change.due === keeper.timer) {
      const why = this.hindrance(one, change)[1];
      return because(
        "nothing",
        "kept-over",
        `${why ?? "it is on already"}; kept for ${ms(keeper.keepMs)}, in vain`,
      );
    }
    const refused =
      said.find(({ outcome }) => outcome !== "on") ??
      this.refusal(one, said.length > 0 || (drive?.isOn === true && isNewlyDriven(one, change)), change);
    if (refused !== undefined || change.due !== undefined) return refused;
    for (const { signals } of one.sources)
      for (const signal of signals) {
        const held = bounceWhy(signal, change);
        if (held !== undefined) return held;
      }
    return undefined;
  }

  /** The outcome of the event in each of its entries and gestures. */
  private ofSources(one: Switch, change: Change): readonly Because[] {
    let said: Because[] | undefined;
    for (const source of one.sources) {
      const word =
        source instanceof Gesture
          ? this.ofGesture(one, source, change)
          : this.ofEntry(one, source as Entry, change);
      if (word !== undefined) (said ??= []).push(word);
    }
    return said ?? NOTHING_SAID;
  }

  /** The outcome of a press in a plain entry. */
  private ofEntry(one: Switch, entry: Entry, change: Change): Because | undefined {
    const { signal } = entry;
    const { before, after, due } = change;
    const { name } = signal;
    const waiting = entry instanceof WaitingEntry ? entry : undefined;
    const pending = waiting === undefined ? 0 : before.b[waiting.pending]!;
    const isOver = waiting !== undefined && pending > 0 && after.b[waiting.pending] === 0;
    const fell = before.b[signal.up] === 1 && after.b[signal.up] === 0;
    if (isOver && (due === waiting.timer || fell))
      return because("on", "waited", `${name} waited, and no gesture claimed it`);
    if (!hasRisen(signal, change)) return undefined;
    const unseen = this.unseen(one, entry.hiddenAt, signal, change);
    if (unseen?.rule === "muted" && isNewlyKept(one, change))
      return keptFor(one.keeper as Keep, "muted", unseen.text);
    if (unseen !== undefined && !(unseen.rule !== "taken" && one.carries)) return unseen;
    if (waiting !== undefined && after.b[waiting.pending]! > pending)
      return because("counts", "waits", `${name} waits: ${namesOf(waiting.rivals)} may claim it`);
    const claimer = waiting?.rivals.find(({ fired }) => after.b[fired] === 1);
    if (claimer !== undefined)
      return because("nothing", "claimed", `${name} is claimed by ${namesOf([claimer])}`);
    if (before.b[one.down]! > 0)
      return because("nothing", "second-key", `${name} is a second key: another of its keys is down already`);
    return because("on", "pressed", `${name} pressed`);
  }

  /** The outcome of a press or a release in a gesture. */
  private ofGesture(one: Switch, gesture: Gesture, change: Change): Because | undefined {
    const why = whyOf(gesture);
    const due = why.due?.(gesture, change);
    if (due !== undefined) return due;
    for (const signal of gesture.signals) {
      if (change.before.b[signal.up] === 1 && change.after.b[signal.up] === 0) {
        const said = why.released?.(gesture, signal, change);
        if (said !== undefined) return said;
      }
      if (hasRisen(signal, change))
        return this.unseen(one, gesture.hiddenAt, signal, change) ?? why.pressed(gesture, signal, change);
      if (signal.channel === null && change.before.b[signal.up] === 1 && isSecondKey(signal, change))
        return because("nothing", "second-key", `second key of a direction already held: ${signal.name}`);
    }
    return undefined;
  }

  /** Why a press does not reach the action at all. */
  private unseen(one: Switch, hiddenAt: number, signal: Signal, change: Change): Because | undefined {
    const { after, tables } = change;
    if (after.b[one.liveAt] !== Live.Yes) return this.notLive(one, change);
    if (hiddenAt >= 0 && after.b[hiddenAt] === 1)
      return because("nothing", "hidden", `${this.above(one, change)} uses ${signal.name}, which hides it`);
    const owner = (tables.chords as Chords | null)?.takenBy(after, signal) ?? -1;
    if (owner < 0 || tables.switches[owner] === one || signal.channel === null) return undefined;
    return because("nothing", "taken", `${signal.name} is taken by ${tables.switches[owner]!.name}`);
  }

  private notLive(one: Switch, change: Change): Because {
    const { after, tables } = change;
    const reasons = reasonNames(after, tables, situationOf(tables)!.mutes(after, one.number));
    if (reasons.length > 0) return because("nothing", "muted", `muted: ${reasons.join(", ")}`);
    return this.inNoMode(one, change);
  }

  /** Which mode keeps it from being live. */
  private inNoMode(one: Switch, change: Change): Because {
    const above = this.above(one, change);
    if (above === "") return because("nothing", "mode-off", `${one.in.join(" and ")} is not on`);
    return because("nothing", "covered", `${above} covers it`);
  }

  /** The modes above the highest of the action's own; empty if none of its own is on. */
  private above({ number }: Switch, { after, tables }: Change): string {
    return situationOf(tables)!.above(after, number)?.join(" and ") ?? "";
  }

  /** Why it turned off: what the engine noted of it, which is what readings tell as `endedBy`. */
  private wentOff(one: Switch, change: Change, cause: Cause): Because {
    const { after, before } = change;
    const { control, command, drive } = cause;
    switch (after.b[one.endedBy] as Ending) {
      case Ending.Lost:
        return because("off", "lost", `${command ?? "its device is lost"}: everything at rest`);
      case Ending.Muted:
        return { ...this.notLive(one, change), outcome: "off" };
      case Ending.Mode:
        return { ...this.inNoMode(one, change), outcome: "off" };
      case Ending.Needs:
        return because("off", "needs", `needs ${failingOf(one, change) ?? "what it spent"}`);
      case Ending.OneOf: {
        const rivals = one.rivals instanceof OneOf ? one.rivals.others() : [];
        const rival = rivals.find(({ on, reported: was }) => after.b[on] === 1 && before.b[was] === 0);
        return because("off", "one-of", `${rival?.name ?? `another ${one.group}`} came on`);
      }
      case Ending.Bindings:
        return because("off", "bindings", "its keys were changed");
      case Ending.Reset:
        return because("off", "reset", "reset");
      case Ending.Game:
        return because("off", "set", "set off by the game");
      case Ending.Pressed:
        return because("off", "pressed-again", `${control ?? this.pressedBy(one, change)} pressed again`);
      default:
        if (drive?.action === one.name) return because("off", "driven", `no longer driven: ${drive.reason}`);
        return because(
          "off",
          "released",
          control === undefined ? (command ?? "its press ended") : `${control} let go`,
        );
    }
  }

  /** Why an action that saw its press is not on. */
  private refusal(one: Switch, wasPressed: boolean, change: Change): Because | undefined {
    if (!wasPressed) return undefined;
    const { after } = change;
    const { keeper } = one;
    const [rule, text] = this.hindrance(one, change);
    if (keeper instanceof Keep && after.b[keeper.isKept]! > 0) return keptFor(keeper, "kept", text!);
    if (rule !== undefined) return because("nothing", rule, text!);
    if (after.b[one.reported] === 1) return because("counts", "already-on", "it is on already");
    return because("nothing", "other", "another switch keeps it off");
  }

  /** What keeps a press from beginning: the rule, and its text. */
  private hindrance(one: Switch, change: Change): [rule: string, text: string] | [] {
    if (change.after.b[one.liveAt] !== Live.Yes) {
      const { rule, text } = this.notLive(one, change);
      return [rule, text];
    }
    const failing = failingOf(one, change);
    if (failing !== undefined) return ["needs", `needs ${failing}`];
    for (const beginning of one.beginnings) {
      if (beginning instanceof BeginsIf) {
        const missing = beginning.conditions.missing(change.after);
        if (missing.length > 0) return ["begins-if", `begins only if ${missing.join(" and ")}`];
      }
      const rests = beginning instanceof Rest ? change.before.f[beginning.until]! - nowOf(change) : -1;
      if (rests >= 0) return ["rests", `rests ${ms(rests)} more`];
    }
    return [];
  }

  private pressedBy(one: Switch, { after }: Change): string {
    return one.signals[after.i[one.by]!]?.name ?? one.name;
  }
}

/** Shared, since most switches have nothing to report at most events. */
const NOTHING_SAID: readonly Because[] = [];
const NOTHING_ROSE: readonly Signal[] = [];

function keptFor({ keepMs }: Keep, rule: string, hindrance: string): Because {
  return because("counts", rule, `${hindrance}; kept for ${ms(keepMs)} to begin later`);
}

/** Whether the press of this event is kept. */
function isNewlyKept({ keeper }: Switch, { before, after }: Change): boolean {
  if (!(keeper instanceof Keep) || after.b[keeper.isKept] === 0) return false;
  return before.b[keeper.isKept] === 0 || before.f[keeper.since] !== after.f[keeper.since];
}

function cameBack(one: Switch, change: Change, { command }: Cause): Because {
  const { before } = change;
  const { keeper } = one;
  if (command === "reset") return because("on", "reset", "reset: it starts on");
  if (keeper instanceof Keep && before.b[keeper.isKept]! > 0) {
    const waited = nowOf(change) - before.f[keeper.since]!;
    return because("on", "kept", `pressed ${ms(waited)} before, and kept until it may begin`);
  }
  if (before.b[one.liveAt] !== Live.Yes) return because("on", "live-again", "it is live again, and was kept");
  return because("on", "needs-hold", "all that it needs is so, and it is still held");
}

/** Whether the game has just begun to drive it for a reason. */
function isNewlyDriven({ driver }: Switch, { before, after }: Change): boolean {
  return driver !== null && before.i[driver.reasons] !== after.i[driver.reasons];
}

/** The needs that fail. */
function failingOf({ needs }: Switch, { after }: Change): string | undefined {
  const missing = needs instanceof Needs ? needs.conditions.missing(after) : [];
  return missing.length === 0 ? undefined : missing.join(" and ");
}

/** Whether a key of this direction, held by another key already, was pressed in this event. */
function isSecondKey(direction: Signal, change: Change): boolean {
  return change.risen.some(({ channel }) => channel !== null && direction.controls.includes(channel.id));
}

/** The cells that are compared after each event, for a seat's tables. */
interface Listeners {
  readonly tables: Tables;
  /** For each signal: the cell that says whether it is up (byte), and the switches that it can reach. */
  readonly up: Int32Array;
  readonly of: readonly (readonly Switch[])[];
  /** For each switch: the cells of what it reports (byte), and of when it came on (float). */
  readonly switches: readonly Switch[];
  readonly reported: Int32Array;
  readonly onAt: Int32Array;
  /** By a switch's number: whether the current event can reach it. */
  readonly touched: Uint8Array;
}

function listenersOf(tables: Tables): Listeners {
  const { signals, actions } = tables;
  const switches = tables.switches as readonly Switch[];
  return {
    tables,
    up: Int32Array.from(signals, ({ up }) => up),
    of: reachedBy(switches, signals),
    switches,
    reported: Int32Array.from(switches, ({ reported }) => reported),
    onAt: Int32Array.from(switches, ({ onAt }) => onAt),
    touched: new Uint8Array(actions.length),
  };
}

/** The switches that each signal can reach: by itself, or as another key of a direction. */
function reachedBy(switches: readonly Switch[], signals: readonly Signal[]): Switch[][] {
  const place = new Map(signals.map((signal, n) => [signal, n]));
  const all = signals.map((): Switch[] => []);
  for (const one of switches)
    for (const own of signalsOf(one)) {
      all[place.get(own)!]!.push(one);
      if (own.channel !== null) continue;
      signals.forEach(({ channel }, n) => {
        if (channel !== null && own.controls.includes(channel.id)) all[n]!.push(one);
      });
    }
  return all;
}

function signalsOf({ sources }: Switch): Signal[] {
  return sources.flatMap(({ signals }) => signals);
}

function namesOf(gestures: readonly { readonly owner: { readonly name: string } }[]): string {
  return [...new Set(gestures.map(({ owner }) => owner.name))].join(" or ");
}
