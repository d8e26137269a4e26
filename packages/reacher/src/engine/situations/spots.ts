/** Spots from which the pointer is measured: where the game's figures are. In: what the game tells. Out: pointers looked at again. */
import { POINTER } from "../../plan/pointer.js";
import type { CheckedPlan } from "../../plan/checked.js";
import { Rule, type Cells, type RuleCells } from "../cells.js";
import type { SeatState } from "../state.js";
import type { CommandRule } from "../tables.js";

export class Spot extends Rule {
  readonly x = this.cells.float("x", this.start[0]);
  readonly y = this.cells.float("y", this.start[1]);
  /** Those that are measured from it. */
  readonly pointers: { readonly id: number }[] = [];

  constructor(
    cells: RuleCells,
    private readonly start: readonly [x: number, y: number],
  ) {
    super(cells);
  }

  set(s: SeatState, x: number, y: number): void {
    const { pointers } = this;
    s.f[this.x] = x;
    s.f[this.y] = y;
    for (let n = 0; n < pointers.length; n++) s.markStick(pointers[n]!.id);
  }

  reset(s: SeatState): void {
    this.set(s, this.start[0], this.start[1]);
  }
}

/** All spots of a plan; the last is the pointer's own place, which may change without a move by hand. */
export class Spots implements CommandRule {
  private readonly all: readonly Spot[];
  private readonly pointers: readonly { place(s: SeatState, x: number, y: number): void }[];

  constructor({
    plan,
    cells,
    spots,
    pointers,
  }: {
    readonly plan: CheckedPlan;
    readonly cells: Cells;
    readonly spots: Map<string, Spot>;
    readonly pointers: Spots["pointers"];
  }) {
    this.pointers = pointers;
    this.all = plan.spots
      .filter(({ name }) => name !== POINTER)
      .map(({ name, value }) => {
        const spot = new Spot(cells.rule(`spot ${name}`), value);
        spots.set(name, spot);
        return spot;
      });
  }

  apply(s: SeatState, index: number, x: number, y: number): void {
    const { all, pointers } = this;
    if (index < all.length) all[index]!.set(s, x, y);
    else for (let n = 0; n < pointers.length; n++) pointers[n]!.place(s, x, y);
  }

  reset(s: SeatState): void {
    for (const spot of this.all) spot.reset(s);
  }
}
