/** Tables compiled by features. In: a plan and a seat's slots. Out: its tables; seats and layers with the same ones share them. */
import { usePlan, useTables } from "../engine/changeTables.js";
import { compile, Compiler, type Feature } from "../engine/compile.js";
import { migrate } from "../engine/migrate.js";
import type { Tables } from "../engine/tables.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Change, TablesOf } from "./builtParts.js";

/** How seats change such tables. */
export const change: Change = {
  useTables: (seat, tables, fill) => useTables(seat, tables, fill, migrate),
  usePlan: (seat, tables, fill) => usePlan(seat, tables, fill, migrate),
};

const known = new WeakMap<CheckedPlan, Map<string, Tables>>();

function ownOf(plan: CheckedPlan): Map<string, Tables> {
  let own = known.get(plan);
  if (own === undefined) known.set(plan, (own = new Map()));
  return own;
}

/** All slots of a plan, by which the cells of all seats lie; `null` for a seat that has them itself. */
const allSlots = (plan: CheckedPlan, slots: readonly string[]) =>
  slots.length === plan.slots.length ? null : plan.slots.map(({ name }) => name);

export function compiledBy(features: readonly Feature[]): TablesOf {
  const tablesOf: TablesOf = (plan, slots) => {
    const own = ownOf(plan);
    const key = slots.join(" ");
    let tables = own.get(key);
    if (tables === undefined) {
      const all = allSlots(plan, slots);
      own.set(key, (tables = compile(plan, slots, features, all && tablesOf(plan, all).cells)));
    }
    return tables;
  };
  return tablesOf;
}

/** Compiles them ahead of that, with a pause before each step. */
export async function compileSlowly(
  features: readonly Feature[],
  plan: CheckedPlan,
  slots: readonly string[],
  pause: () => Promise<void>,
): Promise<Tables> {
  const [own, key, all] = [ownOf(plan), slots.join(" "), allSlots(plan, slots)];
  const known = own.get(key);
  if (known !== undefined) return known;
  const like = all && (await compileSlowly(features, plan, all, pause)).cells;
  await pause();
  const compiler = new Compiler(plan, slots, features, like);
  await pause();
  for (const _ of compiler.making()) await pause();
  // Somebody may have needed them meanwhile.
  if (!own.has(key)) own.set(key, compiler);
  return own.get(key)!;
}
