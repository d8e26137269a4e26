/** `reacher build PLAN -o FILE`: a module with the plan checked ahead, its types, and only the features that it uses. */
import { basename } from "node:path";
import { builtModule, explainModule, mappedModule, type BuildOptions } from "reacher/build";
import { checkPlan } from "reacher/check";
import { BadAnswer, UseError } from "../faults.js";
import { atEachChange, writeMade } from "../made.js";
import { flush, note, print } from "../output.js";
import { placed, readPlanFile, readRunnablePlan } from "../planFile.js";

export interface BuildCommandOptions {
  readonly json?: boolean;
  readonly output?: string;
  readonly fixedKeys?: boolean;
  readonly map?: boolean;
  /** `drive,mute`; `none`. */
  readonly calls?: string;
  readonly check?: boolean;
  readonly watch?: boolean;
  readonly explain?: boolean;
}

/** Exit code 1 where `--check` finds another text. */
export async function build(file: string, options: BuildCommandOptions): Promise<number> {
  const { output, map = false, check = false, watch = false } = options;
  if (output === undefined && (map || check || watch))
    throw new UseError(`--${map ? "map" : check ? "check" : "watch"} needs the module's file: -o FILE`);
  if (check && watch) throw new UseError("--check looks once, and --watch goes on; leave one out");
  if (options.explain === true) {
    if (output !== undefined || check || watch)
      throw new UseError(
        "--explain tells what goes in, and writes nothing; leave out -o, --check and --watch",
      );
    return explain(file, options);
  }
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

/** What goes into the module, and how long it is. */
async function explain(file: string, options: BuildCommandOptions): Promise<number> {
  const { written } = await readRunnablePlan(file);
  const parts = asked(() => explainModule(written, optionsOf(file, options)));
  if (options.json === true) {
    print(JSON.stringify(parts));
    return 0;
  }
  const { code, why, brings, gzipped, calls, settings = [] } = parts;
  print(
    code === null
      ? `${file}: the rules themselves (${why}); the module is ${kB(gzipped)} gzipped`
      : `${file}: code made for the plan; the module is ${kB(gzipped)} gzipped`,
  );
  if (code !== null) {
    const all = code.reduce((sum, { length }) => sum + length, 0);
    const rows = code.map(({ kind, of, length }) => [
      kind === "part" ? of : `${kind} ${of}`,
      length.toLocaleString("en"),
      `${Math.round((100 * length) / all)} %`,
    ]);
    print(columns([["", "characters", "share"], ...rows]));
  }
  if (calls.length > 0) {
    print("");
    const rows = calls.map(({ of, adds }) => [of.join(", "), kB(adds)]);
    print(columns([["calls that come along", "add about"], ...rows]));
    print("");
  }
  if (settings.length > 0) print(`Settings that need no second part: ${settings.join(", ")}.`);
  print(`It brings ${brings.length === 0 ? "no calls" : brings.join(", ")}.`);
  return 0;
}

const kB = (bytes: number) => `${(bytes / 1000).toFixed(1)} kB`;

/** Lines of a table: the first column to the left, the others to the right. */
function columns(rows: readonly (readonly string[])[]): string {
  const widths = rows[0]!.map((_, n) => Math.max(...rows.map((row) => row[n]!.length)));
  const line = (row: readonly string[]) =>
    row.map((cell, n) => (n === 0 ? cell.padEnd(widths[n]!) : cell.padStart(widths[n]!))).join("  ");
  return rows.map(line).join("\n");
}

function optionsOf(file: string, { output, fixedKeys = false, calls }: BuildCommandOptions): BuildOptions {
  return {
    file: basename(file),
    rebinding: !fixedKeys,
    types: output === undefined || !/\.m?js$/.test(output),
    ...(calls !== undefined && {
      calls: calls === "none" ? [] : calls.split(",").map((call) => call.trim()),
    }),
  };
}

/** @throws UseError for a call that cannot be left out */
function asked<T>(make: () => T): T {
  try {
    return make();
  } catch (error) {
    // The maker is a file of its own, with errors of its own.
    const { name, message } = error as Error;
    throw name === "ReacherError" ? new UseError(`--calls: ${message}`) : error;
  }
}

async function buildOnce(file: string, options: BuildCommandOptions): Promise<void> {
  const { json = false, output, fixedKeys = false, map = false, calls, check = false } = options;
  const { written } = await readRunnablePlan(file);
  const planFile = await readPlanFile(file);
  for (const found of checkPlan(planFile.raw).findings)
    if (found.severity === "warning") note(`warning: ${placed(planFile, found)}`);
  const own = optionsOf(file, options);
  const module = asked(() =>
    map ? mappedModule(written, own) : { code: builtModule(written, own), map: null },
  );
  if (output === undefined)
    return print(json ? JSON.stringify({ module: module.code }) : module.code.trimEnd());
  const how = `reacher build ${file} -o ${output}${fixedKeys ? " --fixed-keys" : ""}${map ? " --map" : ""}${calls === undefined ? "" : ` --calls ${calls}`}`;
  const hasMap = map && module.map !== null;
  if (map && !hasMap) note(`${output}: no source map, since it has no code of its own`);
  if (hasMap) await writeMade(`${output}.map`, module.map!, { from: file, check, how });
  const last = hasMap ? `//# sourceMappingURL=${basename(output)}.map\n` : "";
  await writeMade(output, module.code + last, { from: file, check, how });
  const actions = Object.keys(written.actions).length;
  print(
    json
      ? JSON.stringify(check ? { current: output } : { written: output })
      : `${output}: ${check ? "current, " : ""}${actions} ${actions === 1 ? "action" : "actions"}, checked ahead${fixedKeys ? ", keys fixed" : ""}`,
  );
}
