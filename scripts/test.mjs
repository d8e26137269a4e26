/**
 * `npm test`: installs what is missing, builds, and runs every test. Arguments go to Jest: `npm test -- movement`. With `--firefox`,
 * the tests of the pages run in Firefox, and nothing else.
 */
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { ensureChromium, ensureFirefox } from "./browsers.mjs";
import { run } from "./run.mjs";

const [args, inFirefox] = [process.argv.slice(2), process.argv.includes("--firefox")];
ensureInstalled();
if (inFirefox) {
  delete process.env["CHROMIUM"];
  process.env["FIREFOX"] = ensureFirefox();
  args.splice(args.indexOf("--firefox"), 1, "--selectProjects", "firefox");
} else {
  delete process.env["FIREFOX"];
  process.env["CHROMIUM"] = ensureChromium();
}
ensureBuilt();
console.log("Building the examples ...");
for (const example of ["starter", "kelpline"]) {
  run("node", ["../../node_modules/vite/bin/vite.js", "build", "--logLevel", "warn"], {
    cwd: `examples/${example}`,
  });
}
run("node", ["node_modules/jest/bin/jest.js", ...args]);
