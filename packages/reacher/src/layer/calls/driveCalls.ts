/** The game drives an action itself. In: a value, and a reason. Out: commands. */
import { momentOf, mustBeText } from "../../plan/arguments.js";
import { ReacherError } from "../../plan/errors.js";
import { MOST_DRIVES } from "../../engine/meanings.js";
import { Bits, DriveBits, EventKind } from "../../engine/queue.js";
import { knownReason, reasonBit } from "../../engine/reasons.js";
import { countBits, drivenHow, drivenValue, type Driving } from "../driving.js";
import type { DriveOptions } from "../types.js";
import { command, indexIn, mustBeMade, SeatPart } from "./seatPart.js";

export abstract class DriveCalls extends SeatPart {
  drive(action: string, given: Driving, reason: string, options?: number | DriveOptions): void {
    mustBeMade(this, EventKind.Drive, "drive");
    const actionIndex = indexIn("action", action, this.checked.actions);
    const thing = this.checked.actions[actionIndex]!;
    const value = drivenValue(thing, given);
    mustBeText(reason, "reason");
    const t = momentOf(options);
    const { way, blendMs } = drivenHow(thing, Object(options) as DriveOptions);
    const isLetGo = value === null;
    const { engine } = this;
    // By the time it is handled, it may be driven for a new reason.
    const driving = reasonsDriving(this, actionIndex);
    if (
      !isLetGo &&
      (driving & knownReason(engine, engine.tables, reason)) === 0 &&
      countBits(driving) >= MOST_DRIVES
    )
      throw new ReacherError(
        `${MOST_DRIVES} reasons drive ${action} already; let one of them go, or use its name again`,
      );
    const bitOf = isLetGo && t === undefined ? knownReason : reasonBit;
    const bit = bitOf(engine, engine.tables, reason);
    if (bit === 0) return;
    const [x, y] = value ?? [NaN, NaN];
    if (blendMs > 0) command(this, EventKind.Blend, actionIndex, blendMs, t);
    const index = (actionIndex << DriveBits.Action) | ((31 - Math.clz32(bit)) << DriveBits.Reason) | way;
    command(this, EventKind.Drive, index, x, t, y);
  }
}

/** The reasons that drive an action once all waiting events are handled, one bit each. */
function reasonsDriving({ engine, scheduler }: SeatPart, action: number): number {
  let bits = engine.tables.actions[action]!.drivenBy?.(engine) ?? 0;
  for (const queue of [scheduler.commands, scheduler.events])
    for (let at = queue.first(engine.number); at >= 0; at = queue.after(at)) {
      const what = queue.whatAt(at);
      const index = what >> Bits.Kind;
      if ((what & Bits.KindMask) !== EventKind.Drive || index >> DriveBits.Action !== action) continue;
      const bit = 1 << ((index >> DriveBits.Reason) & DriveBits.ReasonMask);
      const value = queue.valueAt(at);
      bits = value === value ? bits | bit : bits & ~bit;
    }
  return bits;
}
