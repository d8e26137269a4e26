/** What a rule keeps: no closure, so that code can be made for a plan from the rules themselves. What only the compiler of plans uses is left out. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { createInputLayer, type Plan } from "reacher";
import { kelpline, kelplineForTwo } from "./plans";

const example = (name: string) =>
  JSON.parse(readFileSync(join(__dirname, `../../../examples/plans/${name}.plan.json`), "utf8")) as Plan;
/** Features make rules, links join them, and a seat's readings are made from the last. */
const ONLY_WHILE_COMPILING = new Set(["features", "links", "directions", "readings"]);

/** The places of functions that objects hold themselves, from here on. */
function closuresIn(root: object): string[] {
  const seen = new Set<unknown>();
  const found: string[] = [];
  const walk = (value: unknown, place: string): void => {
    if ((typeof value !== "object" && typeof value !== "function") || value === null || seen.has(value))
      return;
    seen.add(value);
    if (typeof value === "function") found.push(place);
    else if (value instanceof Map || value instanceof Set) for (const one of value.values()) walk(one, place);
    else if (!ArrayBuffer.isView(value))
      for (const [name, { value: one }] of Object.entries(Object.getOwnPropertyDescriptors(value)))
        if (!ONLY_WHILE_COMPILING.has(name)) walk(one, `${place}.${name}`);
  };
  walk(root, "tables");
  return found;
}

test.each<[string, Plan]>([
  ["kelpline", kelpline()],
  ["kelpline for two", kelplineForTwo()],
  ...["platformer", "shooter", "first-person", "two-players"].map((name): [string, Plan] => [
    name,
    example(name),
  ]),
])("no rule keeps a closure: %s", (_, plan) => {
  const { first } = createInputLayer(plan) as unknown as { first: { engine: { tables: object } } };
  expect(closuresIn(first.engine.tables)).toEqual([]);
});
