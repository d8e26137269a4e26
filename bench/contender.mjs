/**
 * One contender in a process of its own: `node --min-semi-space-size=16 bench/contender.mjs NAME KIND`. Beside others in one process
 * the compiler would make other code of it, and the heap would be collected for all of them. Each line of its input is a number of turns;
 * it answers with the process time that each of them took, in ns.
 */
import { readFileSync } from "node:fs";
import { createInterface } from "node:readline";
import { createInputLayer } from "reacher";
import { plan } from "./game.mjs";
import { Bits, Plain } from "./handWritten.mjs";
import { madeLayer } from "./made.mjs";
import { handRuns, layerRuns } from "./runs.mjs";

const file = new URL("../examples/kelpline/plan/kelpline.plan.json", import.meta.url);
const kelpline = () => JSON.parse(readFileSync(file, "utf8"));
const contenders = {
  ours: () => layerRuns(createInputLayer(plan)),
  made: async () => layerRuns(await madeLayer(plan, [])),
  whole: () => layerRuns(createInputLayer(kelpline())),
  wholeMade: async () => layerRuns(await madeLayer(kelpline(), ["on"])),
  plain: () => handRuns(new Plain()),
  bits: () => handRuns(new Bits()),
};
const [name, kind] = process.argv.slice(2);
const run = (await contenders[name]())[kind];

/** Time that this process has had, in ns. */
function processTime() {
  const { user, system } = process.cpuUsage();
  return (user + system) * 1000;
}

for (let n = 0; n < 3; n++) run(100_000);
for await (const line of createInterface({ input: process.stdin })) {
  const turns = Number(line);
  const begin = processTime();
  run(turns);
  console.log((processTime() - begin) / turns);
}
