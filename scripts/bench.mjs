/** `npm run bench`: measures the budgets on what was built. `npm run bench:server`: what many players cost in one process. */
import { ensureChromium } from "./browsers.mjs";
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { run } from "./run.mjs";

ensureInstalled();
if (process.argv[2] === "server") {
  ensureBuilt();
  run("node", ["bench/server.mjs", ...process.argv.slice(3)]);
} else {
  process.env["CHROMIUM"] = ensureChromium();
  ensureBuilt();
  run("node", ["--expose-gc", "bench/bench.mjs"]);
}
