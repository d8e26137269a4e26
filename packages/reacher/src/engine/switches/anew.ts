/**
 * Each press of any of a switch's keys is one of its own. In: which of its sources are pressed. Out: which presses have not been evaluated yet,
 * and which of those that are down hold the switch on: one that was refused or spent does not. May change: a byte and a number for each source.
 */
import type { Keyed } from "../cells.js";
import { Rule } from "../cells.js";
import type { Feature } from "../compile.js";
import { listOf } from "../lists.js";
import type { SeatState } from "../state.js";
import type { SourceRule } from "../tables.js";
import type { Renewal } from "./hooks.js";
import type { Switch } from "./switch.js";

/** The press of a source, while it is down. What is down by other tables counts. */
const enum Press {
  Counts,
  Spent,
  /** Not evaluated yet. */
  New,
}

export class Anew extends Rule implements Renewal {
  /** Whether it began anew in this event, which is told as off and on. */
  readonly begins = this.cells.byte("beginsAnew");
  /** Whether a press at this moment alone has not been evaluated yet. */
  readonly instant = this.cells.byte("anewInstant");
  private readonly states: number[] = [];
  private readonly pressedIn: number[] = [];

  constructor(
    private readonly owner: Switch,
    private readonly eventNumber: number,
  ) {
    super(owner.cells);
  }

  /** All sources are known. */
  link(sources: readonly (SourceRule & Rule)[]): void {
    for (const { cells } of sources) {
      this.states.push(cells.byte("anew"));
      this.pressedIn.push(cells.int("anewIn"));
    }
  }

  press(s: SeatState, source: SourceRule, isNew: boolean): void {
    const n = this.owner.sources.indexOf(source);
    if (!isNew) return;
    s.b[this.states[n]!] = Press.New;
    s.i[this.pressedIn[n]!] = s.i[this.eventNumber]!;
  }

  isNew({ b }: SeatState, source: SourceRule): boolean {
    return b[this.states[this.owner.sources.indexOf(source)]!] === Press.New;
  }

  holds(s: SeatState): boolean {
    return this.newest(s) >= 0;
  }

  newest(s: SeatState): number {
    const { states, pressedIn } = this;
    const { sources } = this.owner;
    let newest = -1;
    for (let n = 0; n < sources.length; n++) {
      const { hiddenAt } = sources[n]!;
      if (s.b[states[n]!] === Press.Spent || !sources[n]!.isDown(s)) continue;
      if (hiddenAt >= 0 && s.b[hiddenAt] === 1) continue;
      if (newest < 0 || s.i[pressedIn[n]!]! >= s.i[pressedIn[newest]!]!) newest = n;
    }
    return newest;
  }

  take(s: SeatState): number {
    const { states } = this;
    for (let n = 0; n < states.length; n++) {
      if (s.b[states[n]!] !== Press.New) continue;
      s.b[states[n]!] = Press.Counts;
      return n;
    }
    return -1;
  }

  refuse({ b }: SeatState, source: number): void {
    b[this.states[source]!] = Press.Spent;
  }

  spendAll(s: SeatState): void {
    const { states } = this;
    const { sources } = this.owner;
    for (let n = 0; n < states.length; n++) if (sources[n]!.isDown(s)) s.b[states[n]!] = Press.Spent;
  }

  /** A press that was kept counts from now on. False if its key was let go meanwhile. */
  renew(s: SeatState, signal: Keyed): boolean {
    const { sources } = this.owner;
    for (let n = 0; n < sources.length; n++) {
      if (!sources[n]!.isDown(s) || !(sources[n]!.signals as readonly Keyed[]).includes(signal)) continue;
      s.b[this.states[n]!] = Press.New;
      return true;
    }
    return false;
  }
}

export const anew: Feature = {
  options: [
    {
      name: "anew",
      appliesTo: (action) => action.anew,
      make: (compiler, owner: Switch) => {
        const rule = new Anew(owner, compiler.eventNumber);
        owner.anew = rule;
        owner.keepInstantPresses();
        compiler.links.push(() => rule.link(listOf(owner.sources as (SourceRule & Rule)[])));
      },
    },
  ],
};
