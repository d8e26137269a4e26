/**
 * Several seats on one clock. In: a moment to advance to. Out: each seat that wakes by then is advanced to it; the others sleep and cost nothing. May
 * change: the clock and the queues that they share.
 */
import { Clock } from "./clock.js";
import { Line } from "./queue.js";
import { Scheduler } from "./scheduler.js";

/** How many of a crowd's seats are prefetched together: a power of two that fits the cache. */
const enum Fetch {
  Count = 16,
  Mask = 15,
}

export class ManySeats extends Scheduler {
  /** Whether seats are apart, as a crowd's are: each takes all its events of a step in a row. */
  isApart = false;
  /** A sink for `fetch`; its value means nothing. */
  readonly fetched = new Int32Array(1);

  protected override run(): void {
    const { clock, awake } = this;
    // Fast path: nearly always one seat alone has work.
    const isTogether = this.isHeard && !this.isApart && this.seats.length > 1;
    if (awake.count === 1 && !isTogether && this.runOne(awake.items[0]!)) return;
    if (isTogether) this.runTogether();
    else this.runAll();
    const { wakes } = this.events;
    let next = Infinity;
    for (let n = 0; n < awake.count; n++) next = Math.min(next, wakes[awake.items[n]! * Line.Size]!);
    clock[Clock.Wake] = next;
    this.finish();
  }

  /**
   * All seats take their events in one order: by moment, then in the plan's order. So what one seat's callbacks tell another comes at
   * the same place, however long the step is.
   */
  private runTogether(): void {
    const { clock, awake, seats } = this;
    const until = clock[Clock.Until]!;
    for (;;) {
      let at = -1;
      let next = -1;
      let moment = Infinity;
      for (let n = 0; n < awake.count; n++) {
        const seat = awake.items[n]!;
        const own = this.events.wakes[seat * Line.Size]! <= until ? seats[seat]!.nextMoment(until) : Infinity;
        if (own > until || own > moment || (own === moment && seat > next)) continue;
        at = n;
        next = seat;
        moment = own;
      }
      if (at < 0) return;
      clock[Clock.Limit] = moment;
      this.running = next;
      seats[next]!.catchUp();
      if (this.events.wakes[next * Line.Size] === Infinity) awake.items[at] = awake.items[--awake.count]!;
    }
  }

  private runAll(): void {
    const { clock, awake, seats } = this;
    const { wakes } = this.events;
    const until = clock[Clock.Until]!;
    let kept = 0;
    let n = 0;
    try {
      for (; n < awake.count; n++) {
        if ((n & Fetch.Mask) === 0) this.fetch(n);
        const seat = awake.items[n]!;
        const line = seat * Line.Size;
        if (wakes[line]! <= until) {
          clock[Clock.Now] = clock[Clock.From]!;
          this.running = seat;
          seats[seat]!.catchUp();
        }
        if (wakes[line] !== Infinity) awake.items[kept++] = seat;
      }
    } finally {
      // If a callback threw, the rest of the list keeps its place.
      for (; n < awake.count; n++) awake.items[kept++] = awake.items[n]!;
      awake.count = kept;
    }
  }

  /**
   * Prefetches the seats whose turn comes next. The seats of a crowd are not in the cache, and the processor waits for
   * each part of memory that a step touches; read in a row, they are fetched in parallel.
   */
  private fetch(from: number): void {
    const { awake, seats, clock, events } = this;
    const { wakes } = events;
    const until = clock[Clock.Until]!;
    const end = Math.min(from + Fetch.Count, awake.count);
    let sum = 0;
    for (let n = from; n < end; n++) {
      const seat = awake.items[n]!;
      if (wakes[seat * Line.Size]! <= until) sum += seats[seat]!.prefetch();
    }
    // Stored, so that the optimizer does not remove the reads.
    this.fetched[0] = sum;
  }
}
