/** `reacher build PLAN -o FILE`: a module with the plan checked ahead, its types, and only the features that it uses. */
import { basename } from "node:path";
import { writeFile } from "node:fs/promises";
import { builtModule } from "reacher/build";
import { checkPlan } from "reacher/check";
import { fileFault } from "../faults.js";
import { note, print } from "../output.js";
import { placed, readPlanFile, readRunnablePlan } from "../planFile.js";

export interface BuildCommandOptions {
  readonly json?: boolean;
  readonly output?: string;
  readonly fixedKeys?: boolean;
}

export async function build(file: string, options: BuildCommandOptions): Promise<number> {
  const { written } = await readRunnablePlan(file);
  const planFile = await readPlanFile(file);
  for (const found of checkPlan(planFile.raw).findings)
    if (found.severity === "warning") note(`warning: ${placed(planFile, found)}`);
  const { output = "", fixedKeys = false, json = false } = options;
  const text = builtModule(written, {
    file: basename(file),
    rebinding: !fixedKeys,
    types: !/\.m?js$/.test(output),
  });
  if (output === "") {
    print(json ? JSON.stringify({ module: text }) : text.trimEnd());
    return 0;
  }
  try {
    await writeFile(output, text);
  } catch (error) {
    throw fileFault(output, error);
  }
  const actions = Object.keys(written.actions).length;
  print(
    json
      ? JSON.stringify({ written: output })
      : `${output}: ${actions} ${actions === 1 ? "action" : "actions"}, checked ahead${fixedKeys ? ", keys fixed" : ""}`,
  );
  return 0;
}
