/** Makes switches, and their plain entries that do not wait. */
import type { CheckedSwitch } from "../../plan/checked.js";
import type { EntryOf, Feature } from "../compile.js";
import { EventKind } from "../queue.js";
import type { SeatState } from "../state.js";
import type { CommandRule } from "../tables.js";
import { Entry } from "./entry.js";
import { SwitchReading } from "./reading.js";
import { Switch } from "./switch.js";

/** The game sets a switch. */
class SetSwitch implements CommandRule {
  constructor(private readonly actions: readonly object[]) {}

  apply(s: SeatState, action: number, on: number): void {
    const one = this.actions[action];
    // Another plan may have something else of this name.
    if (one instanceof Switch) one.setTo(s, on);
  }
}

export const switches: Feature = {
  open: (compiler) => {
    compiler.commands[EventKind.SetSwitch] = new SetSwitch(compiler.actions);
  },
  actions: {
    switch: (compiler, action: CheckedSwitch, number) => {
      const cells = compiler.cells.rule(`switch ${action.name}`);
      const live = compiler.live(cells);
      const rule = new Switch(cells, compiler.switches.length, number, action, live, compiler.signals);
      compiler.switches.push(rule);
      compiler.addAction(rule, (s, action) => new SwitchReading(s, action));
      compiler.conditions.set(action.name, rule.condition);
      compiler.resets.push(rule);
      compiler.makeOptions(rule, action, cells, number);
      const plain = new Set<unknown>();
      for (const entry of action.entries) {
        const kind = entry.kind === "plain" && entry.waits ? "waits" : entry.kind;
        if (entry.kind === "plain") {
          // The same control in two slots is one source: one press of it counts once.
          const signal = compiler.signal(entry.of[0]!);
          if (plain.has(signal)) continue;
          plain.add(signal);
        }
        compiler.make("entries", kind)(compiler, { owner: rule, entry } as never, number);
      }
      compiler.recounts.push(rule);
    },
  },
  entries: {
    plain: (compiler, { owner, entry }: EntryOf<Switch, "plain">) => {
      const signal = compiler.signal(entry.of[0]!);
      const cells = compiler.cells.rule(`${owner.name} plain ${signal.name}`);
      compiler.addEntry(new Entry(cells, owner, signal, compiler.hidden(cells)), signal);
    },
  },
};
