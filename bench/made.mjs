/** A layer as a game ships it: code made for its plan, bundled with what of the library it needs. */
import { rmSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { build } from "esbuild";
import { builtModule } from "reacher/build";

const root = fileURLToPath(new URL("..", import.meta.url));

/** `calls`: what the game calls of it. */
export async function madeLayer(plan, calls) {
  const outfile = join(root, `bench/.made-${process.pid}.mjs`);
  const module = builtModule(plan, { file: "game", types: false, rebinding: false, calls });
  await build({
    stdin: {
      contents: `${module.replace("export default plan;", "")}
import { createInputLayer } from "reacher";
export const input = createInputLayer(plan);`,
      resolveDir: root,
    },
    bundle: true,
    minify: true,
    format: "esm",
    target: "es2022",
    conditions: ["reacher-built"],
    outfile,
  });
  try {
    return (await import(pathToFileURL(outfile))).input;
  } finally {
    rmSync(outfile);
  }
}
