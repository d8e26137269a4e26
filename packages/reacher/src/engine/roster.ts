/**
 * The seats of a layer, and which of them have something to do. In: a moment to carry them to. Out: each seat that wakes by
 * then is carried there; the others sleep, and cost nothing. May change: the clock and the queues that all of them share.
 */
import { ReacherError } from "../plan/findings.js";
import { Clock } from "./layout.js";
import { listOf, MarkedList, NumberList } from "./lists.js";
import { Bits, EventQueues, Line } from "./queue.js";
import type { ChannelTable, Tables } from "./tables.js";

/** What a roster carries: a seat with its state. */
export interface Sleeper {
  /** Looks into each part of the memory that an event needs; what comes of it means nothing. */
  look(): number;
  /** Handles all that is due until `Clock.Until`. */
  catchUp(): void;
}

/** How many of a crowd's seats are fetched together: a power of two, and no more than the nearest memory holds. */
const enum Fetch {
  Count = 16,
  Mask = 15,
}

export class Roster {
  readonly clock = new Float64Array(Clock.Size);
  /** How many things were looked at so far: what steps cost, countable. It is no part of any state. */
  readonly work = new Int32Array(1);
  /** What `fetch` has added up; it means nothing. */
  readonly fetched = new Int32Array(1);
  /** Events by their stamps, and what the game has told: a queue for each seat. */
  readonly events = new EventQueues();
  readonly told = new EventQueues();
  private readonly seats: Sleeper[] = listOf();
  /** By seat: its tables. They stand here since many are looked through in a row. */
  readonly tables: Tables[] = listOf();
  /** Seats that wait for an event or a deadline, each once: those whose wake is below infinity. */
  private readonly awake = new NumberList();
  /** True while a callback of the game runs. */
  calling = false;
  private running = false;
  private readonly scratches = new Map<Tables, Scratch>();

  constructor() {
    this.clock[Clock.Now] = this.clock[Clock.Wake] = -Infinity;
  }

  /** Takes a seat on and gives its number, which its queues have too. */
  enlist(seat: Sleeper): number {
    const number = this.seats.push(seat) - 1;
    this.events.open();
    this.told.open();
    return number;
  }

  /** A seat wakes at this moment, or before it. */
  wake(seat: number, at: number): void {
    const { clock } = this;
    const { wakes } = this.events;
    const line = seat * Line.Size;
    const before = wakes[line]!;
    if (at >= before) return;
    if (before === Infinity) this.awake.add(seat);
    wakes[line] = at;
    if (at < clock[Clock.Wake]!) clock[Clock.Wake] = at;
  }

  /** An event from a device. One stamped at or before the last step is handled at that step's time. True where it was late. */
  addEvent(seat: number, t: number, what: number, value: number): boolean {
    const { clock } = this;
    const late = t <= clock[Clock.Now]!;
    const at = late ? clock[Clock.Now]! : t;
    this.events.add(seat, at, what, value);
    this.wake(seat, at);
    return late;
  }

  /** A control's event; the two axes of a stick at one moment are one. True where it was late. */
  addControl(seat: number, channel: ChannelTable, place: number, t: number, value: number): boolean {
    const bits = place << Bits.Kind;
    const now = this.clock[Clock.Now]!;
    const late = t <= now;
    const at = late ? now : t;
    if (channel.other >= 0 && this.events.join(seat, at, channel.otherWhat | bits, value)) return late;
    this.events.add(seat, at, channel.what | bits, value);
    this.wake(seat, at);
    return late;
  }

  /** Carries all to `until`. Times that run backwards, and times that are none, are the last step's time again. */
  step(until: number): void {
    const { clock } = this;
    if (this.calling)
      throw new ReacherError("step was called from a callback of step; do it after the step has returned");
    clock[Clock.Step]!++;
    clock[Clock.Before] = clock[Clock.Now]!;
    if (!(until > clock[Clock.Now]!)) until = clock[Clock.Now]!;
    if (until < clock[Clock.Wake]!) clock[Clock.Now] = until;
    else if (until > -Infinity) {
      clock[Clock.Until] = until;
      this.wakeAll();
    }
  }

  private wakeAll(): void {
    const { clock, awake, seats } = this;
    const { wakes } = this.events;
    // A callback that threw broke an event off, and the turns of the seats after its own.
    if (this.running) for (const scratch of this.scratches.values()) scratch.clear();
    if (!this.running || clock[Clock.Before]! < clock[Clock.From]!) clock[Clock.From] = clock[Clock.Before]!;
    this.running = true;
    const until = clock[Clock.Until]!;
    // Nearly always one player's keys are all that there is.
    if (awake.count === 1 && this.runOne(awake.items[0]!)) return;
    let kept = 0;
    let n = 0;
    try {
      for (; n < awake.count; n++) {
        if ((n & Fetch.Mask) === 0) this.fetch(n);
        const seat = awake.items[n]!;
        const line = seat * Line.Size;
        if (wakes[line]! <= until) {
          clock[Clock.Now] = clock[Clock.From]!;
          seats[seat]!.catchUp();
        }
        if (wakes[line] !== Infinity) awake.items[kept++] = seat;
      }
    } finally {
      // Where a callback threw, the rest of the list has not had its turn.
      for (; n < awake.count; n++) awake.items[kept++] = awake.items[n]!;
      awake.count = kept;
    }
    let next = Infinity;
    for (let n = 0; n < kept; n++) next = Math.min(next, wakes[awake.items[n]! * Line.Size]!);
    clock[Clock.Wake] = next;
    this.running = false;
    clock[Clock.Now] = until;
  }

  /**
   * Looks at the seats whose turn comes next, one after the other. Of a crowd nobody is at hand, and the machine waits for
   * each place of the memory that a step goes to; looked at in a row, they are fetched all together.
   */
  private fetch(from: number): void {
    const { awake, seats, clock, events } = this;
    const { wakes } = events;
    const until = clock[Clock.Until]!;
    const end = Math.min(from + Fetch.Count, awake.count);
    let sum = 0;
    for (let n = from; n < end; n++) {
      const seat = awake.items[n]!;
      if (wakes[seat * Line.Size]! <= until) sum += seats[seat]!.look();
    }
    // Kept, since a look that nothing comes of would be left out.
    this.fetched[0] = sum;
  }

  /** Carries the only seat that wakes; false where it woke others. */
  private runOne(seat: number): boolean {
    const { clock, awake } = this;
    this.seats[seat]!.catchUp();
    if (awake.count !== 1) return false;
    const next = this.events.wakes[seat * Line.Size]!;
    if (next === Infinity) awake.count = 0;
    clock[Clock.Wake] = next;
    clock[Clock.Now] = clock[Clock.Until]!;
    this.running = false;
    return true;
  }

  /** The short lists that an event fills and empties; seats of the same tables take turns with them. */
  scratchOf(tables: Tables): Scratch {
    let scratch = this.scratches.get(tables);
    if (scratch === undefined) this.scratches.set(tables, (scratch = new Scratch(tables)));
    return scratch;
  }
}

/** What an event has touched; all of it is empty between events. */
export class Scratch {
  readonly sticks: MarkedList;
  readonly movers: MarkedList;
  readonly turns: MarkedList;
  readonly switches: MarkedList;
  readonly paces: MarkedList;
  readonly changed: MarkedList;
  readonly moved: MarkedList;
  readonly telling: Int32Array;
  /** Signals that rose and fell in the event at hand, and presses that rise and fall at one moment: switch, signal, and so on. */
  readonly rose = new NumberList();
  readonly fell = new NumberList();
  readonly blips = new NumberList();
  /** Whether anything waits beside sticks, movers and turns. */
  stirred = false;

  constructor(tables: Tables) {
    this.sticks = new MarkedList(tables.stick.length);
    this.movers = new MarkedList(tables.mover.length);
    this.turns = new MarkedList(tables.turn.length);
    this.switches = new MarkedList(tables.switch.length);
    this.paces = new MarkedList(tables.mover.length);
    this.changed = new MarkedList(tables.switch.length);
    this.moved = new MarkedList(tables.mover.length);
    this.telling = new Int32Array(tables.switch.length);
  }

  /** Forgets what an event that was broken off has left. */
  clear(): void {
    for (const list of [
      this.sticks,
      this.movers,
      this.turns,
      this.switches,
      this.paces,
      this.changed,
      this.moved,
    ])
      list.clear();
    this.rose.count = this.fell.count = this.blips.count = 0;
    this.stirred = false;
  }
}
