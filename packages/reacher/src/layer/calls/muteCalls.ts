/** The game mutes actions for a reason, and asks which are muted. */
import { momentOf, mustBeText, type Moment } from "../../plan/arguments.js";
import { EventKind } from "../../engine/queue.js";
import { knownReason, reasonBit, reasonNames } from "../../engine/reasons.js";
import { situationOf } from "../../engine/situations/situationOf.js";
import { command, indexIn, mustBeMade, SeatPart } from "./seatPart.js";

export abstract class MuteCalls extends SeatPart {
  mute(action: string, reason: string, moment?: Moment): void {
    mustBeMade(this, EventKind.Mute, "mute");
    const id = indexIn("action", action, this.checked.actions);
    mustBeText(reason, "reason");
    const t = momentOf(moment);
    command(this, EventKind.Mute, id, reasonBit(this.engine, this.engine.tables, reason), t);
  }

  unmute(action: string, reason?: string, moment?: Moment): void {
    mustBeMade(this, EventKind.Unmute, "unmute");
    const id = indexIn("action", action, this.checked.actions);
    if (reason !== undefined) mustBeText(reason, "reason");
    const t = momentOf(moment);
    const { engine } = this;
    // By the time it is handled, a callback may have muted for a new reason.
    const bitOf = t === undefined ? knownReason : reasonBit;
    const bit = reason === undefined ? -1 : bitOf(engine, engine.tables, reason);
    if (bit !== 0) command(this, EventKind.Unmute, id, bit, t);
  }

  get mutes(): Readonly<Record<string, readonly string[]>> {
    const { engine, checked } = this;
    const situation = situationOf(engine.tables);
    const all = checked.actions.map(
      ({ name }, n) => [name, reasonNames(engine, engine.tables, situation?.mutes(engine, n) ?? 0)] as const,
    );
    return Object.fromEntries(all.filter(([, reasons]) => reasons.length > 0));
  }
}
