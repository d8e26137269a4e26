/**
 * `npm test`: installs what is missing, builds, and runs every test. Arguments go to Jest: `npm test -- movement`, or
 * `npm test -- --selectProjects firefox`.
 */
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { ensureChromium, ensureOthers } from "./browsers.mjs";
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { run } from "./run.mjs";

ensureInstalled();
const chromium = ensureChromium();
for (const [name, path] of Object.entries({ CHROMIUM: chromium, ...ensureOthers(chromium) }))
  if (path === undefined) delete process.env[name];
  else process.env[name] = path;
ensureBuilt();
console.log("Building the examples ...");
const built = (example, args = [], env = {}) =>
  run("node", ["../../node_modules/vite/bin/vite.js", "build", "--logLevel", "warn", ...args], {
    cwd: `examples/${example}`,
    env: { ...process.env, ...env },
  });
for (const example of ["starter", "tether", "kelpline"]) built(example);
built("kelpline", ["--config", "vite.lab.config.js"]);
// The panel is there while one develops.
built("starter", ["--outDir", "dist/development"], { NODE_ENV: "development" });
const given = process.argv.slice(2);
// Several tests install what a stranger would: packed once for all of them.
if (given.length === 0) {
  process.env.PACKED = mkdtempSync(join(tmpdir(), "reacher-packed-"));
  process.on("exit", () => rmSync(process.env.PACKED, { recursive: true, force: true }));
  const packages = ["reacher", "reacher-cli", "create-reacher"].map((name) => `--workspace=${name}`);
  run("npm", ["pack", "--silent", "--pack-destination", process.env.PACKED, ...packages]);
}
const jest = (...args) =>
  spawnSync("node", ["node_modules/jest/bin/jest.js", ...args], { stdio: "inherit" }).status ?? 1;
const desks = ["chromium", "firefox", "webkit"].filter((name) => process.env[`DESK_${name.toUpperCase()}`]);
const names = desks.map((name) => `desk ${name}`);
if (given.length > 0 || names.length === 0) process.exit(jest(...given));
// At a desk, hands keep the time: nothing but another desk may take the machine meanwhile.
const first = jest("--ignoreProjects", ...names);
process.exit(jest("--maxWorkers=3", "--selectProjects", ...names) || first);
