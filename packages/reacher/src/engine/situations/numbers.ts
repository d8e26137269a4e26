/** Named numbers of the plan: the game changes them while playing, and every pace that uses them follows. */
import { Rule, type RuleCells } from "../cells.js";
import type { Compiler, Feature } from "../compile.js";
import { EventKind } from "../queue.js";
import { SetEach } from "./setEach.js";
import type { SeatState } from "../state.js";

export class NamedNumber extends Rule {
  readonly at = this.cells.float("value", this.planned);
  /** The plan's value as of these tables: a number that the game has not changed follows the next plan. */
  private readonly plannedAt = this.cells.float("planned", this.planned);
  /** Paces that use it. */
  readonly paced: number[] = [];

  constructor(
    cells: RuleCells,
    private readonly planned: number,
  ) {
    super(cells);
  }

  set(s: SeatState, value: number): void {
    if (s.f[this.at] === value) return;
    s.f[this.at] = value;
    for (let n = 0; n < this.paced.length; n++) s.markPace(this.paced[n]!);
  }

  reset(s: SeatState): void {
    this.set(s, this.planned);
  }

  recount({ f }: SeatState): void {
    if (f[this.at] === f[this.plannedAt]) f[this.at] = this.planned;
    f[this.plannedAt] = this.planned;
  }
}

/** A number of a pace: a constant in a table, or a named one in the seat's cells. */
export interface Amount {
  /** Its cell; -1 for a constant. */
  readonly at: number;
  /** In an array: a float in a field could be boxed when it is read. */
  readonly own: Float64Array;
}

const NONE = new Float64Array(1);

/** A constant, or the named number that it refers to; `paced` is marked when that changes. */
export function amountOf({ numbers }: Compiler, given: number | string, paced: number): Amount {
  if (typeof given === "number") return { at: -1, own: Float64Array.of(given) };
  const number = numbers.get(given)!;
  if (!number.paced.includes(paced)) number.paced.push(paced);
  return { at: number.at, own: NONE };
}

export const numbers: Feature = {
  open: ({ plan, cells, numbers: byName, resets, recounts, commands }) => {
    const own = plan.numbers.map(({ name, value }) => {
      const number = new NamedNumber(cells.rule(`number ${name}`), value);
      byName.set(name, number);
      return number;
    });
    resets.push(...own);
    recounts.push(...own);
    commands[EventKind.Number] = new SetEach(own);
  },
};
