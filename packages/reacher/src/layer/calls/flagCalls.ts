/** The game tells facts. In: a flag, and whether it is true. Out: a command. */
import { momentOf } from "../../plan/arguments.js";
import { EventKind } from "../../engine/queue.js";
import { FALSE_AT_ONCE } from "../../engine/meanings.js";
import type { FlagOptions } from "../types.js";
import { command, indexIn, SeatPart } from "./seatPart.js";

export abstract class FlagCalls extends SeatPart {
  setFlag(flag: string, on: boolean, options?: number | FlagOptions): void {
    const t = momentOf(options);
    const { linger = true } = Object(options) as FlagOptions;
    const value = on ? 1 : linger ? 0 : FALSE_AT_ONCE;
    command(this, EventKind.Flag, indexIn("flag", flag, this.checked.flags), value, t);
  }

  get flags(): Readonly<Record<string, boolean>> {
    const { engine, checked } = this;
    const isTrue = (name: string) => engine.b[engine.tables.conditions.get(name)!.at] === 1;
    return Object.fromEntries(checked.flags.map(({ name }) => [name, isTrue(name)]));
  }
}
