/** `reacher build PLAN -o FILE`: a module with the plan checked ahead, its types, and only the features that it uses. */
import { basename } from "node:path";
import type { Plan } from "reacher";
import { builtModule, type BuildOptions } from "reacher/build";
import { checkPlan } from "reacher/check";
import { BadAnswer, UseError } from "../faults.js";
import { atEachChange, writeMade } from "../made.js";
import { flush, note, print } from "../output.js";
import { placed, readPlanFile, readRunnablePlan } from "../planFile.js";

export interface BuildCommandOptions {
  readonly json?: boolean;
  readonly output?: string;
  readonly fixedKeys?: boolean;
  /** `drive,mute`; `none`. */
  readonly calls?: string;
  readonly check?: boolean;
  readonly watch?: boolean;
}

/** Exit code 1 where `--check` finds another text. */
export async function build(file: string, options: BuildCommandOptions): Promise<number> {
  const { output, check = false, watch = false } = options;
  if (output === undefined && (check || watch))
    throw new UseError(`--${check ? "check" : "watch"} needs the module's file: -o FILE`);
  if (check && watch) throw new UseError("--check looks once, and --watch goes on; leave one out");
  if (!watch) {
    await buildOnce(file, options);
    return 0;
  }
  await readRunnablePlan(file);
  await atEachChange(file, async () => {
    try {
      await buildOnce(file, options);
    } catch (error) {
      // While somebody writes, a plan is often wrong for a moment: the last good module stays.
      if (!(error instanceof BadAnswer) && !(error instanceof UseError)) throw error;
      note(error.message);
    }
    flush();
  });
  return 0;
}

/** @throws UseError for a call that cannot be left out */
function moduleOf(written: Plan, options: BuildOptions): string {
  try {
    return builtModule(written, options);
  } catch (error) {
    // The maker is a file of its own, with errors of its own.
    const { name, message } = error as Error;
    throw name === "ReacherError" ? new UseError(`--calls: ${message}`) : error;
  }
}

async function buildOnce(
  file: string,
  { json = false, output, fixedKeys = false, calls, check = false }: BuildCommandOptions,
): Promise<void> {
  const { written } = await readRunnablePlan(file);
  const planFile = await readPlanFile(file);
  for (const found of checkPlan(planFile.raw).findings)
    if (found.severity === "warning") note(`warning: ${placed(planFile, found)}`);
  const text = moduleOf(written, {
    file: basename(file),
    rebinding: !fixedKeys,
    types: output === undefined || !/\.m?js$/.test(output),
    ...(calls !== undefined && {
      calls: calls === "none" ? [] : calls.split(",").map((call) => call.trim()),
    }),
  });
  if (output === undefined) return print(json ? JSON.stringify({ module: text }) : text.trimEnd());
  const how = `reacher build ${file} -o ${output}${fixedKeys ? " --fixed-keys" : ""}${calls === undefined ? "" : ` --calls ${calls}`}`;
  await writeMade(output, text, { from: file, check, how });
  const actions = Object.keys(written.actions).length;
  print(
    json
      ? JSON.stringify(check ? { current: output } : { written: output })
      : `${output}: ${check ? "current, " : ""}${actions} ${actions === 1 ? "action" : "actions"}, checked ahead${fixedKeys ? ", keys fixed" : ""}`,
  );
}
