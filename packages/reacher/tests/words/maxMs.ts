/** An option for the test alone: a switch that ends by itself, however long its key is held. */
import type { Feature } from "../../src/engine/compile";
import type { SeatState } from "../../src/engine/state";
import type { StartGuard } from "../../src/engine/switches/hooks";
import type { Switch } from "../../src/engine/switches/switch";
import type { Timed, Timer, Timers } from "../../src/engine/timers";
import { ms } from "../../src/plan/language/fields";
import type { Option } from "../../src/plan/options/option";

declare module "../../src/plan/types" {
  interface SwitchFields {
    readonly maxMs?: number;
  }
}
declare module "../../src/plan/checked" {
  interface CheckedOptions {
    readonly maxMs: number;
  }
}

export const option: Option<"maxMs"> = {
  field: ms(5000, { default: 0, player: { about: "Longest time", has: "maxMs" } }),
  read: (_, { maxMs = 0 }) => maxMs,
  decides: "max",
};

class Longest implements StartGuard, Timed {
  private readonly timer: Timer;

  constructor(
    private readonly owner: Switch,
    private readonly maxMs: number,
    private readonly timers: Timers,
    action: number,
  ) {
    this.timer = timers.due(owner.cells, "ends", this, action);
  }

  refuses(): boolean {
    return false;
  }

  begin(s: SeatState): void {
    this.timers.set(s, this.timer, this.maxMs);
  }

  due(s: SeatState): void {
    this.owner.setTo(s, 0);
  }
}

export const maxMs: Feature = {
  options: [
    {
      name: "maxMs",
      appliesTo: (action) => action.maxMs > 0,
      make: ({ timers }, owner: Switch, action, _, number) =>
        owner.begins(new Longest(owner, action.maxMs, timers, number)),
    },
  ],
};
