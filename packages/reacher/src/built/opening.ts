/** A seat that plays by made code goes over to that of other slots: what is down is counted anew. May change: the seat, whose cells lie where they lay. */
import { useTables } from "../engine/changeTables.js";
import { readAs } from "../engine/readAs.js";
import type { Tables } from "../engine/tables.js";
import type { Change } from "../layer/builtParts.js";
import type { SeatState } from "../engine/state.js";
import type { MadeCode } from "../made/code.js";
import { MadeTables } from "../made/madeTables.js";

/** Tables of a seat whose slots change. */
export class OpeningTables extends MadeTables {
  override bind(s: SeatState): MadeCode {
    const code = super.bind(s);
    const recount = code.recount?.[0] ?? (() => {});
    for (const [n, until] of this.told.carried!.bounces)
      Object.assign(this.bound[n]!, { filter: { isHolding: (f: Float64Array) => f[until] !== Infinity } });
    return Object.assign(this, { recounts: [this.timers, { recount }] }) && code;
  }
}

export const slotChange: Change = {
  useTables: (seat, tables, fill, now) => {
    useTables(seat, tables, fill, carry);
    readAs(seat, tables, now);
  },
};

/** What both have; of places in lists of rules, where the same rule stands now. */
function carry(before: Tables, from: Uint8Array, after: Tables, to: Uint8Array): void {
  const [old, own] = [before, after].map((tables) => (tables as unknown as MadeTables).told.carried!);
  for (const [first, end] of pairsOf(own!.runs))
    for (const [oldFirst, oldEnd] of pairsOf(old!.runs)) {
      const [start, stop] = [Math.max(first, oldFirst), Math.min(end, oldEnd)];
      if (start < stop) to.set(from.subarray(start, stop), start);
    }
  const [oldInts, ints] = [from, to].map(
    ({ buffer, byteOffset, length }) => new Int32Array(buffer, byteOffset, length / 4),
  );
  for (const [cell, ...rules] of own!.refers) {
    const known = old!.refers.find(([at]) => at === cell)?.slice(1);
    if (known !== undefined) ints![cell!] = rules.indexOf(known[oldInts![cell!]!] ?? NaN);
  }
}

function pairsOf(runs: readonly number[]): (readonly [number, number])[] {
  return runs.flatMap((first, n) => (n % 2 === 0 ? [[first, runs[n + 1]!] as const] : []));
}
