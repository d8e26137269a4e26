/** A seat's buffer as a whole: allocated for its tables, and brought up to date when these change. */
import { Width } from "./cells.js";
import { Clock } from "./clock.js";
import type { DirtyLists } from "./dirty.js";
import { Bits, Line } from "./queue.js";
import type { Scheduler, Steppable } from "./scheduler.js";
import { Settling } from "./settling.js";
import { Cause } from "./state.js";
import type { Tables } from "./tables.js";

export abstract class SeatBuffer extends Settling implements Steppable {
  readonly number: number;
  readonly readings: { bind(): void }[] = [];
  /** Whether a command of the game is waiting. */
  hasCommand = false;
  /** The moment that this seat handled last, while seats take turns within a step: what comes then comes after it. */
  doneAt = NaN;

  constructor(tables: Tables, scheduler: Scheduler) {
    super(scheduler);
    this.number = scheduler.enlist(this);
    this.layOut(tables);
  }

  abstract prefetch(): number;
  abstract catchUp(): void;

  get marks(): DirtyLists {
    return this.dirty;
  }

  clear(): void {
    this.dirty.clear();
  }

  nextMoment(until: number): number {
    const { clock, events, number } = this;
    // All seats begin together.
    if (clock[Clock.Now] === -Infinity) return this.beginning(until);
    return Math.max(events.wakes[number * Line.Size]!, clock[Clock.Now]!);
  }

  /** When a seat begins: with the first event that its plan knows, so that keys which nothing binds change nothing. */
  protected beginning(until: number): number {
    const { events, number } = this;
    let at = events.first(number);
    while (at >= 0 && events.isForeign(at, this.tables.channels)) at = events.after(at);
    return at < 0 ? until : Math.min(until, events.timeAt(at));
  }

  protected isUnbound(at: number): boolean {
    return this.tables.channels[this.events.whatAt(at) >> (Bits.Kind + Bits.Place)] === undefined;
  }

  /** In the middle of an event: its marks are void. True if it is. */
  dropMarks(): boolean {
    const isRunning = this.scheduler.running === this.number;
    if (isRunning) this.dirty.clear();
    return isRunning;
  }

  /** A new buffer for these tables, with all cells at their start. */
  layOut(tables: Tables): void {
    const { yard } = this.scheduler;
    const own = tables.cells.allocate();
    const { buffer, byteOffset, length } = (this.b = yard === null ? own : yard.place(own));
    this.f = new Float64Array(buffer, byteOffset, length / Width.Float);
    this.i = new Int32Array(buffer, byteOffset, length / Width.Int);
    tables.bind?.(this);
    this.dirty = this.scheduler.listsOf(tables);
    this.tables = tables;
    for (const reading of this.readings) reading.bind();
    this.scheduler.tables[this.number] = tables;
    this.isStale = true;
    this.scheduler.wake(this.number);
  }

  /** Recomputes what follows from other tables or another state. */
  protected refresh(): void {
    const { tables, dirty } = this;
    this.isStale = false;
    if (this.b[tables.started] === 0) return;
    this.cause = Cause.Bindings;
    tables.situation?.refresh(this);
    dirty.sticks.markAll();
    dirty.movements.markAll();
    dirty.turns.markAll();
    for (let id = 0; id < tables.paced.length; id++) this.markPace(id);
    dirty.switches.markAll();
    if (this.i[tables.instantCount]! > 0) {
      for (const { rank, instantPresses } of tables.switches)
        if (instantPresses >= 0 && this.b[instantPresses]! > 0) dirty.instantPresses.mark(rank);
      this.i[tables.instantCount] = dirty.instantPresses.count;
    }
    dirty.hasWork = true;
    this.settle();
  }
}
