/** A lost focus or pad is a cancellation, not a release: everything goes to rest at one moment, and nothing fires. */
import type { Feature } from "../compile.js";
import { EventKind } from "../queue.js";
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import { PAD, type CommandRule, type Tables } from "../tables.js";

/** The focus or a pad is lost. */
class Losing implements CommandRule {
  constructor(private readonly tables: Pick<Tables, "bound" | "switches" | "movements">) {}

  /** `place` of a lost pad, or -1 for everything. */
  apply(s: SeatState, padIndex: number): void {
    const { bound, switches, movements } = this.tables;
    const isLost = ({ channel }: Signal) => padIndex < 0 || channel === null || channel.device === PAD;
    for (const rule of switches) {
      for (const source of rule.sources) if (source.signals.some(isLost)) source.forget(s);
      rule.lose(s, isLost);
    }
    for (const movement of movements) movement.lose(s, padIndex < 0);
    for (const channel of bound) {
      if (padIndex < 0) for (let n = 0; n < channel.padCount; n++) channel.rest(s, n);
      else if (channel.device === PAD) channel.rest(s, padIndex);
    }
  }
}

export const losses: Feature = {
  open: (compiler) => {
    compiler.commands[EventKind.Lose] = new Losing(compiler);
  },
};
