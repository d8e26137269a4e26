/** The game sets one of several flags or numbers. In: which one, and its value. */
import type { SeatState } from "../state.js";
import type { CommandRule } from "../tables.js";

export class SetEach implements CommandRule {
  constructor(private readonly all: readonly { set(s: SeatState, value: number): void }[]) {}

  apply(s: SeatState, index: number, value: number): void {
    this.all[index]!.set(s, value);
  }
}
