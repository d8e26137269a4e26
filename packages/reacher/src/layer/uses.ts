/** Whether a control does something now. In: a seat, and the control's name. Pure. */
import type { SeatEngine } from "../engine/seat.js";
import { Live } from "../engine/tables.js";

/** Whether a live action of this seat uses this control, or a part of it. */
export function isUsed({ tables, b }: SeatEngine, control: string): boolean {
  for (const id of tables.named.get(control) ?? [])
    for (const { liveAt, hiddenAt } of tables.users.get(id) ?? [])
      if (b[liveAt] === Live.Yes && (hiddenAt < 0 || b[hiddenAt] === 0)) return true;
  return false;
}
