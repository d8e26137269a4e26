/**
 * Every field of a plan, for docs/plan.md: from the language's own fields, the comments of the plan's types, and the plans of the examples.
 * `node scripts/field-reference.mjs` writes it; with `--check` it ends with 1 where the page is not current. Needs what was built.
 */
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { meantOf } from "../packages/reacher/dist/plan/language/fields.js";
import { GESTURES } from "../packages/reacher/dist/plan/gestures/index.js";
import { ENTRIES } from "../packages/reacher/dist/plan/language/entries.js";
import { PLAN } from "../packages/reacher/dist/plan/language/plan.js";
import { OPTION_FIELDS } from "../packages/reacher/dist/plan/language/settable.js";
import docs from "../packages/reacher-cli/dist/fieldDocs.js";

const root = new URL("../", import.meta.url);
const read = (path) => readFileSync(new URL(path, root), "utf8");

const { switch: SWITCH, axis: AXIS, vector: VECTOR, turn: TURN } = PLAN.actions.of.of;
const fieldsOf = (value, n = 0) => value.of.filter(({ is }) => is === "object")[n].fields;
const without = (fields, ...others) =>
  Object.fromEntries(
    Object.entries(fields).filter(([name]) => !others.some((other) => Object.hasOwn(other, name))),
  );
const pick = (fields, ...names) => Object.fromEntries(names.map((name) => [name, fields[name]]));

/** What all kinds of actions have, what axes and vectors share, and what each adds. */
const common = Object.fromEntries(
  Object.entries(SWITCH).filter(([name]) => Object.hasOwn(TURN, name) && name !== "from"),
);
const movement = Object.fromEntries(
  Object.entries(AXIS).filter(
    ([name]) =>
      Object.hasOwn(VECTOR, name) && !["from", "faces"].includes(name) && !Object.hasOwn(common, name),
  ),
);
const shape = movement.shape.fields;
const end = fieldsOf(fieldsOf(ENTRIES.vector, 1).up, 0);

/** A heading, the fields below it, and the type whose comments say what they do. */
const GROUPS = [
  ["The plan", PLAN, "Plan"],
  ["A control of the game's own: `controls.NAME`", fieldsOf(PLAN.controls.of), "OwnControlFields"],
  ["A slot: `slots.NAME`", PLAN.slots.of.fields, "Slot"],
  ["A flag: `flags.NAME`", fieldsOf(PLAN.flags.of), "Flag"],
  ["A mode: `modes.NAME`", PLAN.modes.of.fields, "Mode"],
  ["A seat: `seats.NAME`", PLAN.seats.of.fields, "SeatFields"],
  ["What players may change of the plan: `player`", PLAN.player.fields, "PlanPlayerFields"],
  ["Every action: `actions.NAME`", common, "CommonFields"],
  ["What players may change of an action: `player`", common.player.fields, "PlayerFields"],
  ["A switch", pick(SWITCH, "from", ...Object.keys(OPTION_FIELDS)), "SwitchFields"],
  ["Pulses: `repeat`", OPTION_FIELDS.repeat.fields, "Repeat"],
  ...Object.entries(GESTURES).map(([kind, { fields }]) => [
    kind === "plain" ? "An entry with options: `use`" : `A gesture: \`${kind}\``,
    fields,
    `${kind[0].toUpperCase()}${kind.slice(1)}Entry`,
  ]),
  ["What is pressed, in a gesture, with options: `use`", fieldsOf(GESTURES.long.fields.long), "SourceFields"],
  ["A condition that lasts: `needs`, `beginsIf`, `when`", fieldsOf(OPTION_FIELDS.needs.of[0]), "TimedWord"],
  ["When an analog control is pressed: `threshold`", GESTURES.plain.fields.threshold.fields, "Threshold"],
  ["An axis and a vector", movement, "MovementFields"],
  ["An axis", without(AXIS, common, movement), "AxisFields"],
  ["A vector", without(VECTOR, common, movement), "VectorFields"],
  ["A stick or trigger of a movement, written out", fieldsOf(ENTRIES.vector, 0), "UsedControl"],
  ["A control for each end of an axis", fieldsOf(ENTRIES.axis, 1), "AxisEnds"],
  ["A control for each direction of a vector", fieldsOf(ENTRIES.vector, 1), "Directions"],
  ["One of these controls, written out", end, "UsedEnd"],
  ["What a stick's travel becomes: `shape`", shape, "Shape"],
  ["`shape.deadZone`", shape.deadZone.fields, "DeadZone"],
  ["`shape.curve`", shape.curve.fields, "Curve"],
  ["A ramp for keys: `ease`", movement.ease.fields, "Ease"],
  ["A speed: `pace`", movement.pace.fields, "Pace"],
  ["A rule of a pace: `pace.rules`", movement.pace.fields.rules.of.fields, "PaceRule"],
  ["A turn", without(TURN, common), "TurnFields"],
  ["Factors of a turn: `pace`", TURN.pace.fields, "TurnPace"],
  ["A factor of a turn: `pace.rules`", TURN.pace.fields.rules.of.fields, "TurnPaceRule"],
  ["The mouse, a stick or an own amount of a turn", ENTRIES.turn.fields, "MouseTurn"],
];

// Whatever the language has stands in a group.
const listed = new Set(GROUPS.flatMap(([, fields]) => Object.values(fields)));
function mustBeListed(field, path) {
  const objects = field.is === "kinds" ? Object.values(field.of) : [field.fields ?? {}];
  for (const [name, own] of objects.flatMap((one) => Object.entries(one))) {
    if (!listed.has(own)) throw new Error(`${path}.${name} stands in no group of this script: give it one`);
    mustBeListed(own, `${path}.${name}`);
  }
  for (const own of [field.of].flat()) if (own?.is !== undefined) mustBeListed(own, path);
}
mustBeListed({ is: "object", fields: PLAN }, "plan");

const examples = [
  "examples/kelpline/plan/kelpline.plan.json",
  ...readdirSync(new URL("examples/plans", root))
    .filter((name) => name.endsWith(".plan.json"))
    .map((name) => `examples/plans/${name}`),
].map((path) => JSON.parse(read(path)));
for (const file of readdirSync(new URL("docs", root)).filter(
  (name) => name.endsWith(".md") && name !== "findings.md",
))
  for (const [, block] of read(`docs/${file}`).matchAll(/^```json\n([\s\S]*?)^```$/gm)) {
    const plan = JSON.parse(block);
    if (plan.reacherPlan === 1) examples.push(plan);
  }

/** The first use of each field in the examples' plans, by the object of fields that has it. */
const used = new Map();
function walk(field, value) {
  if (value === undefined) return;
  if (field.is === "either") walk(meantOf(field.of, value), value);
  else if (field.is === "list" && Array.isArray(value)) for (const one of value) walk(field.of, one);
  else if (field.is === "record") for (const one of Object.values(value)) walk(field.of, one);
  else if (field.is === "object" || field.is === "kinds") {
    const fields = field.is === "object" ? field.fields : (field.of[value.kind] ?? {});
    for (const [name, own] of Object.entries(fields)) {
      if (value[name] === undefined) continue;
      if (!used.has(own)) used.set(own, {});
      used.get(own)[name] ??= value[name];
      walk(own, value[name]);
    }
  }
}
for (const plan of examples) walk({ is: "object", fields: PLAN }, plan);

const TYPES = {
  truth: "`true`, `false`",
  label: "a text",
  text: "a name",
  name: "a name",
  control: "a control or direction",
  word: "a condition",
  object: "an object",
  kinds: "an action",
};

function typeOf(field) {
  if (field.is === "number") return field.whole ? "a whole number" : "a number";
  if (field.is === "choice") return field.of.map((one) => `\`${JSON.stringify(one)}\``).join(", ");
  if (field.is === "list") return `a list: ${typeOf(field.of)}`;
  if (field.is === "pair") return `[${typeOf(field.of)}, ${typeOf(field.of)}]`;
  if (field.is === "record") return `by name: ${typeOf(field.of)}`;
  if (field.is === "either" && field.of[1].is === "list") return `${typeOf(field.of[0])}, or a list of these`;
  if (field.is === "either") return [...new Set(field.of.map(typeOf))].join(", or ");
  return TYPES[field.is];
}

const UNITS = {
  share: "",
  factor: "times",
  degrees: "degrees",
  speed: "the pace's unit",
  presses: "presses",
  ms: "ms",
};

function rangeOf(field) {
  if (field.is === "either") return rangeOf(field.of.find(({ is }) => is === "number") ?? TRUTH_LIKE);
  if (field.is === "list" && field.most < Infinity) return `${field.least} to ${field.most}`;
  if (field.is !== "number") return "";
  const { least, most, unit } = field;
  if (least <= -1e9) return UNITS[unit];
  const to = most === Infinity || most >= 1e9 ? `from ${least}` : `${least} to ${most}`;
  return `${to} ${UNITS[unit] ?? ""}`.trim();
}
const TRUTH_LIKE = { is: "truth" };

/** A value that is short enough for a table. */
function exampleOf(name, field) {
  const known = used.get(field)?.[name];
  const value =
    known === undefined || JSON.stringify(known).length > 44
      ? (field.is === "pair" && RANGES[name]) || made(field)
      : known;
  return value === undefined
    ? ""
    : `\`${JSON.stringify(name)}: ${JSON.stringify(value)}\``.replaceAll("|", "\\|");
}

/** What players may be let set, where no example lets them. */
const RANGES = {
  "deadZone.inner": [0.05, 0.3],
  "deadZone.outer": [0, 0.1],
  gain: [0.5, 2],
  perPixel: [0.02, 0.4],
  perSecond: [90, 360],
};

/** What a field may have, where no example has it. */
function made(field) {
  const at = {
    truth: true,
    label: "Lamp",
    text: "dive",
    name: "lamp",
    control: "KeyE",
    word: "hasAir",
    object: undefined,
  };
  if (field.is === "number")
    return (
      field.default ||
      (field.unit === "ms"
        ? Math.round(field.slider[1] / 30) * 10
        : Math.max(field.least, Math.min(field.most, 1)))
    );
  if (field.is === "choice") return field.of[0];
  if (field.is === "list") return [made(field.of)];
  if (field.is === "pair") return field.of.is === "number" ? [100, 400] : ["left", "right"];
  if (field.is === "either") return made(field.of[0]);
  return at[field.is];
}

const pages = ["guide.md", "recipes.md", "settings-screen.md", "servers.md"].map((file) => ({
  file,
  sections: read(`docs/${file}`)
    .split(/^(?=## )/m)
    .map((text) => ({ title: /^## (.*)$/m.exec(text)?.[1], text })),
}));

/** The section that shows a field at work: where its name stands most often. */
function shownIn(name) {
  const found = pages.flatMap(({ file, sections }) =>
    sections.map(({ title, text }) => ({
      file,
      title,
      count:
        text.match(new RegExp(`["\`.]?\\b${name.replace(".", "\\.")}\\b["\`]?\\s*:|\`${name}\``, "g"))
          ?.length ?? 0,
    })),
  );
  const best = found
    .filter(({ title }) => title !== undefined)
    .sort((one, other) => other.count - one.count)[0];
  if (best === undefined || best.count === 0) return "";
  return `[${best.title}](${best.file}#${best.title
    .toLowerCase()
    .replace(/[^\w\- ]/g, "")
    .replaceAll(" ", "-")})`;
}

function rowOf(type, name, field) {
  const text = docs[type]?.[name] ?? docs.StickTurn[name] ?? docs.SourceFields[name] ?? "";
  const [said, preset = field.required ? "must be given" : ""] = text.split(/ Default: /);
  const cells = [
    `\`${name}\``,
    typeOf(field),
    preset.replace(/\.$/, ""),
    rangeOf(field),
    exampleOf(name, field),
    said.replaceAll("|", "\\|"),
    shownIn(name),
  ];
  return `| ${cells.join(" | ")} |`;
}

const HEAD =
  "| field | type | default | range | example | what it does | shown in |\n|---|---|---|---|---|---|---|";
const text = GROUPS.map(
  ([title, fields, type]) =>
    `### ${title}\n\n${docs[type][""]}\n\n${HEAD}\n${Object.entries(fields)
      .map(([name, field]) => rowOf(type, name, field))
      .join("\n")}\n`,
).join("\n");

const [BEGIN, END] = ["<!-- fields: made by scripts/field-reference.mjs -->", "<!-- end of fields -->"];
const page = read("docs/plan.md");
const [before, rest] = page.split(BEGIN);
const after = rest?.split(END)[1];
if (after === undefined) throw new Error(`docs/plan.md has no place for the fields: ${BEGIN} ... ${END}`);
const file = new URL("docs/plan.md", root);
const now = `${before}${BEGIN}\n\n${text}\n${END}${after}`;
if (process.argv[2] !== "--check") writeFileSync(file, now);
else if (now !== page) {
  console.error("docs/plan.md is not current: node scripts/field-reference.mjs");
  process.exitCode = 1;
}
