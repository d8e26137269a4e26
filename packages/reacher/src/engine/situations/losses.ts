/** A lost focus, pad or device is a cancellation, not a release: everything goes to rest at one moment, and nothing fires. */
import { FOCUS_LOST } from "../meanings.js";
import type { Feature } from "../compile.js";
import { EventKind } from "../queue.js";
import type { Channel, Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import { PAD, type CommandRule, type Tables } from "../tables.js";

/** The focus, a pad or the device of own controls is lost. */
class Losing implements CommandRule {
  constructor(private readonly tables: Pick<Tables, "bound" | "switches" | "movements">) {}

  /** `what`: the place of a lost pad, -1 for the focus, or below that minus the number of a device. */
  apply(s: SeatState, what: number): void {
    const { bound, switches, movements } = this.tables;
    const device = what >= 0 ? PAD : what === FOCUS_LOST ? -1 : -what;
    const rests = (channel: Channel) => (device < 0 ? !channel.keepsFocus : channel.device === device);
    // A direction may be held by what is lost.
    const isLost = ({ channel }: Signal) => channel === null || rests(channel);
    for (const rule of switches) {
      for (const source of rule.sources) if (source.signals.some(isLost)) source.forget(s);
      rule.lose(s, isLost);
    }
    for (const movement of movements) movement.lose(s, device);
    for (const channel of bound) {
      if (!rests(channel)) continue;
      if (what >= 0) channel.rest(s, what);
      else for (let n = 0; n < channel.padCount; n++) channel.rest(s, n);
    }
  }
}

export const losses: Feature = {
  open: (compiler) => {
    compiler.commands[EventKind.Lose] = new Losing(compiler);
  },
};
