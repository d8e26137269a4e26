/** Says what a schema fault means in the plan's words. In: the schema library's issues and the plan. Out: findings. */
import type * as v from "valibot";
import { didYouMean } from "../controls/nearest.js";
import { finding, type Finding } from "./findings.js";
import { planSchema } from "./schema.js";

/** The findings for the issues of one parse, in the plan's order. */
export function schemaFindings(issues: readonly v.BaseIssue<unknown>[], raw: unknown): Finding[] {
  return issues
    .flatMap((issue) => faults(issue, []))
    .flatMap((fault) => [describe(fault, raw), ...sistersOf(fault, raw)]);
}

/** Where these issues are, and whether it is something that is missing there. */
export function schemaPlaces(
  issues: readonly v.BaseIssue<unknown>[],
): { readonly path: readonly string[]; readonly isMissing: boolean }[] {
  return issues
    .flatMap((issue) => faults(issue, []))
    .map(({ issue, path }) => ({ path, isMissing: issue.received === "undefined" }));
}

/** One thing that the schema found, with its whole way from the plan's root. */
interface Fault {
  readonly issue: v.BaseIssue<unknown>;
  readonly path: readonly string[];
}

/** A union reports each member's faults; where one member got further than the union itself, that is what the author meant. */
function faults(issue: v.BaseIssue<unknown>, above: readonly string[]): Fault[] {
  const path = [...above, ...(issue.path ?? []).map((item) => String(item.key))];
  if (issue.type === "union" && issue.issues !== undefined) {
    const deeper = issue.issues
      .filter((one) => (one.path?.length ?? 0) > 0)
      .flatMap((one) => faults(one, path));
    if (deeper.length > 0) return deeper;
  }
  return [{ issue, path }];
}

/** The schema tells the first unknown field of an object: the others. */
function sistersOf({ issue, path }: Fault, raw: unknown): Finding[] {
  if (issue.type !== "strict_object" || issue.expected !== "never") return [];
  const parent = path.slice(0, -1);
  const known = knownFields(parent, raw);
  const object = parent.reduce<unknown>((value, key) => (value as Record<string, unknown>)[key], raw);
  if (known.length === 0) return [];
  return Object.keys(object as object)
    .filter((field) => field !== path.at(-1) && !known.includes(field))
    .map((field) =>
      finding(
        "unknown-field",
        [...parent, field].join("."),
        `${shown(field)} is no field here${meant(field, known)}`,
      ),
    );
}

/** Names that fields had in earlier versions. */
const RENAMED: Readonly<Record<string, string>> = { restMs: "cooldownMs", keepMs: "bufferMs" };

/** `; did you mean X?` */
function meant(field: string, known: readonly string[]): string {
  const now = Object.hasOwn(RENAMED, field) ? RENAMED[field]! : "";
  return known.includes(now) ? `; did you mean ${now}?` : didYouMean(field, known);
}

function describe({ issue, path }: Fault, raw: unknown): Finding {
  const place = path.join(".");
  const last = path.at(-1) ?? "";
  const parent = path.slice(0, -1);
  if (issue.type === "strict_object" && issue.expected === "never") {
    const known = knownFields(parent, raw);
    return finding("unknown-field", place, `${shown(last)} is no field here${meant(last, known)}`);
  }
  if (issue.type === "strict_object" && issue.received === "undefined") {
    return finding("missing-field", parent.join("."), `${last} is missing`);
  }
  if (issue.type === "variant") {
    if (issue.received === "undefined")
      return finding("missing-field", parent.join("."), `kind is missing: switch, axis, vector or turn`);
    const kinds = ["switch", "axis", "vector", "turn"];
    return finding(
      "unknown-kind",
      place,
      `${issue.received} is no kind: switch, axis, vector or turn${didYouMean(String(issue.input), kinds)}`,
    );
  }
  if (issue.input === undefined && /^\d+$/.test(last))
    return finding(
      "wrong-value",
      parent.join("."),
      `has ${last} of what it needs; number ${Number(last) + 1} is missing`,
    );
  return finding("wrong-value", place, `${shown(issue.input)} should be ${expectation(issue)}`);
}

function expectation(issue: v.BaseIssue<unknown>): string {
  const limit = String((issue as { requirement?: unknown }).requirement);
  switch (issue.type) {
    case "min_value":
      return `at least ${limit}`;
    case "max_value":
      return `at most ${limit}`;
    case "max_length":
      return Array.isArray(issue.input) ? `of ${limit} at most` : `at most ${limit} letters long`;
    case "min_length":
      return `of ${limit} at least`;
    case "custom":
      return issue.message;
    case "finite":
      return "a number";
    case "integer":
      return "a whole number";
    case "string":
      return "a text";
    default:
      return (issue.expected ?? "something else")
        .replace(/^\((.*)\)$/, "$1")
        .replaceAll(" | ", " or ")
        .replaceAll("string", "a text")
        .replaceAll("number", "a number")
        .replaceAll("boolean", "true or false")
        .replaceAll("Object", "an object")
        .replaceAll("Array", "a list");
  }
}

/** A value as it stands in the plan, short enough for a line. */
function shown(value: unknown): string {
  if (typeof value === "number") return String(value);
  if (value === undefined) return "nothing";
  if (typeof value === "object" && value !== null) return Array.isArray(value) ? "a list" : "an object";
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? text.slice(0, 57) + '..."' : text;
}

interface AnySchema {
  readonly type: string;
  readonly entries?: Record<string, AnySchema>;
  readonly options?: readonly AnySchema[];
  readonly wrapped?: AnySchema;
  readonly value?: AnySchema;
  readonly literal?: unknown;
  readonly item?: AnySchema;
  readonly getter?: (value: unknown) => AnySchema;
}

/** The fields that the schema knows at a place of this plan. */
function knownFields(path: readonly string[], raw: unknown): string[] {
  let schema: AnySchema | undefined = unwrap(planSchema as unknown as AnySchema, raw);
  let value: unknown = raw;
  for (const key of path) {
    value = (value as Record<string, unknown> | undefined)?.[key];
    const next: AnySchema | undefined = schema?.entries?.[key] ?? schema?.value ?? schema?.item;
    if (next === undefined) return [];
    schema = unwrap(next, value);
  }
  return Object.keys(schema?.entries ?? {});
}

function unwrap(schema: AnySchema, value: unknown): AnySchema {
  if (schema.wrapped !== undefined) return unwrap(schema.wrapped, value);
  if (schema.getter !== undefined) return unwrap(schema.getter(value), value);
  if (schema.type === "variant") {
    const kind = (value as { kind?: unknown } | undefined)?.kind;
    return schema.options!.find((option) => option.entries?.["kind"]?.literal === kind) ?? schema;
  }
  if (schema.type === "union")
    return schema.options!.find((option) => option.entries !== undefined) ?? schema;
  return schema;
}
