/** `npm run bench`: measures the budgets on what was built. */
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { run } from "./run.mjs";

ensureInstalled();
ensureBuilt();
run("node", ["--expose-gc", "bench/bench.mjs"]);
