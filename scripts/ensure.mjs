/** What the project's commands need before they begin: packages installed as the lock file has them, everything built. */
import { existsSync, readFileSync, statSync, writeFileSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { run } from "./run.mjs";

export const root = fileURLToPath(new URL("..", import.meta.url));
process.chdir(root);

const [major, minor] = process.versions.node.split(".").map(Number);
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(`This project needs Node 20.19 or newer; this is ${process.versions.node}.`);
  process.exit(1);
}

/** Installs what is missing, and again where the lock file has changed. */
export function ensureInstalled() {
  const stamp = "node_modules/.installed";
  const lock = readFileSync("package-lock.json", "utf8");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
  console.log("Installing packages ...");
  // Not `npm ci`: that fails where a registry lacks optional packages of other systems. The versions are the lock file's all the same.
  run("npm", ["install", "--no-save", "--no-audit", "--no-fund", "--loglevel=error"]);
  writeFileSync(stamp, lock);
}

/** Builds the library and the command where a source is newer than what was built. */
export function ensureBuilt() {
  const built = "packages/reacher-cli/dist/bundle/main.cjs";
  if (
    existsSync(built) &&
    newest([
      "packages/reacher/src",
      "packages/reacher-cli/src",
      "packages/reacher-workbench/src",
      "scripts/build.mjs",
    ]) < statSync(built).mtimeMs
  )
    return;
  console.log("Building the library and the command ...");
  run("node", ["scripts/build.mjs"]);
}

function newest(paths) {
  return Math.max(
    ...paths.map((path) => {
      const stats = statSync(path);
      if (!stats.isDirectory()) return stats.mtimeMs;
      return newest(readdirSync(path).map((name) => join(path, name)));
    }),
  );
}
