/** `npm run bench`: measures the budgets on what was built. */
import { ensureChromium } from "./browsers.mjs";
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { run } from "./run.mjs";

ensureInstalled();
process.env["CHROMIUM"] = ensureChromium();
ensureBuilt();
run("node", ["--expose-gc", "bench/bench.mjs"]);
