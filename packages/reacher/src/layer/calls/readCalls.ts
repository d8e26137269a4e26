/** What a game asks of a seat besides its reading. */
import type { CheckedPlan } from "../../plan/checked.js";
import type { Reading } from "../../engine/readings.js";
import { Live } from "../../engine/tables.js";
import { indexIn, SeatPart } from "./seatPart.js";

export abstract class LiveCalls extends SeatPart {
  live(action: string): boolean {
    const { tables, b } = this.engine;
    const index = indexIn("action", action, this.checked.actions);
    if (b[tables.started] === 0) return livesAtStart(this.checked, index);
    return b[tables.actions[index]!.liveAt] === Live.Yes;
  }
}

export abstract class CopyCalls extends SeatPart {
  copy(): Reading {
    const all = Object.entries(this.now).map(([name, reading]) => [name, plainCopy(reading)]);
    return Object.freeze(Object.fromEntries(all)) as Reading;
  }
}

/** Whether an action is live before the first step: one of its modes is on at the start, and no mode above covers it. */
function livesAtStart({ actions, modes, start }: CheckedPlan, action: number): boolean {
  const own = actions[action]!.in;
  const highest = Math.max(...own.map((mode) => start.lastIndexOf(mode)));
  const covers = (name: string) => modes.find((mode) => mode.name === name)!.covers === "all";
  return own.length === 0 || (highest >= 0 && !start.slice(highest + 1).some(covers));
}

/** A frozen copy of a reading's values. */
function plainCopy(reading: object): object {
  const values = Object.entries(reading).map(([name, value]) => [
    name,
    typeof value === "object" && value !== null ? plainCopy(value as object) : (value as unknown),
  ]);
  return Object.freeze(Object.fromEntries(values)) as object;
}
