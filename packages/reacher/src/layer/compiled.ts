/** Tables compiled by features. In: a plan and a seat's slots. Out: its tables; seats and layers with the same ones share them. */
import { compile, type Feature } from "../engine/compile.js";
import type { Tables } from "../engine/tables.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { TablesOf } from "./builtParts.js";

const known = new WeakMap<CheckedPlan, Map<string, Tables>>();

export function compiledBy(features: readonly Feature[]): TablesOf {
  return (plan, slots) => {
    let own = known.get(plan);
    if (own === undefined) known.set(plan, (own = new Map()));
    const key = slots.join(" ");
    let tables = own.get(key);
    if (tables === undefined) own.set(key, (tables = compile(plan, slots, features)));
    return tables;
  };
}
