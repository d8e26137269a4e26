/** `npm test`: installs what is missing, builds, and runs every test. Arguments go to Jest: `npm test -- movement`. */
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { ensureChromium } from "./chromium.mjs";
import { run } from "./run.mjs";

const args = process.argv.slice(2);
ensureInstalled();
process.env["CHROMIUM"] = ensureChromium();
ensureBuilt();
console.log("Building the examples ...");
for (const example of ["starter", "kelpline"]) {
  run("node", ["../../node_modules/vite/bin/vite.js", "build", "--logLevel", "warn"], {
    cwd: `examples/${example}`,
  });
}
run("node", ["node_modules/jest/bin/jest.js", ...args]);
