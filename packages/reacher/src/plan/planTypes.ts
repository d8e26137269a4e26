/** TypeScript types of a plan that is written as JSON. In: a checked plan. Out: the text of a module of types. Pure. */
import { mustBeList, mustBeObject, mustBeText } from "./arguments.js";
import type { CheckedMovement, CheckedPlan } from "./checked.js";

/**
 * Types of a plan: its kinds, flags, numbers and names, its reading and its layer. `file` is the plan's file; `maker` what to call to
 * make them anew.
 */
export function planTypes(plan: CheckedPlan, file: string, maker?: string): string {
  mustBeText(file, "file's name");
  if (maker !== undefined) mustBeText(maker, "command's name");
  return `${madeBy(maker ?? `reacher types ${file}`, "the plan's names change")}${typesOf(plan, file)}`;
}

/** The same beside the plan, with the type of its import: the text of `game.plan.d.json.ts`. */
export function planTypesBeside(plan: CheckedPlan, file: string): string {
  mustBeText(file, "file's name");
  return `${madeBy(`reacher types ${file} --beside`, "the plan's names change")}${typesOf(plan, file)}
declare const plan: ${planTypeName(plan, file)}Plan;
export default plan;
`;
}

/** The first lines of a made file. */
export function madeBy(maker: string, when: string): string {
  return `// Made by \`${maker}\`. Make it anew when ${when}.\n/* eslint-disable */\n`;
}

/** The types alone. */
export function typesOf(plan: CheckedPlan, file: string): string {
  mustBeChecked(plan);
  const name = planTypeName(plan, file);
  const kinds = plan.actions.map((action) => `  readonly ${keyOf(action.name)}: "${action.kind}";`);
  const types = ["Kinds", "Flags", "Numbers", "Names"].map((one) => name + one).join(", ");
  return `import type { InputLayer, Plan, Reading, Seat } from "reacher";

/** The kind of each action. */
export type ${name}Kinds = {
${kinds.join("\n")}
};

/** The flags that the game may set. */
export type ${name}Flags = ${union(plan.flags)};

/** The numbers that the game may set. */
export type ${name}Numbers = ${union(plan.numbers)};

/** Slots, modes and seats; gaits and ends by action; switches that stay on by themselves. */
export type ${name}Names = {
  slots: ${union(plan.slots)};
  modes: ${union(plan.modes)};
  seats: ${union(plan.seats)};
  gaits: ${byAction(plan, (action) => action.gaits.map((gait) => gait.name))};
  ends: ${byAction(plan, ({ kind, endNames }) => (kind === "axis" ? endNames : []))};
  spots: ${union(plan.spots.slice(0, -1))};
  toggles: ${union(plan.actions.filter((action) => action.kind === "switch" && action.style !== "hold"))};
};

/** The plan: \`parsePlan<${types}>(json)\` gives it. */
export type ${name}Plan = Plan<${types}>;

/** What a step gives. */
export type ${name}Reading = Reading<${name}Kinds, ${name}Names["gaits"]>;

/** The layer: \`createInputLayer(plan)\` gives it. */
export type ${name}Layer = InputLayer<${types}>;

/** One player's place: \`layer.seat(name)\` gives it. */
export type ${name}Seat = Seat<${types}>;
`;
}

function union(all: readonly { readonly name: string }[]): string {
  return all.map(({ name }) => JSON.stringify(name)).join(" | ") || "never";
}

/** Names of an axis or a vector, for those that have any. */
function byAction(plan: CheckedPlan, namesOf: (action: CheckedMovement) => readonly string[]): string {
  const fields = plan.actions.flatMap((action) => {
    const names = action.kind === "axis" || action.kind === "vector" ? namesOf(action) : [];
    return names.length === 0
      ? []
      : [`${keyOf(action.name)}: ${names.map((one) => JSON.stringify(one)).join(" | ")}`];
  });
  return fields.length === 0 ? "{}" : `{ ${fields.join("; ")} }`;
}

function keyOf(name: string): string {
  return name.includes("-") ? JSON.stringify(name) : name;
}

/** What the types' names begin with. */
export function planTypeName(plan: CheckedPlan, file: string): string {
  mustBeChecked(plan);
  mustBeText(file, "file's name");
  const name = plan.name || file.replace(/\..*$/, "");
  const words = name.match(/[A-Za-z0-9]+/g) ?? ["Game"];
  const joined = words.map((word) => word[0]!.toUpperCase() + word.slice(1)).join("");
  return /^\d/.test(joined) ? "Plan" + joined : joined;
}

/** @throws ReacherError if this is no checked plan */
function mustBeChecked(plan: unknown): void {
  mustBeObject(plan, "checked plan; resolvePlan gives one");
  const { actions, slots } = plan as { actions?: unknown; slots?: unknown };
  mustBeList(actions, "checked actions; resolvePlan gives a checked plan");
  mustBeList(slots, "checked slots; resolvePlan gives a checked plan");
}
