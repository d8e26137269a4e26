/** Tables compiled by features. In: a plan and a seat's slots. Out: its tables; seats and layers with the same ones share them. */
import { usePlan, useTables } from "../engine/changeTables.js";
import { compile, Compiler, type Feature } from "../engine/compile.js";
import type { Tables } from "../engine/tables.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Change, TablesOf } from "./builtParts.js";

/** How seats change such tables. */
export const change: Change = { useTables, usePlan };

const known = new WeakMap<CheckedPlan, Map<string, Tables>>();

function ownOf(plan: CheckedPlan): Map<string, Tables> {
  let own = known.get(plan);
  if (own === undefined) known.set(plan, (own = new Map()));
  return own;
}

export function compiledBy(features: readonly Feature[]): TablesOf {
  return (plan, slots) => {
    const own = ownOf(plan);
    const key = slots.join(" ");
    let tables = own.get(key);
    if (tables === undefined) own.set(key, (tables = compile(plan, slots, features)));
    return tables;
  };
}

/** Compiles them ahead of that, with a pause before each step. */
export async function compileSlowly(
  features: readonly Feature[],
  plan: CheckedPlan,
  slots: readonly string[],
  pause: () => Promise<void>,
): Promise<void> {
  const [own, key] = [ownOf(plan), slots.join(" ")];
  if (own.has(key)) return;
  await pause();
  const compiler = new Compiler(plan, slots, features);
  await pause();
  for (const _ of compiler.making()) await pause();
  // Somebody may have needed them meanwhile.
  if (!own.has(key)) own.set(key, compiler);
}
