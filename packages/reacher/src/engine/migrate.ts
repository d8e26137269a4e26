/**
 * Migrates a seat to other tables: other slots, a player's own keys, another plan. In: the old buffer, and a new one. Out: the
 * new one, with every cell that both tables have copied. What is down is recounted by the rules themselves.
 */
import { CellFinder, Width, type Cell, type Cells, type Keyed } from "./cells.js";
import type { Tables } from "./tables.js";

/** What is copied from one set of tables to another. Computed once for each pair. */
interface CopyPlan {
  /** Runs of bytes: from, to, length, and so on. */
  readonly runs: readonly number[];
  /** Cells that hold list indexes: from, to (ints), and the new index for each old one. */
  readonly references: readonly { readonly from: number; readonly to: number; readonly map: Int32Array }[];
}

/** The last pairs of tables: seats that share tables are moved one after the other, and a player goes back and forth. */
const known: { readonly before: Cells; readonly after: Cells; readonly moves: CopyPlan }[] = [];
const MOST_KNOWN = 4;

function copyPlanOf(before: Cells, after: Cells): CopyPlan {
  const found = known.find((one) => one.before === before && one.after === after);
  if (found !== undefined) return found.moves;
  const moves = copyPlanBetween(before, after);
  known.unshift({ before, after, moves });
  if (known.length > MOST_KNOWN) known.pop();
  return moves;
}

/** What these tables' cells, and those with the same names, hold. */
export function migrate(before: Tables, from: Uint8Array, after: Tables, to: Uint8Array): void {
  const { runs, references } = copyPlanOf(before.cells, after.cells);
  for (let n = 0; n < runs.length; n += 3)
    to.set(from.subarray(runs[n]!, runs[n]! + runs[n + 2]!), runs[n + 1]!);
  const oldInts = intsOf(from);
  const ints = intsOf(to);
  for (const { from: old, to: at, map } of references) ints[at] = map[oldInts[old]!] ?? -1;
}

const intsOf = ({ buffer, byteOffset, length }: Uint8Array) =>
  new Int32Array(buffer, byteOffset, length / Width.Int);

function copyPlanBetween(before: Cells, after: Cells): CopyPlan {
  const old = new CellFinder(before.all);
  const maps = new Map<readonly Keyed[], Map<readonly Keyed[], Int32Array>>();
  const runs: number[] = [];
  const references: CopyPlan["references"][number][] = [];
  for (const cell of after.all) {
    const was = old.find(cell.rule, cell.name);
    if (was === undefined || was.isCount || cell.isCount || was.width !== cell.width) continue;
    if (was.refers !== undefined && cell.refers !== undefined)
      references.push({ from: was.at, to: cell.at, map: mapBetween(maps, was.refers, cell.refers) });
    else addRun(runs, was, cell);
  }
  return { runs, references };
}

/** Adjacent cells that stay adjacent are one run. */
function addRun(runs: number[], was: Cell, is: Cell): void {
  const from = was.at * was.width;
  const to = is.at * is.width;
  const length = Math.min(was.count, is.count) * is.width;
  const last = runs.length - 3;
  const size = runs[last + 2]!;
  if (last >= 0 && runs[last]! + size === from && runs[last + 1]! + size === to)
    runs[last + 2] = size + length;
  else runs.push(from, to, length);
}

function mapBetween(
  maps: Map<readonly Keyed[], Map<readonly Keyed[], Int32Array>>,
  before: readonly Keyed[],
  after: readonly Keyed[],
): Int32Array {
  let own = maps.get(before);
  if (own === undefined) maps.set(before, (own = new Map()));
  let map = own.get(after);
  if (map === undefined) {
    const at = new Map(after.map(({ key }, n) => [key, n]));
    own.set(after, (map = Int32Array.from(before, ({ key }) => at.get(key) ?? -1)));
  }
  return map;
}
