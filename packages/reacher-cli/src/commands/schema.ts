/** `reacher schema`: the JSON Schema of plans, made from the schema that checks them. */
import { toJsonSchema } from "@valibot/to-json-schema";
import { basename } from "node:path";
import { allControls } from "reacher";
import { ownSchema } from "reacher/check";
import { planSchema } from "reacher/schema";
import { UseError } from "../faults.js";
import { writeMade } from "../made.js";
import { print } from "../output.js";
import { readRunnablePlan } from "../planFile.js";
import docs from "../fieldDocs.js";

export interface SchemaOptions {
  readonly json?: boolean;
  readonly beside?: boolean;
  readonly check?: boolean;
}

/** Of all plans, or with the names of one: then also as a file beside it. Exit code 1 where `--check` finds another text. */
export async function schema(
  file: string | undefined,
  { json = false, beside = false, check = false }: SchemaOptions,
): Promise<number> {
  if (file === undefined) {
    if (beside || check) throw new UseError("--beside and --check need the plan that the schema is for");
    print(JSON.stringify(jsonSchema(), null, 2));
    return 0;
  }
  if (check && !beside) throw new UseError("--check needs --beside: the file that is checked");
  if (beside && !/\.jsonc?$/.test(file))
    throw new UseError(`${file}: --beside is for a plan whose name ends in .json or .jsonc`);
  const { written } = await readRunnablePlan(file);
  const text = `${JSON.stringify(ownSchema(jsonSchema(), written), null, 2)}\n`;
  if (!beside) {
    print(text.trimEnd());
    return 0;
  }
  const to = file.replace(/\.jsonc?$/, ".schema.json");
  await writeMade(to, text, { from: file, check, how: `reacher schema ${file} --beside` });
  if (json) print(JSON.stringify(check ? { current: to } : { written: to }));
  else
    print(`${to}: ${check ? "current" : `"$schema": "./${basename(to)}" in the plan tells editors of it`}`);
  return 0;
}

type Json = { [key: string]: unknown; properties?: Record<string, Json> };

/** The schema, with the plan types' own comments as descriptions. */
export function jsonSchema(): Json {
  const made = toJsonSchema(planSchema, { errorMode: "ignore" }) as Json;
  describe(made, "Plan");
  // Only entries are defined apart: every free text in them is a control.
  nameControls(made["$defs"]);
  const control = {
    description:
      "A control (a key by its code, a mouse button, a part of a pad), or for switches a direction such as swim.right, or an axis or a vector itself.",
    anyOf: [
      { type: "string", pattern: "^[A-Za-z][A-Za-z0-9_-]*\\.[A-Za-z][A-Za-z0-9_-]*$" },
      { enum: allControls().map(({ name }) => name) },
      { type: "string", pattern: "^Pad(Button|Axis)(0|[1-9][0-9]?)$" },
      // The plan's own: what begins like a device's control is taken for one that is misspelt.
      {
        type: "string",
        pattern: "^(?!Pad|Mouse|Key|Wheel|Digit|Numpad|Arrow|Shift|Control|Alt|Meta)[A-Z][A-Za-z0-9]*$",
      },
      // An axis or a vector itself.
      {
        type: "string",
        pattern: "^(?!pad|mouse|key|wheel|digit|numpad|arrow|shift|control|alt|meta)[a-z][A-Za-z0-9_-]*$",
      },
    ],
  };
  return {
    ...made,
    $id: "https://reacher.example/plan.schema.json",
    title: "Reacher plan",
    description: docs["Plan"]?.[""],
    definitions: { control },
  };
}

/** Which type's comments describe the objects below a field. */
const BELOW: Record<string, string> = {
  controls: "OwnControlFields",
  slots: "Slot",
  flags: "Flag",
  shape: "Shape",
  deadZone: "DeadZone",
  curve: "Curve",
  pace: "Pace",
  rules: "PaceRule",
  modes: "Mode",
  repeat: "Repeat",
  ease: "Ease",
  threshold: "Threshold",
  seats: "SeatFields",
  player: "PlayerFields",
};
/** Entries are told apart by the field that they begin with. */
const BY_FIELD: Record<string, string> = {
  keepsFocus: "OwnControlFields",
  swapSticks: "PlanPlayerFields",
  both: "PlayerFields",
  perPixel: "TurnEntries",
  waits: "PlainEntry",
  result: "SourceFields",
  forMs: "TimedWord",
  around: "UsedVector",
  use: "UsedEnd",
  minus: "AxisEnds",
  up: "Directions",
  lingerMs: "Flag",
};
const BY_KIND: Record<string, string> = {
  switch: "SwitchFields",
  axis: "AxisFields",
  vector: "VectorFields",
  turn: "TurnFields",
};

function describe(node: unknown, type: string): void {
  if (typeof node !== "object" || node === null) return;
  if (Array.isArray(node)) {
    for (const item of node) describe(item, type);
    return;
  }
  const { properties, ...rest } = node as Json;
  const kind = (properties?.["kind"] as { const?: string } | undefined)?.const;
  const own = (kind === undefined ? typeByField(properties ?? {}) : BY_KIND[kind]) ?? type;
  for (const [field, child] of Object.entries(properties ?? {})) {
    const text = own === "TurnEntries" ? turnText(field) : docs[own]?.[field];
    if (text !== undefined) child["description"] = text;
    describe(child, BELOW[field] ?? own);
  }
  for (const child of Object.values(rest)) describe(child, type);
}

/** The type that describes an object with these fields: a gesture's has the name of its first field. */
function typeByField(properties: Record<string, unknown>): string | undefined {
  const field = Object.keys(BY_FIELD).find((key) => Object.hasOwn(properties, key));
  if (field !== undefined) return BY_FIELD[field];
  const [first = ""] = Object.keys(properties);
  const gesture = `${first.charAt(0).toUpperCase()}${first.slice(1)}Entry`;
  return docs[gesture] === undefined ? undefined : gesture;
}

/** The mouse, a stick and an own amount are entries of one shape. */
function turnText(field: string): string | undefined {
  return docs["MouseTurn"]?.[field] ?? docs["StickTurn"]?.[field] ?? docs["OwnTurn"]?.[field];
}

/** Controls are completed by editors from the catalogue. */
function nameControls(node: unknown): void {
  if (typeof node !== "object" || node === null) return;
  // The texts of a control of the game's own name none.
  if (Object.hasOwn((node as Json).properties ?? {}, "keepsFocus")) return;
  for (const [key, child] of Object.entries(node as Json)) {
    if (key === "propertyNames") continue;
    const isText = (child as Json)?.["type"] === "string";
    // What has a pattern is the name of a number.
    if (isText && !("enum" in (child as Json)) && !("pattern" in (child as Json))) {
      const described = (child as Json)["description"];
      (node as Json)[key] = {
        $ref: "#/definitions/control",
        ...(described === undefined ? {} : { description: described }),
      };
    } else nameControls(child);
  }
}
