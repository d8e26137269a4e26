/** Presses that wait to see whether a gesture claims them. */
import { clearDeadline } from "./deadlines.js";
import { EntryInt } from "./layout.js";
import type { SeatState } from "./state.js";
import type { EntryTable } from "./tables.js";

/** A gesture has claimed the presses that wait, or they are lost. */
export function dropPending(state: SeatState, entry: EntryTable): void {
  if (entry.deadline < 0) return;
  state.i[entry.i + EntryInt.Pending] = state.i[entry.i + EntryInt.PendingDown] = 0;
  clearDeadline(state, entry.deadline);
}
