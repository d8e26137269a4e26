/** `reacher types PLAN`: TypeScript types for a plan that is written as JSON. */
import { writeFile } from "node:fs/promises";
import { basename } from "node:path";
import type { CheckedPlan } from "reacher/check";
import { fileFault } from "../faults.js";
import { print } from "../output.js";
import { readRunnablePlan } from "../planFile.js";

export async function types(file: string, options: { json?: boolean; output?: string }): Promise<number> {
  const plan = await readRunnablePlan(file);
  const text = typesOf(plan, basename(file));
  if (options.output === undefined) {
    print(options.json === true ? JSON.stringify({ types: text }) : text.trimEnd());
    return 0;
  }
  try {
    await writeFile(options.output, text);
  } catch (error) {
    throw fileFault(options.output, error);
  }
  print(
    options.json === true
      ? JSON.stringify({ written: options.output })
      : `${options.output}: types of ${plan.actions.length} actions`,
  );
  return 0;
}

function typesOf(plan: CheckedPlan, file: string): string {
  const name = typeName(plan.name || file.replace(/\..*$/, ""));
  const kinds = plan.actions.map(
    (action) =>
      `  readonly ${/-/.test(action.name) ? JSON.stringify(action.name) : action.name}: "${action.kind}";`,
  );
  const flags = plan.flags.map((flag) => JSON.stringify(flag.name)).join(" | ") || "never";
  const hasNumbers = plan.numbers.length > 0;
  const types = [`${name}Kinds`, `${name}Flags`, ...(hasNumbers ? [`${name}Numbers`] : [])].join(", ");
  const numbers = hasNumbers
    ? `/** The numbers that the game may set. */
export type ${name}Numbers = ${plan.numbers.map((one) => JSON.stringify(one.name)).join(" | ")};

`
    : "";
  return `// Made by \`reacher types ${file}\`. Make it anew when the plan's actions change.
import type { InputLayer, Plan, Reading } from "reacher";

/** The kind of each action. */
export type ${name}Kinds = {
${kinds.join("\n")}
};

/** The flags that the game may set. */
export type ${name}Flags = ${flags};

${numbers}/** The plan: \`parsePlan<${types}>(json)\` gives it. */
export type ${name}Plan = Plan<${types}>;

/** What a step gives. */
export type ${name}Reading = Reading<${name}Kinds>;

/** The layer: \`createInputLayer(plan)\` gives it. */
export type ${name}Layer = InputLayer<${types}>;
`;
}

function typeName(name: string): string {
  const words = name.match(/[A-Za-z0-9]+/g) ?? ["Game"];
  const joined = words.map((word) => word[0]!.toUpperCase() + word.slice(1)).join("");
  return /^\d/.test(joined) ? "Plan" + joined : joined;
}
