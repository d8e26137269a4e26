/**
 * `npm test`: installs what is missing, builds, and runs every test. Arguments go to Jest: `npm test -- movement`, or
 * `npm test -- --selectProjects firefox`.
 */
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { ensureChromium, ensureOthers } from "./browsers.mjs";
import { run } from "./run.mjs";

ensureInstalled();
const chromium = ensureChromium();
for (const [name, path] of Object.entries({ CHROMIUM: chromium, ...ensureOthers(chromium) }))
  if (path === undefined) delete process.env[name];
  else process.env[name] = path;
ensureBuilt();
console.log("Building the examples ...");
for (const example of ["starter", "tether", "kelpline"]) {
  run("node", ["../../node_modules/vite/bin/vite.js", "build", "--logLevel", "warn"], {
    cwd: `examples/${example}`,
  });
}
run("node", ["node_modules/jest/bin/jest.js", ...process.argv.slice(2)]);
