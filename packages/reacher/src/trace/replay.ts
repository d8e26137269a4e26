/**
 * Plays a trace through a plan. In: entries in order of time. Out: a row for each change, or the whole reading at regular moments.
 */
import { createInputLayer } from "../layer/createInputLayer.js";
import { nextMoment, placePad, reportAllPulses } from "../layer/layer.js";
import type { InputLayer, Seat } from "../layer/types.js";
import type { SwitchReading, TurnReading } from "../engine/readings.js";
import { isCancelled } from "../engine/switches/reading.js";
import type { CheckedPlan } from "../plan/checked.js";
import { controlsOf, type Controls } from "../controls/ownControls.js";
import { didYouMean } from "../controls/nearest.js";
import { mustBeObject, mustBeOptions, mustCall } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Kinds, Plan } from "../plan/types.js";
import { fromBase64 } from "./base64.js";
import { give, missingIn } from "./give.js";
import { isMoment, type CommandEntry, type TraceEntry } from "./entry.js";
import { LOOKS, MovementRows, type Moving, type OnMoved } from "./movementRows.js";
import { rounded, type ReplayRow } from "./rows.js";

/** How a trace is replayed. */
export interface ReplayOptions {
  /** Steps per second. Switches change at their exact moments at any rate. @default 60 */
  readonly hz?: number;
  /** Emits the whole reading every so many ms, instead of changes; of a turn what it turned since the reading before. */
  readonly every?: number;
  /** Only this action. */
  readonly action?: string;
  /** Whether to emit rows; otherwise the layer is only stepped. @default true */
  readonly rows?: boolean;
  /** Called with the moment (ms) and the reading of a movement that has changed, in place of its rows: for long traces, since it allocates nothing. */
  readonly onMoved?: OnMoved;
}

/** A running replay. May change: its layer, and what it has emitted. */
export interface Replay {
  /** Feeds the next entry of the trace. */
  push(entry: TraceEntry): void;
  /** Steps the layer to the end of the trace. */
  finish(): void;
  readonly layer: InputLayer;
  /** Counts of lines that the plan has no use for, by what they name: `flag hasAir`. */
  readonly skipped: ReadonlyMap<string, number>;
  /** The time reached, in ms. */
  readonly t: number;
}

/** Starts a replay that passes each row to `emit`. Numbers are rounded to six decimals; -0 is 0. @throws PlanError */
export function startReplay<K extends Kinds, F extends string>(
  plan: Plan<K, F>,
  options: ReplayOptions = {},
  emit: (row: ReplayRow) => void = () => {},
): Replay {
  return new Replaying(plan as unknown as Plan, options, emit);
}

/** Replays a whole trace. */
export function replay<K extends Kinds, F extends string>(
  plan: Plan<K, F>,
  entries: Iterable<TraceEntry>,
  options: ReplayOptions = {},
): ReplayRow[] {
  const rows: ReplayRow[] = [];
  const running = startReplay(plan, options, (row) => rows.push(row));
  pushAll(running, entries);
  return rows;
}

/** Feeds a whole trace. @throws ReacherError if it is none */
export function pushAll(running: Replay, entries: Iterable<TraceEntry>): void {
  if (typeof entries !== "object" || !(Symbol.iterator in Object(entries)))
    throw new ReacherError(`${shown(entries)} is no list of entries; parseTrace gives one`);
  for (const entry of entries) running.push(entry);
  running.finish();
}

/** More whole readings in a row are a mistake. */
const MOST_READINGS = 1e7;

/** @throws ReacherError naming an option that is none */
function mustBeReplayable({ hz, every, action }: ReplayOptions, plan: CheckedPlan): void {
  for (const [name, value] of Object.entries({ hz, every }))
    if (value !== undefined && !(typeof value === "number" && value > 0 && value < Infinity))
      throw new ReacherError(`${name} is ${shown(value)}; it is a number above 0`);
  if (action !== undefined && !plan.actions.some(({ name }) => name === action))
    throw new ReacherError(
      `the plan has no action ${shown(action)}${didYouMean(
        action,
        plan.actions.map(({ name }) => name),
      )}`,
    );
}

/** The state that a report begins with. */
type StateEntry = Extract<TraceEntry, { state: object }>;
/** A line that says what was done. */
type Told = Exclude<TraceEntry, { end: true } | StateEntry>;

class Replaying implements Replay {
  private readonly plan: CheckedPlan;
  readonly layer: InputLayer;
  readonly skipped = new Map<string, number>();
  t = -1;
  private ticks = 0;
  private samples = 0;
  /** When the next whole reading is due. */
  private sampleAt = Infinity;
  private last = 0;
  /** The entry told before, of those that are no plain events. */
  private before: TraceEntry | undefined;
  /** The state that it begins with, and what was on then: not yet used. */
  private opening: { readonly state: StateEntry; readonly lines: Told[] } | undefined;
  private ended = false;
  private moved = false;
  private flows = false;
  private readonly period: number;
  private readonly seats: readonly Seat[];
  private readonly watched: MovementRows[];
  /** How far each turn has turned since the last whole reading. */
  private readonly turned = new Map<TurnReading, { dx: number; dy: number }>();

  constructor(
    written: Plan,
    private readonly options: ReplayOptions,
    private readonly emit: (row: ReplayRow) => void,
  ) {
    mustBeOptions(options);
    const plan = (this.plan = resolvePlan(written));
    mustBeReplayable(options, plan);
    if (options.onMoved !== undefined) mustCall(options.onMoved, "onMoved");
    mustCall(emit, "startReplay(plan, options, emit)");
    this.layer = createInputLayer(written);
    reportAllPulses(this.layer);
    this.period = 1000 / (options.hz ?? 60);
    const actions = plan.actions.filter(
      ({ name }) => options.action === undefined || options.action === name,
    );
    this.seats = this.layer.seats.map((name) => this.layer.seat(name));
    this.watched = this.seats.flatMap((seat) =>
      actions
        .filter(({ kind }) => kind !== "switch")
        .map(({ name }) => new MovementRows(seat.name, name, seat.now[name] as Moving, options.onMoved)),
    );
    if (options.every !== undefined) {
      this.sampleAt = 0;
      for (const seat of this.seats)
        for (const { name, kind } of actions)
          if (kind === "turn") this.turned.set(seat.now[name] as TurnReading, { dx: 0, dy: 0 });
      return;
    }
    if (options.rows === false) return;
    // Ramps and turns change from step to step without a notice.
    const flowing = actions.filter(
      (action) =>
        action.kind === "turn" ||
        (action.kind !== "switch" && (action.ease !== undefined || (action.pace?.easeMs ?? 0) > 0)),
    );
    for (const watch of this.watched) {
      const flow = flowing.find(({ name }) => name === watch.action);
      watch.patience = flow === undefined ? 0 : LOOKS;
    }
    let recent = this.watched[0];
    const note = (_: number, action: string, seat: string) => {
      // A movement that changes mostly changes again.
      const watch =
        recent?.action === action && recent.seat === seat
          ? recent
          : this.watched.find((rows) => rows.action === action && rows.seat === seat);
      if (watch === undefined) return;
      recent = watch;
      watch.moved = true;
      this.moved = true;
    };
    this.layer.watch({ changed: note, turned: note });
    for (const seat of this.seats)
      for (const { name: action, kind } of actions) if (kind === "switch") this.listen(seat, action);
  }

  private listen(seat: Seat, action: string): void {
    const { name } = seat;
    const { emit } = this;
    seat.on(action, "on", (at) => emit({ at: rounded(at), seat: name, action, on: true }));
    seat.on(action, "off", (at, endedBy) =>
      emit(
        isCancelled(endedBy)
          ? { at: rounded(at), seat: name, action, on: false, endedBy }
          : { at: rounded(at), seat: name, action, on: false },
      ),
    );
    seat.on(action, "pulse", (at) => emit({ at: rounded(at), seat: name, action, pulse: true }));
    seat.on(action, "grant", (at) => emit({ at: rounded(at), seat: name, action, grant: true }));
  }

  push(entry: TraceEntry): void {
    if (this.ended) return;
    mustBeObject(entry, "entry of a trace");
    if (!isMoment(entry.t)) throw new ReacherError(`t is ${shown(entry.t)}; it is a time in ms, at least 0`);
    if (entry.t < this.last)
      throw new ReacherError(`t ${entry.t} comes after ${this.last}; a trace is in order of t`);
    if ("state" in entry) {
      this.beginAt(entry);
      return;
    }
    if (this.opening !== undefined) {
      if (entry.t === this.last && !("end" in entry) && entry.after === undefined) {
        this.opening.lines.push(entry);
        return;
      }
      this.restore(this.opening);
    }
    this.mustBeShort(entry.t);
    // Steps before this entry's moment come first; a step at that very moment still includes it.
    this.stepBefore(entry.t);
    this.last = entry.t;
    if ("control" in entry && entry.after === undefined) this.feed(entry);
    else if ("end" in entry) this.ended = true;
    else this.tell(entry);
  }

  /** From here on it goes as from 0: the next steps and readings are at the next multiples. */
  private beginAt(state: StateEntry): void {
    const { t } = state;
    if (this.t >= 0 || this.last > 0 || this.before !== undefined)
      throw new ReacherError(`the state at ${t} comes after other lines; a report begins with it`);
    const { every } = this.options;
    this.last = t;
    this.ticks = Math.floor(t / this.period) + 1;
    if (every !== undefined) this.sampleAt = (this.samples = Math.ceil(t / every)) * every;
    this.opening = { state, lines: [] };
  }

  /** Puts the layer into its state; where that is not of these plans and keys, what was on is played instead. */
  private restore({ state: { t, state }, lines }: NonNullable<Replaying["opening"]>): void {
    const { layer } = this;
    this.opening = undefined;
    // Who plays, with which keys and which pad, is no part of the state.
    for (const line of lines) {
      if ("overrides" in line) for (const seat of this.told(line)) seat.setOverrides(line.overrides);
      if ("openSeats" in line && line.openSeats.every((name) => layer.seats.includes(name)))
        layer.openSeats(line.openSeats);
      if (!("seatPad" in line) || !layer.seats.includes(line.seatPad)) continue;
      if (this.plan.seated) layer.assignPad(line.seatPad, line.pad);
      else if (line.pad !== null) placePad(layer, line.pad);
    }
    const bytes = layer.seats.map((name) => fromBase64(state[name] ?? ""));
    const whole = new Uint8Array(bytes.reduce((sum, one) => sum + one!.length, 0));
    bytes.reduce((at, one) => (whole.set(one!, at), at + one!.length), 0);
    try {
      layer.restore(whole);
    } catch (error) {
      if (!(error instanceof ReacherError)) throw error;
      this.skip("state");
      for (const line of lines) if (this.plan.seated || !("seatPad" in line)) this.tell(line);
      return;
    }
    this.t = t;
    this.tellPresent(t);
  }

  /** What is on in the restored state, as rows: before it all is off. */
  private tellPresent(t: number): void {
    if (this.options.every !== undefined || this.options.rows === false) return;
    for (const { name: seat, now } of this.seats)
      for (const { name: action, kind } of this.plan.actions)
        if (kind === "switch" && this.isAsked(action) && (now[action] as SwitchReading).on)
          this.emit({ at: rounded(t), seat, action, on: true });
    for (const watch of this.watched) {
      watch.look(t, this.emit);
      if (watch.flows) this.flows = true;
    }
  }

  private isAsked(action: string): boolean {
    return this.options.action === undefined || this.options.action === action;
  }

  /** @throws ReacherError if so many whole readings would be emitted up to here that nobody waits for them */
  private mustBeShort(t: number): void {
    if (this.sampleAt < Infinity && (t - this.sampleAt) / this.options.every! > MOST_READINGS)
      throw new ReacherError(
        `t is ${t}: every ${this.options.every} ms that is more readings than anybody reads`,
      );
  }

  /** Feeds commands of the game, and rare events. */
  private tell(entry: Told): void {
    const { layer } = this;
    // An entry that came after its moment was over comes after it again.
    if (entry.after === true && this.t < entry.t && !isOneMove(controlsOf(this.plan), this.before, entry))
      this.stepBetween(entry.t);
    this.before = entry;
    const { t } = entry;
    // The owner of a pad counts at once, as when it was called.
    const own = entry.after === true ? undefined : t;
    if ("control" in entry) this.feed(entry);
    else if ("lost" in entry) this.lose(entry, t, own);
    else if ("openSeats" in entry) this.openSeats(entry.t, entry.openSeats);
    else if ("seatPad" in entry) {
      if (this.plan.seated && layer.seats.includes(entry.seatPad))
        layer.assignPad(entry.seatPad, entry.pad, own);
      else this.skip(`seat ${entry.seatPad}`);
    } else this.giveToSeats(entry, t);
  }

  /** An own control may be one seat's; a plan that has no such control takes nothing of it. */
  private feed(entry: Extract<TraceEntry, { control: string }>): void {
    const { control, seat } = entry;
    if (seat === undefined) this.layer.feed(entry);
    else if (controlsOf(this.plan).ownOf(control) === undefined) this.skip(`control ${control}`);
    else for (const one of this.told(entry)) one.feed(entry);
  }

  private lose(
    { lost, pad = 0, seat }: Extract<TraceEntry, { lost: string }>,
    t: number,
    own: number | undefined,
  ): void {
    if (lost === "pad") this.layer.lose("pad", pad, this.plan.seated ? own : t);
    else if (lost !== "focus" && !controlsOf(this.plan).devices.includes(lost)) this.skip(`device ${lost}`);
    else if (seat === undefined) this.layer.lose(lost, t);
    else for (const one of this.told({ seat })) one.lose(lost, t);
  }

  private giveToSeats(entry: CommandEntry, t: number): void {
    const missing = missingIn(this.plan, entry);
    if (missing !== undefined) {
      this.skip(missing);
      return;
    }
    if ("drive" in entry && entry.blendMs !== undefined && this.options.every === undefined)
      for (const watch of this.watched) if (watch.action === entry.drive) watch.patience = LOOKS;
    for (const seat of this.told(entry)) {
      // Those that a trace begins with are there before its first step.
      if ("overrides" in entry && (t > 0 || this.t >= 0)) this.stepBetween(t);
      give(seat, entry, t);
    }
  }

  /** Steps the layer to a moment between regular steps, at which only changes of switches and turns are emitted. */
  private stepBetween(t: number): void {
    this.stepLayer(t);
    // What was turned by now is no part of a later step.
    if (this.moved || this.flows)
      for (const watch of this.watched) if (watch.isTurn) watch.look(t, this.emit);
  }

  private stepLayer(t: number): void {
    this.layer.step(t);
    for (const [{ dx, dy }, sum] of this.turned) {
      sum.dx += dx;
      sum.dy += dy;
    }
  }

  private openSeats(t: number, seats: readonly string[]): void {
    const known = seats.filter((name) => this.layer.seats.includes(name));
    for (const name of seats) if (!known.includes(name)) this.skip(`seat ${name}`);
    // It happens at the last step's time.
    if (this.t < t && t > 0) this.step(t, false);
    if (known.length > 0) this.layer.openSeats(known);
  }

  /** The seats that a command goes to: all, or the one that the line names. */
  private told({ seat }: { readonly seat?: string }): readonly Seat[] {
    if (seat === undefined) return this.seats;
    const named = this.seats.filter(({ name }) => name === seat);
    if (named.length === 0) this.skip(`seat ${seat}`);
    return named;
  }

  finish(): void {
    if (this.opening !== undefined) this.restore(this.opening);
    this.stepBefore(this.last);
    if (this.t < this.last) this.step(this.last, this.sampleAt === this.last);
  }

  private skip(what: string): void {
    this.skipped.set(what, (this.skipped.get(what) ?? 0) + 1);
  }

  /** Makes all steps due before `t`, at n * 1000 / hz, and those at which a whole reading is due. */
  private stepBefore(t: number): void {
    for (;;) {
      const tick = this.ticks * this.period;
      const { sampleAt } = this;
      const next = sampleAt < tick ? sampleAt : tick;
      if (next >= t) break;
      if (this.flows || sampleAt < Infinity || nextMoment(this.layer) <= next)
        this.step(next, sampleAt === next);
      else this.skipTo(Math.min(t, nextMoment(this.layer)));
    }
  }

  /** Skips steps at which nothing happens and nothing is emitted. */
  private skipTo(t: number): void {
    this.ticks = Math.max(this.ticks, Math.floor(t / this.period) - 1);
    while (this.ticks * this.period < t) this.ticks++;
  }

  private step(t: number, sample: boolean): void {
    if (this.ticks * this.period <= t) this.ticks++;
    this.t = t;
    this.stepLayer(t);
    if (sample) {
      this.sampleAt = ++this.samples * this.options.every!;
      for (const seat of this.seats.filter(({ name }) => this.layer.open.includes(name)))
        this.emit({ at: rounded(t), seat: seat.name, now: this.wholeReading(seat) });
      for (const sum of this.turned.values()) sum.dx = sum.dy = 0;
    }
    if (!this.moved && !this.flows) return;
    this.moved = this.flows = false;
    for (let n = 0; n < this.watched.length; n++) {
      const watch = this.watched[n]!;
      if (!watch.moved && !watch.flows) continue;
      watch.look(t, this.emit);
      if (watch.flows) this.flows = true;
    }
  }

  private wholeReading(seat: Seat): Record<string, object> {
    const now: Record<string, object> = {};
    for (const { name } of this.plan.actions) {
      if (!this.isAsked(name)) continue;
      const reading = seat.now[name]! as SwitchReading | Moving;
      const fields: Record<string, unknown> = {
        ...reading.toJSON(),
        ...this.turned.get(reading as TurnReading),
      };
      for (const field in fields) fields[field] = roundedIn(fields[field]);
      now[name] = fields;
    }
    return now;
  }
}

/** Whether two late entries in a row are axes of one pad at one moment, which the layer takes as one event. */
function isOneMove(controls: Controls, before: TraceEntry | undefined, entry: TraceEntry): boolean {
  return (
    before !== undefined &&
    "control" in before &&
    "control" in entry &&
    before.after === true &&
    before.t === entry.t &&
    before.pad === entry.pad &&
    [before, entry].every(({ control }) => controls.find(control)?.family === "axis") &&
    controls.ownOf(before.control) === controls.ownOf(entry.control)
  );
}

function roundedIn(value: unknown): unknown {
  if (typeof value === "number") return rounded(value);
  return Array.isArray(value) ? value.map(roundedIn) : value;
}
