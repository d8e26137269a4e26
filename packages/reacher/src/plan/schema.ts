/**
 * The shape of a plan as a schema: what `parsePlan` checks and what the JSON Schema is made from. In: the fields of the language.
 *
 * It knows fields and types only; what the words in them refer to is read in `reader/`.
 */
import * as v from "valibot";
import { meantOf, type Field, type Fields, type Value } from "./language/fields.js";
import { PLAN } from "./language/plan.js";
import { NAME } from "./names.js";

/** Any text; the pattern says to editors that it is no control. */
const word = v.pipe(v.string(), v.regex(/^/));
const name = v.pipe(v.string(), v.regex(NAME));

function fieldsOf(fields: Fields): Record<string, v.GenericSchema> {
  return Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, ofField(field)]));
}

function ofField(field: Field): v.GenericSchema {
  const schema = schemaOf(field);
  return field.required === true ? schema : v.optional(schema);
}

/** One schema for each value of the language, however many fields share it. */
const made = new Map<Value, v.GenericSchema>();

function schemaOf(value: Value): v.GenericSchema {
  const known = made.get(value);
  if (known !== undefined) return known;
  const schema = make(value);
  made.set(value, schema);
  return schema;
}

function make(value: Value): v.GenericSchema {
  switch (value.is) {
    case "number":
      return numberOf(value.least, value.most, value.whole === true);
    case "choice":
      return choiceOf(value.of);
    case "truth":
      return v.boolean();
    case "label":
      return v.pipe(v.string(), v.maxLength(200));
    case "name":
      return name;
    case "text":
    case "control":
      return v.string();
    case "word":
      return word;
    case "list":
      return listOf(schemaOf(value.of), value.least, value.most);
    case "pair":
      return v.strictTuple([schemaOf(value.of), schemaOf(value.of)]);
    case "record":
      return noList(v.record(name, schemaOf(value.of)));
    case "kinds":
      return kindsOf(value.of);
    case "object":
      return noList(
        value.rest === undefined
          ? v.strictObject(fieldsOf(value.fields))
          : v.objectWithRest(fieldsOf(value.fields), v.optional(schemaOf(value.rest))),
      );
    case "either":
      return eitherOf(value.of);
  }
}

function kindsOf(of: Readonly<Record<string, Fields>>): v.GenericSchema {
  const kinds = Object.entries(of).map(([kind, fields]) =>
    v.strictObject({ kind: v.literal(kind), ...fieldsOf(fields) }),
  );
  return v.variant("kind", kinds);
}

/** Faults are reported for the one that the author meant, not for every alternative. */
function eitherOf(of: readonly Value[]): v.GenericSchema {
  const any = v.union(of.map(schemaOf));
  return v.lazy((given: unknown) => {
    const meant = meantOf(of, given);
    // What looks like none of them is told all, where the first says little.
    const isUnlike = meant.is === "truth" && typeof given !== "boolean";
    return given === undefined || isUnlike ? any : schemaOf(meant);
  });
}

/** The schema library types a pipe by its steps, which are data here. */
const pipe = v.pipe as unknown as (schema: v.GenericSchema, ...steps: readonly unknown[]) => v.GenericSchema;

function numberOf(least: number, most: number, isWhole: boolean): v.GenericSchema {
  return pipe(
    v.number(),
    ...(isWhole ? [v.integer()] : [v.finite()]),
    ...(least > -Infinity ? [v.minValue(least)] : []),
    ...(most < Infinity ? [v.maxValue(most)] : []),
  );
}

function listOf(item: v.GenericSchema, least: number, most: number): v.GenericSchema {
  return pipe(
    v.array(item),
    ...(least > 0 ? [v.minLength(least)] : []),
    ...(most < Infinity ? [v.maxLength(most)] : []),
  );
}

function choiceOf(of: readonly (string | number | true)[]): v.GenericSchema {
  const words = v.picklist(of.filter((one) => one !== true));
  return of.includes(true) ? v.union([words, v.literal(true)]) : words;
}

const noObject = v.custom<never>(() => false, "an object");

/** An object that is no list, which the schema library takes for one. */
function noList(schema: v.GenericSchema): v.GenericSchema {
  return {
    ...schema,
    "~run": (dataset, config) => (Array.isArray(dataset.value) ? noObject : schema)["~run"](dataset, config),
  };
}

/** The schema of a plan (valibot). */
export const planSchema = v.strictObject({
  $schema: v.optional(v.string()),
  reacherPlan: v.literal(1),
  ...fieldsOf(PLAN),
});
