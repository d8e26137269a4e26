/** The whole state of one seat, copied and put back. */
import { copyOf, putBack } from "../snapshots.js";
import { SeatPart } from "./seatPart.js";

export abstract class SnapshotCalls extends SeatPart {
  /** The seat is back where a snapshot was taken. */
  abstract notifyRestored(): void;

  snapshot(into?: Uint8Array): Uint8Array {
    return copyOf([this.engine], into);
  }

  restore(snapshot: Uint8Array): void {
    putBack([this.engine], snapshot);
    this.notifyRestored();
  }
}
