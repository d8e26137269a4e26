/**
 * Plain entries of switches: a control or a direction, pressed or released. In: presses and releases of their signals.
 * Out: how many of a switch's entries are down. An entry that waits holds its presses back while a gesture may claim them.
 */
import { EntryInt, GestureInt, Clock } from "./layout.js";
import { setDeadline, clearDeadline } from "./deadlines.js";
import { dropPending } from "./claims.js";
import { claimEnd } from "./gestures.js";
import type { SeatState } from "./state.js";
import { pressSwitch, releaseSwitch } from "./switches.js";
import type { EntryTable } from "./tables.js";

/** The entry's signal went down. What its switch cannot see now, it does not see until the next press. */
export function pressEntry(state: SeatState, entry: EntryTable): void {
  const { i } = state;
  if (i[entry.i + EntryInt.Hidden] === 1 || state.isTaken(entry.signal, entry.switch)) return;
  if (!state.isLive(entry.action) && !state.tables.switch[entry.switch]!.carry) return;
  if (entry.deadline >= 0) {
    if (isClaimed(state, entry)) return;
    i[entry.i + EntryInt.Pending]!++;
    i[entry.i + EntryInt.PendingDown] = 1;
    reviewEntry(state, entry, false);
    return;
  }
  i[entry.i + EntryInt.Down] = 1;
  pressSwitch(state, entry.switch, entry.signal);
}

/** Whether a gesture has claimed the press at hand. */
function isClaimed({ i }: SeatState, { rivals }: EntryTable): boolean {
  for (let n = 0; n < rivals.length; n++) if (i[rivals[n]!.i + GestureInt.Up] === 1) return true;
  return false;
}

/** The entry's signal went up. */
export function releaseEntry(state: SeatState, entry: EntryTable): void {
  const { i } = state;
  if (entry.deadline >= 0) i[entry.i + EntryInt.PendingDown] = 0;
  if (i[entry.i + EntryInt.Down] === 0) return;
  i[entry.i + EntryInt.Down] = 0;
  if (i[entry.i + EntryInt.Hidden] === 0) releaseSwitch(state, entry.switch);
}

/** Lets waiting presses through where no gesture can claim them any more. `over`: the events of this moment have been handled. */
export function reviewEntry(state: SeatState, entry: EntryTable, over: boolean): void {
  const { i } = state;
  if (i[entry.i + EntryInt.Pending] === 0) return;
  const now = state.clock[Clock.Now]!;
  let end = -Infinity;
  const { rivals } = entry;
  for (let n = 0; n < rivals.length; n++) {
    const one = claimEnd(state, rivals[n]!);
    if (one > end) end = one;
  }
  if (end > now || (end === now && !over)) {
    setDeadline(state, entry.deadline, end);
    return;
  }
  clearDeadline(state, entry.deadline);
  const presses = i[entry.i + EntryInt.Pending]!;
  const lasts = i[entry.i + EntryInt.PendingDown]!;
  i[entry.i + EntryInt.Pending] = i[entry.i + EntryInt.PendingDown] = 0;
  for (let n = lasts; n < presses; n++) state.blip(entry.switch, entry.signal);
  if (lasts === 0) return;
  i[entry.i + EntryInt.Down] = 1;
  pressSwitch(state, entry.switch, entry.signal);
}

/** A mode above begins or ends to hide the entry's control. What stayed down all the time comes back. */
export function hideEntry(state: SeatState, entry: EntryTable, hidden: number): void {
  if (hidden === 1) dropPending(state, entry);
  if (state.i[entry.i + EntryInt.Down] === 0) return;
  if (hidden === 1) releaseSwitch(state, entry.switch);
  else pressSwitch(state, entry.switch, entry.signal);
}
