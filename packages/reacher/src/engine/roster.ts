/**
 * The seats of a layer, and which of them have something to do. In: a moment to carry them to. Out: each seat that wakes by
 * then is carried there; the others sleep, and cost nothing. May change: the clock that all of them share.
 */
import { ReacherError } from "../plan/findings.js";
import { Clock, Head } from "./layout.js";
import { MarkedList, NumberList } from "./lists.js";
import type { SeatState } from "./state.js";
import type { Tables } from "./tables.js";

export class Roster {
  readonly clock = new Float64Array(Clock.Size);
  /** Seats that wait for an event or a deadline, each once; beyond their count stands what was. */
  private readonly awake: SeatState[] = [];
  private count = 0;
  /** True while a callback of the game runs. */
  calling = false;
  private running = false;
  private readonly scratches = new Map<Tables, Scratch>();

  constructor() {
    this.clock[Clock.Now] = this.clock[Clock.Wake] = -Infinity;
  }

  /** A seat wakes at this moment, or before it. */
  wake(seat: SeatState, at: number): void {
    const { f } = seat;
    if (at < f[Head.Wake]!) f[Head.Wake] = at;
    if (seat.asleep) {
      seat.asleep = false;
      // Counted by hand: an array that is emptied gives its room back, and takes it anew at the next push.
      this.awake[this.count++] = seat;
    }
    if (at < this.clock[Clock.Wake]!) this.clock[Clock.Wake] = at;
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
    const { clock, awake } = this;
    // A callback that threw broke an event off.
    if (this.running) for (const scratch of this.scratches.values()) scratch.clear();
    this.running = true;
    const until = clock[Clock.Until]!;
    // Nearly always one player's keys are all that there is.
    if (this.count === 1 && this.runOne(awake[0]!)) return;
    let kept = 0;
    let n = 0;
    try {
      for (; n < this.count; n++) {
        const seat = awake[n]!;
        if (seat.f[Head.Wake]! <= until) {
          clock[Clock.Now] = clock[Clock.Before]!;
          seat.catchUp();
        }
        if (seat.f[Head.Wake] === Infinity) seat.asleep = true;
        else if (kept === n) kept++;
        else awake[kept++] = seat;
      }
    } finally {
      // Where a callback threw, the rest of the list has not had its turn.
      for (; n < this.count; n++) awake[kept++] = awake[n]!;
      this.count = kept;
    }
    let next = Infinity;
    for (let n = 0; n < this.count; n++) if (awake[n]!.f[Head.Wake]! < next) next = awake[n]!.f[Head.Wake]!;
    clock[Clock.Wake] = next;
    this.running = false;
    clock[Clock.Now] = until;
  }

  /** Carries the only seat that wakes; false where it woke others. */
  private runOne(seat: SeatState): boolean {
    const { clock } = this;
    seat.catchUp();
    if (this.count !== 1) return false;
    // It stays on the list even where it sleeps: it is nearly always the next one to wake.
    clock[Clock.Wake] = seat.f[Head.Wake]!;
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
