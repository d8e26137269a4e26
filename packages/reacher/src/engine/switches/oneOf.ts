/**
 * Of the switches with one name at most one is on: the one pressed last; in one event the later in the plan. One whose own needs
 * fail does not lose to another: it goes off by itself, and comes back with its needs unless one pressed later is on.
 */
import { Rule } from "../cells.js";
import type { Feature } from "../compile.js";
import type { SeatState } from "../state.js";
import type { StartGuard, ExclusiveGroup } from "./hooks.js";
import type { Switch } from "./switch.js";

export class OneOf extends Rule implements ExclusiveGroup, StartGuard {
  /** The number of the event that pressed it last. */
  private readonly pressedIn = this.cells.int("pressedIn");

  constructor(
    private readonly owner: Switch,
    private readonly group: readonly Switch[],
    private readonly turn: number,
  ) {
    super(owner.cells);
  }

  pressed({ i }: SeatState): void {
    i[this.pressedIn] = i[this.turn]!;
  }

  isBeaten(s: SeatState): boolean {
    const { owner, group } = this;
    for (let n = 0; n < group.length; n++)
      if (group[n] !== owner && this.isBeatenBy(s, group[n]!)) return true;
    return false;
  }

  private isBeatenBy(s: SeatState, rival: Switch): boolean {
    if (this.isOn(s, rival)) return this.isLater(s, rival);
    const isRising = rival.isRising(s);
    if (!(isRising || rival.isWaiting(s)) || !rival.mayBegin(s, false)) return false;
    return this.isLater(s, rival, isRising ? this.turn : undefined);
  }

  turnOthersOff(s: SeatState): void {
    const { owner, group } = this;
    for (let n = 0; n < group.length; n++) {
      const rival = group[n]!;
      if (rival === owner || !this.isOn(s, rival)) continue;
      if (this.isLater(s, rival)) {
        owner.turnOff(s);
        return;
      }
      rival.turnOff(s);
    }
  }

  refuses(): boolean {
    return false;
  }

  /** A switch that begins drops the kept presses of the others. */
  begin(s: SeatState): void {
    const { owner, group } = this;
    for (let n = 0; n < group.length; n++) {
      const { keeper } = group[n]!;
      if (keeper !== null && group[n] !== owner) keeper.drop(s);
    }
  }

  others(): readonly Switch[] {
    return this.group.filter((rule) => rule !== this.owner);
  }

  private isOn(s: SeatState, { on, needs }: Switch): boolean {
    return s.b[on] === 1 && (needs === null || needs.hold(s));
  }

  private isLater(
    { i }: SeatState,
    rival: Switch,
    pressedIn = (rival.exclusive as OneOf).pressedIn,
  ): boolean {
    const own = i[this.pressedIn]!;
    const other = i[pressedIn]!;
    return other > own || (other === own && rival.id > this.owner.id);
  }
}

export const oneOf: Feature = {
  options: [
    {
      name: "oneOf",
      appliesTo: (action) => action.oneOf !== undefined,
      make: (compiler, owner: Switch, action) => {
        const group = compiler.groupOf<Switch>(action.oneOf!);
        group.push(owner);
        const rule = new OneOf(owner, group, compiler.eventNumber);
        owner.exclusive = rule;
        owner.begins(rule);
      },
    },
  ],
};
