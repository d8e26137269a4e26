/** Layers of built modules: their text run with the library as a game that is built ahead bundles it. */
import { mkdtempSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildSync } from "esbuild";
import type { InputLayer, Plan } from "reacher";
import type { editOverrides, prompt } from "reacher/rebind";
import type { explainLayer, record } from "reacher/trace";
import { builtModule, type BuildOptions } from "reacher/build";
import { root } from "./compiler";

export interface Library {
  createInputLayer(plan: object): InputLayer;
  parsePlan(raw: object): object;
  readonly editOverrides: typeof editOverrides;
  readonly prompt: typeof prompt;
  readonly record: typeof record;
  readonly explainLayer: typeof explainLayer;
}

/** The library as a bundler makes it with these conditions. */
export function bundledLibrary(conditions = ["reacher-built"]): Library {
  const folder = mkdtempSync(join(tmpdir(), "reacher-library-"));
  const outfile = join(folder, "library.cjs");
  buildSync({
    stdin: {
      contents:
        'export * from "reacher"; export * from "reacher/internal"; export * from "reacher/internal/keys"; export { editOverrides, prompt } from "reacher/rebind"; export { explainLayer, record } from "reacher/trace";',
      resolveDir: root,
    },
    bundle: true,
    format: "cjs",
    platform: "node",
    conditions,
    outfile,
  });
  const library = createRequire(outfile)(outfile) as Library;
  rmSync(folder, { recursive: true, force: true });
  return library;
}

/** The plan of a built module, and its text. */
export function builtPlanOf(library: Library, plan: Plan, options: Partial<BuildOptions>) {
  const text = builtModule(plan, { file: "reef.plan.json", types: false, ...options });
  const body = text
    .replace(/import (\{.*\}) from "reacher\/internal(?:\/made)?";/, "const $1 = library;")
    .replace('import("reacher/internal/keys")', "Promise.resolve(library)")
    .replace("export default plan;", "return plan;");
  return { text, plan: new Function("library", body)(library) as object };
}

const exact = (_: string, value: unknown) =>
  typeof value === "number" && !(Number.isFinite(value) && !Object.is(value, -0))
    ? `${1 / value} ${value}`
    : value;

/** All fields of all readings, the parts of a reading as well. */
export const shown = (input: Pick<InputLayer, "now">) =>
  JSON.stringify(
    Object.entries(input.now).map(([name, reading]) => [
      name,
      { ...reading },
      ...Object.values(reading).map((part) => (typeof part === "object" && part !== null ? { ...part } : 0)),
      reading,
    ]),
    exact,
  );
