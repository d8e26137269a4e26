/** Something true or false: a flag is set, a switch is on, something moves. A change marks every rule that depends on it. */
import type { Word } from "../plan/checked.js";
import { Rule, type RuleCells } from "./cells.js";
import type { SeatState } from "./state.js";

export class Condition extends Rule {
  readonly at: number;
  /** Switches that need it, and movements whose pace depends on it. */
  readonly needing: { readonly rank: number }[] = [];
  readonly paced: number[] = [];
  /** Switches that check it when they begin. */
  readonly asking: { readonly rank: number }[] = [];
  /** The same for a while. */
  readonly lasting: (Condition & { follow(s: SeatState): void })[] = [];

  constructor(
    cells: RuleCells,
    readonly name: string,
    start = 0,
  ) {
    super(cells);
    this.at = cells.byte("so", start);
  }

  set(s: SeatState, truth: number): void {
    if (s.b[this.at] === truth) return;
    s.b[this.at] = truth;
    const { needing, paced, asking, lasting } = this;
    for (let n = 0; n < paced.length; n++) s.markPace(paced[n]!);
    for (let n = 0; n < needing.length; n++) s.markSwitch(needing[n]!.rank);
    for (let n = 0; n < asking.length; n++) s.markSwitch(asking[n]!.rank);
    for (let n = 0; n < lasting.length; n++) lasting[n]!.follow(s);
  }
}

/** Conditions that must be true, or with `not` false. */
export class Conditions {
  all: readonly Condition[] = [];
  private truths: readonly number[] = [];

  /** Takes the conditions of these words, once every action is made. */
  link(words: readonly Word[], conditionOf: (word: Word) => Condition): void {
    this.all = words.map(conditionOf);
    // One that lasts knows by itself which way round it is.
    this.truths = words.map(({ not, forMs }) => (not && forMs === undefined ? 0 : 1));
  }

  hold({ b }: SeatState): boolean {
    const { all, truths } = this;
    for (let n = 0; n < all.length; n++) if (b[all[n]!.at] !== truths[n]) return false;
    return true;
  }

  /** The conditions that fail, in the plan's words. */
  missing({ b }: Pick<SeatState, "b">): string[] {
    return this.all.flatMap(({ at, name }, n) =>
      b[at] === this.truths[n] ? [] : [this.truths[n] === 1 ? name : `not ${name}`],
    );
  }
}
