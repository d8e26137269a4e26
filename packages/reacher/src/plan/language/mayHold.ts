/** Whether a field of the language may hold a value: yes or no, where no author has to be told why. Pure. */
import { nameFault } from "../names.js";
import { meantOf, type Fields, type Value } from "./fields.js";

export function mayHold(field: Value, value: unknown): boolean {
  switch (field.is) {
    case "number":
      return (
        Number.isFinite(value) &&
        (value as number) >= field.least &&
        (value as number) <= field.most &&
        (field.whole !== true || Number.isInteger(value))
      );
    case "choice":
      return (field.of as readonly unknown[]).includes(value);
    case "truth":
      return typeof value === "boolean";
    case "name":
      return typeof value === "string" && nameFault(value) === undefined;
    case "text":
    case "label":
    case "control":
    case "word":
      return typeof value === "string";
    case "pair":
      return isList(value, 2, 2) && value.every((one) => mayHold(field.of, one));
    case "list":
      return isList(value, field.least, field.most) && value.every((one) => mayHold(field.of, one));
    case "record":
      return isObject(value) && hasOnly(value, {}, field.of);
    case "object":
      return isObject(value) && hasOnly(value, field.fields, field.rest);
    case "kinds":
      return isObject(value) && hasOnly(value, field.of[String(value["kind"])] ?? {});
    case "either":
      return mayHold(meantOf(field.of, value), value);
  }
}

type Json = Readonly<Record<string, unknown>>;

/** Whether an object has what it must, and nothing that it may not. `rest`: what other names may hold. */
function hasOnly(value: Json, fields: Fields, rest?: Value): boolean {
  const lacks = Object.entries(fields).some(([name, { required }]) => required && value[name] === undefined);
  return (
    !lacks &&
    Object.entries(value).every(([name, one]) => {
      if (Object.hasOwn(fields, name)) return one === undefined || mayHold(fields[name]!, one);
      return rest !== undefined && nameFault(name) === undefined && mayHold(rest, one);
    })
  );
}

function isList(value: unknown, least: number, most: number): value is readonly unknown[] {
  return Array.isArray(value) && value.length >= least && value.length <= most;
}

function isObject(value: unknown): value is Json {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
