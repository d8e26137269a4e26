/** A JSON Schema that knows the names of one plan: its actions, directions, flags, modes, slots, numbers and controls. In: the schema of all plans, and a plan. Out: its own. Pure. */
import { allControls } from "../controls/catalogue.js";
import { controlsOf } from "../controls/ownControls.js";
import { mustBeObject } from "./arguments.js";
import type { CheckedAction, CheckedPlan } from "./checked.js";
import { resolvePlan } from "./resolve.js";
import type { Plan } from "./types.js";
import { DIAGONALS } from "./ways.js";

interface Json {
  [key: string]: unknown;
}

/** Fields that list modes. */
const MODE_FIELDS = ["in", "start"];

/**
 * What editors take for a plan's file (JSON Schema 2020-12 with `$ref`), so that a name that the plan does not have is told while it is typed. `schema`: that of all
 * plans, as `reacher/plan.schema.json` has it; it is not changed. @throws PlanError if the plan cannot run
 */
export function ownSchema(schema: object, plan: Plan): object {
  mustBeObject(schema, "schema; reacher/plan.schema.json has it");
  const resolved = resolvePlan(plan);
  const own = JSON.parse(JSON.stringify(schema)) as Json;
  const slots = resolved.slots.map(({ name }) => name);
  const words = wordsOf(resolved, plan);
  (own["definitions"] as Json)["control"] = {
    ...((own["definitions"] as Json)["control"] as Json),
    anyOf: [
      { enum: controlNames(resolved, plan) },
      { type: "string", pattern: "^Pad(Button|Axis)(0|[1-9][0-9]?)$" },
    ],
  };
  const names = {
    modes: resolved.modes.map(({ name }) => name),
    numbers: resolved.numbers.map(({ name }) => name),
    words: words.flatMap((word) => [word, `not ${word}`]),
    // Slots that are not declared come with their first use.
    slots: plan.slots === undefined ? undefined : slots,
  };
  const definitions = (own["$defs"] ?? {}) as Json;
  visit(own, definitions, names, new Set());
  return JSON.parse(
    JSON.stringify({ ...own, title: plan.name === undefined ? "A plan" : `The plan ${plan.name}` }),
  ) as object;
}

interface Names {
  readonly modes: readonly string[];
  readonly numbers: readonly string[];
  readonly words: readonly string[];
  readonly slots: readonly string[] | undefined;
}

function visit(node: unknown, definitions: Json, names: Names, seen: Set<unknown>): void {
  if (typeof node !== "object" || node === null || seen.has(node)) return;
  seen.add(node);
  for (const [key, child] of Object.entries((node as { properties?: Json }).properties ?? {})) {
    const field = child as Json;
    if (MODE_FIELDS.includes(key)) listOf(target(field, definitions), names.modes);
    if (key === "from" && names.slots !== undefined) field["propertyNames"] = { enum: names.slots };
    if (key === "is") Object.assign(field, { pattern: undefined, enum: names.words });
  }
  const { anyOf } = node as { anyOf?: Json[] };
  // A word, or a word for a while; and the name of a number in place of one.
  if (anyOf?.some(({ properties }) => Object.hasOwn(Object(properties) as object, "forMs")))
    named(
      anyOf.find(({ type }) => type === "string")!,
      names.words,
    );
  if (anyOf?.length === 2 && anyOf[0]!["type"] === "number" && anyOf[1]!["type"] === "string")
    named(anyOf[1]!, names.numbers);
  for (const child of Object.values(node)) visit(child, definitions, names, seen);
}

const named = (node: Json, all: readonly string[]) => Object.assign(node, { pattern: undefined, enum: all });

/** A name, or a list of these. */
function listOf(node: Json, all: readonly string[]): void {
  for (const one of [node, ...((node["anyOf"] as Json[] | undefined) ?? [])]) {
    if (one["type"] === "string") named(one, all);
    const items = one["items"] as Json | undefined;
    if (items?.["type"] === "string") named(items, all);
  }
}

/** What a reference refers to. */
function target(node: Json, definitions: Json): Json {
  const [, name] = /^#\/\$defs\/(.+)$/.exec(String(node["$ref"])) ?? [];
  return name === undefined ? node : (definitions[name] as Json);
}

function controlNames(plan: CheckedPlan, written: Plan): string[] {
  const directions = plan.actions.flatMap((action) =>
    action.kind === "axis" || action.kind === "vector"
      ? [action.name, `${action.name}.each`, ...partsOf(action, written)]
      : [],
  );
  return [...allControls().map(({ name }) => name), ...controlsOf(plan).names, ...directions].filter(
    (name, n, all) => all.indexOf(name) === n,
  );
}

function wordsOf(plan: CheckedPlan, written: Plan): string[] {
  return [
    ...plan.flags.map(({ name }) => name),
    ...plan.actions.flatMap((action) => [action.name, ...partsOf(action, written)]),
  ];
}

/** The directions of an axis or a vector, by the names that the plan gives them. */
function partsOf(action: CheckedAction, written: Plan): string[] {
  if (action.kind === "vector")
    return ["up", "left", "down", "right", ...Object.keys(DIAGONALS)].map((way) => `${action.name}.${way}`);
  if (action.kind !== "axis") return [];
  const { ends = [] } = written.actions[action.name] as { readonly ends?: readonly string[] };
  return [...new Set(["minus", "plus", ...ends])].map((end) => `${action.name}.${end}`);
}
