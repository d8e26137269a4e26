import type { EventKind } from "./queue.js";

/** Observes what a seat does, at the exact moments; for recorders and explanations. */
export interface SeatWatcher {
  /** An event is about to be handled, as in the event queue. */
  handled?(kind: EventKind, index: number, value: number, other: number): void;
  /** A timer is about to be handled. */
  due?(timer: number): void;
  /** The event or timer has been handled, with everything that followed from it. */
  settled?(): void;
}
