/** `reacher types PLAN`: TypeScript types for a plan that is written as JSON. */
import { writeFile } from "node:fs/promises";
import { basename } from "node:path";
import { planTypes } from "reacher/check";
import { fileFault } from "../faults.js";
import { print } from "../output.js";
import { readRunnablePlan } from "../planFile.js";

export async function types(file: string, options: { json?: boolean; output?: string }): Promise<number> {
  const plan = await readRunnablePlan(file);
  const text = planTypes(plan, basename(file));
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
