/** `reacher types PLAN`: TypeScript types for a plan that is written as JSON. */
import { basename } from "node:path";
import { planTypes, planTypesBeside } from "reacher/check";
import { UseError } from "../faults.js";
import { writeMade } from "../made.js";
import { print } from "../output.js";
import { readRunnablePlan } from "../planFile.js";

export interface TypesOptions {
  readonly json?: boolean;
  readonly output?: string;
  readonly beside?: boolean;
  readonly check?: boolean;
}

/** Exit code 1 where `--check` finds another text. */
export async function types(
  file: string,
  { json = false, output, beside = false, check = false }: TypesOptions,
): Promise<number> {
  if (beside && output !== undefined)
    throw new UseError("--beside names the file itself; leave -o out, or --beside");
  if (beside && !/\.jsonc?$/.test(file))
    throw new UseError(`${file}: --beside is for a plan whose name ends in .json or .jsonc`);
  if (check && !beside && output === undefined)
    throw new UseError("--check needs the file that is checked: --beside, or -o FILE");
  const plan = await readRunnablePlan(file);
  const text = beside ? planTypesBeside(plan, basename(file)) : planTypes(plan, basename(file));
  const to = beside ? file.replace(/\.(jsonc?)$/, ".d.$1.ts") : output;
  if (to === undefined) {
    print(json ? JSON.stringify({ types: text }) : text.trimEnd());
    return 0;
  }
  const how = beside ? `reacher types ${file} --beside` : `reacher types ${file} -o ${to}`;
  await writeMade(to, text, { from: file, check, how });
  const count = plan.actions.length;
  if (json) print(JSON.stringify(check ? { current: to } : { written: to }));
  else print(`${to}: ${check ? "current, " : ""}types of ${count} ${count === 1 ? "action" : "actions"}`);
  return 0;
}
