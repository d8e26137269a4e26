import type { EventQueues } from "./queue.js";

/** Observes what a seat does, at the exact moments; for recorders and explanations. */
export interface SeatWatcher {
  /** A command, or the events that count as one, are about to be handled: those from one place of a queue up to another. */
  handling?(queue: EventQueues, first: number, end: number): void;
  /** A timer is about to be handled. */
  due?(timer: number): void;
  /** The event or timer has been handled, with everything that followed from it. */
  settled?(): void;
}
