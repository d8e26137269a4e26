/** The order in which switches are evaluated. */
import type { Condition } from "./conditions.js";
import type { SwitchRule } from "./tables.js";

/** Switches that others need come first; otherwise the plan's order. */
export function rank({
  switches,
  conditions,
  ranked,
}: {
  readonly switches: readonly SwitchRule[];
  readonly conditions: ReadonlyMap<string, Condition>;
  readonly ranked: SwitchRule[];
}): void {
  const byCondition = new Map(switches.map((rule) => [conditions.get(rule.name)!, rule]));
  const needed = new Map<SwitchRule, SwitchRule[]>();
  for (const [condition, one] of byCondition)
    for (const other of [condition, ...condition.lasting].flatMap(({ needing }) => needing)) {
      const own = needed.get(other as SwitchRule) ?? [];
      needed.set(other as SwitchRule, own);
      own.push(one);
    }
  const seen = new Set<SwitchRule>();
  for (const begin of switches) {
    // A chain of needs may be as long as the plan, so it is walked without recursion.
    const path = [begin];
    while (path.length > 0) {
      const rule = path[path.length - 1]!;
      const next = seen.has(rule) ? undefined : needed.get(rule)?.find((other) => !seen.has(other));
      if (next !== undefined) {
        path.push(next);
        continue;
      }
      path.pop();
      if (seen.has(rule)) continue;
      seen.add(rule);
      (rule as { rank: number }).rank = ranked.push(rule) - 1;
    }
  }
}
