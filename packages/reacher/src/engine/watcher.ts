import type { Kind } from "./queue.js";

/** Sees what a seat does, at the exact moments; for recorders and explanations. */
export interface SeatWatcher {
  /** An event is about to be handled: as it stands in the event queue. */
  handled?(kind: Kind, index: number, value: number, other: number): void;
  /** A timer is about to be handled. */
  due?(timer: number): void;
  /** The event or timer at hand has been handled, with all that came of it. */
  settled?(): void;
}
