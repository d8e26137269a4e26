/**
 * The clock and queues of a layer's seats, and which of them have work. In: a moment to advance to. Out: the seat of a layer for one player is advanced
 * to it if it wakes by then; asleep it costs nothing. Those of several: `manySeats.ts`. May change: the clock and the queues that seats share.
 */
import { ReacherError } from "../plan/errors.js";
import { Clock } from "./clock.js";
import { DirtyLists } from "./dirty.js";
import { listOf, NumberList } from "./lists.js";
import { Notices } from "./notices.js";
import type { Yard } from "./yard.js";
import { Bits, EventQueues, Line, EventField } from "./queue.js";
import type { Channel } from "./signals.js";
import type { Tables } from "./tables.js";

/** What the scheduler advances: a seat. */
export interface Steppable {
  /** Touches each part of memory that an event needs; the result means nothing. */
  prefetch(): number;
  /** Handles all that is due until `Clock.Limit`. */
  catchUp(): void;
  /** The moment from which it has work in a step that ends at `until`; one that has not begun begins then at the latest. */
  nextMoment(until: number): number;
  /** What an event has marked. */
  readonly marks: DirtyLists;
  /** Drops what an interrupted event has marked. */
  clear(): void;
}

/** A layer that was not stepped for `ASLEEP_MS` is asleep: mouse movement is then summed over `SUM_MS` each. */
const ASLEEP_MS = 10_000;
const SUM_MS = 100;

/** The running seat, if none is. */
export const NO_SEAT = -1;

/** Hears what concerns no rule, by the number of the seat that handled it. */
export interface Host {
  /** The press of any control. */
  hearPress(seat: number, control: string, pad: number, t: number): void;
  /** The value of a control, by its number and its pad's place, that the seat does not bind at the moment of its event. */
  hearUnbound(seat: number, control: number, padIndex: number, value: number): void;
  /** A pad, or everything, was lost. */
  hearLost(seat: number, pad: number, what: number): void;
}

export class Scheduler {
  readonly clock = new Float64Array(Clock.Size);
  host: Host | null = null;
  /** Whether callbacks or watchers listen: only then can it be seen in which order seats handle their events. */
  isHeard = false;
  /** Where buffers of seats lie side by side. */
  yard: Yard | null = null;
  /** A long step leaves out no pulses and no single mouse moves. */
  reportsAllPulses = false;
  /** Stamp and value of the event being fed: passed as arguments, floats could be boxed on the heap. */
  readonly scratchEvent = Float64Array.of(0, 0, NaN);
  /** How many rules were evaluated so far: a countable cost of steps, not part of any state. */
  readonly work = new Int32Array(1);
  /** Events by their stamps, and the game's commands without one: a queue for each seat. */
  readonly events = new EventQueues();
  readonly commands = new EventQueues();
  readonly notices = new Notices();
  protected readonly seats: Steppable[] = listOf();
  /** By seat: its tables. They are kept here since many are read in a row. */
  readonly tables: Tables[] = listOf();
  /** Seats that wait for an event or a timer, without duplicates: those whose wake is finite. */
  protected readonly awake = new NumberList();
  /** True while a callback of the game runs. */
  isCalling = false;
  /** The running seat. */
  running = NO_SEAT;
  private isBroken = false;
  /** The first error that a callback has thrown in the current event. */
  private caught: { readonly error: unknown } | null = null;

  constructor() {
    this.clock[Clock.Now] = this.clock[Clock.Wake] = -Infinity;
  }

  /** Adds a seat and returns its number, which is also that of its queues. */
  enlist(seat: Steppable): number {
    const number = this.seats.push(seat) - 1;
    this.events.open();
    this.commands.open();
    return number;
  }

  /** Makes a seat wake at the stamp in `scratchEvent` at the latest. */
  private wakeAtFed(seat: number): void {
    const { clock, scratchEvent } = this;
    const { wakes } = this.events;
    const line = seat * Line.Size;
    if (scratchEvent[EventField.T]! >= wakes[line]!) return;
    if (wakes[line] === Infinity) this.awake.add(seat);
    wakes[line] = scratchEvent[EventField.T]!;
    if (scratchEvent[EventField.T]! < clock[Clock.Wake]!) clock[Clock.Wake] = scratchEvent[EventField.T]!;
  }

  /** Makes a seat wake at the next step. */
  wake(seat: number): void {
    this.scratchEvent[EventField.T] = -Infinity;
    this.wakeAtFed(seat);
  }

  /** Moves a stamp at or before the last step to that step's time. True if the event was late. */
  private isLate(): boolean {
    const { clock, scratchEvent } = this;
    if (scratchEvent[EventField.T]! > clock[Clock.Now]!) return false;
    scratchEvent[EventField.T] = clock[Clock.Now]!;
    return true;
  }

  /** Adds an event other than a control's, as in `scratchEvent`. True if it was late. */
  addEvent(seat: number, what: number): boolean {
    const isLate = this.isLate();
    this.events.add(seat, what, this.scratchEvent);
    this.scratchEvent[EventField.Other] = NaN;
    this.wakeAtFed(seat);
    return isLate;
  }

  /** Adds a control's event, as in `scratchEvent`; the two axes of a stick at one moment are one event. True if it was late. */
  addControl(seat: number, channel: Channel, padIndex: number): boolean {
    const bits = padIndex << Bits.Kind;
    const { scratchEvent } = this;
    const value = scratchEvent[EventField.Value]!;
    if (value > channel.most) scratchEvent[EventField.Value] = channel.most;
    else if (value < channel.least) scratchEvent[EventField.Value] = channel.least;
    const isLate = this.isLate();
    const what = channel.what | bits;
    if (channel.other !== null) {
      const { events } = this;
      const other = channel.other.what | bits;
      let at = events.last(seat);
      if (at >= 0) {
        const { channels } = this.tables[seat]!;
        if (events.isForeign(at, channels)) at = events.lastBound(seat, channels);
        if (events.join(at, other, scratchEvent)) return isLate;
        if (channel.isAmount && this.isAsleep() && events.sum(at, what, other, scratchEvent, SUM_MS))
          return isLate;
      }
    }
    this.events.add(seat, what, scratchEvent);
    this.wakeAtFed(seat);
    return isLate;
  }

  private isAsleep(): boolean {
    return !this.reportsAllPulses && this.scratchEvent[EventField.T]! - this.clock[Clock.Now]! > ASLEEP_MS;
  }

  /** Adds a command of the game: it counts at the last step's time, before any event not yet handled. */
  addCommand(seat: number, what: number, value: number, other: number): void {
    const { scratchEvent } = this;
    scratchEvent[EventField.T] = 0;
    scratchEvent[EventField.Value] = value;
    scratchEvent[EventField.Other] = other;
    this.commands.add(seat, what, scratchEvent);
    scratchEvent[EventField.Other] = NaN;
    this.wake(seat);
  }

  /**
   * Advances all seats to `until`. A time before the last step's counts as that step's time.
   * @throws ReacherError if the time is not a finite number, and within a callback
   */
  step(until: number): void {
    const { clock } = this;
    if (this.isCalling)
      throw new ReacherError("step was called from a callback of step; do it after the step has returned");
    if (!(until - until === 0)) throw notATime(until);
    clock[Clock.Step]!++;
    clock[Clock.Before] = clock[Clock.Now]!;
    if (!(until > clock[Clock.Now]!)) until = clock[Clock.Now]!;
    if (until < clock[Clock.Wake]!) clock[Clock.Now] = until;
    else {
      clock[Clock.Until] = until;
      this.wakeAll();
    }
  }

  private wakeAll(): void {
    const { clock } = this;
    // A callback that threw has ended the step after its event: what else was due comes now.
    if (this.isBroken) this.forgetBroken();
    clock[Clock.From] = clock[Clock.Before]!;
    this.isBroken = true;
    clock[Clock.Limit] = clock[Clock.Until]!;
    this.run();
  }

  /** Advances what wakes: of one seat, that. */
  protected run(): void {
    this.runOne(this.awake.items[0]!);
  }

  protected finish(): void {
    const { clock } = this;
    this.isBroken = false;
    this.running = NO_SEAT;
    clock[Clock.Now] = clock[Clock.Until]!;
  }

  private forgetBroken(): void {
    for (const seat of this.seats) seat.clear();
    this.caught = null;
    this.notices.clear();
    this.isCalling = false;
    this.running = NO_SEAT;
  }

  /** Takes an error of a callback. */
  catch(error: unknown): void {
    this.caught ??= { error };
  }

  /** Throws on what a callback has thrown, once its event is finished. */
  throwCaught(): void {
    if (this.caught === null) return;
    const { error } = this.caught;
    this.caught = null;
    throw error;
  }

  /** Advances the only seat that wakes; false if it woke others. */
  protected runOne(seat: number): boolean {
    const { clock, awake } = this;
    this.running = seat;
    this.seats[seat]!.catchUp();
    if (awake.count !== 1) return false;
    const next = this.events.wakes[seat * Line.Size]!;
    if (next === Infinity) awake.count = 0;
    clock[Clock.Wake] = next;
    this.finish();
    return true;
  }

  /** The dirty lists that an event fills and empties; seats with the same tables share them. */
  listsOf(tables: Tables): DirtyLists {
    // Nearly always the seats before it have the same.
    for (let n = this.tables.length - 1; n >= 0; n--)
      if (this.tables[n] === tables) return this.seats[n]!.marks;
    return new DirtyLists(tables);
  }
}

function notATime(t: number): ReacherError {
  return new ReacherError(`${t} is not a time; give milliseconds on the clock of performance.now()`);
}
