/** A switch rests for a while after it began: a press that would begin it within that time is ignored for good. */
import { Rule } from "../cells.js";
import { Clock } from "../clock.js";
import type { Feature } from "../compile.js";
import type { SeatState } from "../state.js";
import type { Beginning } from "./hooks.js";
import type { Switch } from "./switch.js";

export class Rest extends Rule implements Beginning {
  readonly until = this.cells.float("restsUntil", -Infinity);

  constructor(
    { cells }: Switch,
    private readonly restMs: number,
  ) {
    super(cells);
  }

  refuses({ f, clock }: SeatState): boolean {
    return clock[Clock.Now]! <= f[this.until]!;
  }

  begin({ f, clock }: SeatState): void {
    f[this.until] = clock[Clock.Now]! + this.restMs;
  }
}

export const rest: Feature = {
  options: [
    {
      name: "restMs",
      isAsked: ({ restMs }) => restMs > 0,
      make: (_, owner: Switch, { restMs }) => owner.begins(new Rest(owner, restMs)),
    },
  ],
};
