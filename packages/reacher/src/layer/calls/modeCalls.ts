/** The game enters and leaves modes, and asks which are on. */
import { momentOf, type Moment } from "../../plan/arguments.js";
import { EventKind } from "../../engine/queue.js";
import { situationOf } from "../../engine/situations/situationOf.js";
import { command, indexIn, SeatPart } from "./seatPart.js";

export abstract class ModeCalls extends SeatPart {
  enter(mode: string, t?: Moment): void {
    command(this, EventKind.Enter, indexIn("mode", mode, this.checked.modes), 0, momentOf(t));
  }

  leave(mode: string, t?: Moment): void {
    command(this, EventKind.Leave, indexIn("mode", mode, this.checked.modes), 0, momentOf(t));
  }

  get modes(): readonly string[] {
    const { engine, checked } = this;
    // Before the first step, those that it begins with.
    if (engine.b[engine.tables.started] === 0) return checked.start;
    const situation = situationOf(engine.tables);
    const levels = checked.modes.map(({ name }, n) => ({ name, level: situation?.levelOf(engine, n) ?? 0 }));
    return levels
      .filter(({ level }) => level > 0)
      .sort((a, b) => a.level - b.level)
      .map(({ name }) => name);
  }
}
