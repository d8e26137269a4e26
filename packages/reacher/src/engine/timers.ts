/** Timers. Each is a cell with its moment; those that are set are in a list. May change: these cells. */
import type { Cells, RuleCells } from "./cells.js";
import { Clock } from "./clock.js";
import type { SeatState } from "./state.js";

/** The rule that sets a timer. */
export interface Timed {
  /** Called when its moment has come. */
  due(s: SeatState, timer: Timer): void;
}

/** The order at one moment: events come after `Due`, and the ends of windows after events. */
export const enum Phase {
  Due,
  /** Lingering ends. */
  Lingers,
  /** A kept press ends. */
  Keeps,
  /** Any other window ends. */
  Window,
}

export class Timer {
  constructor(
    readonly id: number,
    readonly phase: Phase,
    /** Within a phase the lower comes first, in the plan's order. */
    readonly rank: number,
    readonly owner: Timed,
    /** The cell of its moment. */
    readonly at: number,
  ) {}

  get isWindow(): boolean {
    return this.phase !== Phase.Due;
  }

  comesBefore(other: Timer): boolean {
    return this.phase < other.phase || (this.phase === other.phase && this.rank < other.rank);
  }
}

/** How many timers an action may have, for the order. */
export const EACH = 1024;

/** The timers that are set, as the loop and the rules see them. */
export class TimerList {
  readonly all: Timer[] = [];

  constructor(
    /** The cells of how many are set, and of the list of these (ints). */
    protected readonly running: number,
    protected list: number,
  ) {}

  /** Sets a timer by a delay in ms: an absolute moment passed as an argument could be boxed on the heap. */
  set(s: SeatState, timer: Timer, ms: number): void {
    const { f } = s;
    if (f[timer.at] === Infinity) this.enlist(s, timer);
    const now = s.clock[Clock.Now]!;
    const at = now + ms;
    // Far from 0 a clock is coarse: what comes later comes at the next moment that it knows.
    f[timer.at] = at === now && ms > 0 ? now + Math.abs(now) * Number.EPSILON : at;
  }

  clear({ f, i }: SeatState, timer: Timer): void {
    if (f[timer.at] === Infinity) return;
    f[timer.at] = Infinity;
    const { list } = this;
    const last = --i[this.running]!;
    let n = 0;
    while (i[list + n] !== timer.id) n++;
    i[list + n] = i[list + last]!;
  }

  /** The timer that is due first, or -1. Nearly always none is set. */
  first(s: SeatState): number {
    const running = s.i[this.running]!;
    return running === 0 ? -1 : this.firstOf(s, running);
  }

  private firstOf({ f, i }: SeatState, running: number): number {
    const { all, list } = this;
    let first = all[i[list]!]!;
    for (let n = 1; n < running; n++) {
      const timer = all[i[list + n]!]!;
      const at = f[timer.at]!;
      const soonest = f[first.at]!;
      if (at < soonest || (at === soonest && timer.comesBefore(first))) first = timer;
    }
    return first.id;
  }

  /** Rebuilds the list of set timers after a change of tables. */
  recount(s: SeatState): void {
    for (const timer of this.all) if (s.f[timer.at] !== Infinity) this.enlist(s, timer);
  }

  private enlist({ i }: SeatState, timer: Timer): void {
    i[this.list + i[this.running]!++] = timer.id;
  }
}

/** The same while a plan is compiled: every rule adds its own. */
export class Timers extends TimerList {
  private readonly ofAction = new Map<number, number>();
  private readonly own: RuleCells;

  constructor(cells: Cells) {
    const own = cells.rule("timers");
    super(own.count("running"), 0);
    this.own = own;
  }

  /** The cells that made code has to know. */
  get cells(): { readonly running: number; readonly list: number } {
    return { running: this.running, list: this.list };
  }

  /** Adds a timer, ordered by the number of its action. */
  due(cells: RuleCells, name: string, owner: Timed, action: number): Timer {
    const before = this.ofAction.get(action) ?? 0;
    this.ofAction.set(action, before + 1);
    return this.add(cells, name, owner, Phase.Due, action * EACH + before);
  }

  window(cells: RuleCells, name: string, owner: Timed, phase = Phase.Window): Timer {
    return this.add(cells, name, owner, phase, this.all.length);
  }

  private add(cells: RuleCells, name: string, owner: Timed, phase: Phase, rank: number): Timer {
    const timer = new Timer(this.all.length, phase, rank, owner, cells.float(name, Infinity));
    this.all.push(timer);
    return timer;
  }

  /** All timers are known: allocates the list of those that are set. */
  close(): void {
    this.list = this.own.count("list", this.all.length);
  }
}
