/** A press that is kept for a while, until the game takes it. */
import { Rule } from "../cells.js";
import { Clock } from "../clock.js";
import type { Feature } from "../compile.js";
import type { SeatState } from "../state.js";
import type { Keeper } from "./hooks.js";
import type { Switch } from "./switch.js";

export class Keep extends Rule implements Keeper {
  readonly isKept = this.cells.byte("kept");
  private readonly until = this.cells.float("keptUntil");

  constructor(
    private readonly owner: Switch,
    readonly keepMs: number,
  ) {
    super(owner.cells);
  }

  press({ b, f, clock }: SeatState): void {
    b[this.isKept] = 1;
    f[this.until] = clock[Clock.Now]! + this.keepMs;
  }

  drop({ b }: SeatState): void {
    b[this.isKept] = 0;
  }

  take(s: SeatState): boolean {
    const { needs } = this.owner;
    if (s.b[this.isKept] === 0 || s.clock[Clock.Now]! > s.f[this.until]!) return false;
    if (needs !== null && !needs.hold(s)) return false;
    s.b[this.isKept] = 0;
    return true;
  }
}

export const keep: Feature = {
  options: [
    {
      name: "keepMs",
      isAsked: ({ keepMs }) => keepMs > 0,
      make: (_, owner: Switch, { keepMs }) => void (owner.keeper = new Keep(owner, keepMs)),
    },
  ],
};
