/**
 * `npm run demo`: replays a shipped dive through the demo's plan, then serves Kelpline, and the workbench on its plan. `-- --once` ends
 * after the replay.
 */
import { spawn } from "node:child_process";
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { run } from "./run.mjs";

ensureInstalled();
ensureBuilt();

const plan = "examples/kelpline/plan/kelpline.plan.json";
const trace = "examples/kelpline/dives/night-round.trace.jsonl";
console.log(`\nA dive, recorded at the keyboard, replayed through ${plan}.`);
console.log("Each line is a change: when it was (in ms), the action, what became of it.\n");
run("node", ["packages/reacher-cli/bin/reacher.cjs", "replay", plan, trace]);

if (!process.argv.includes("--once")) {
  console.log(
    "\nNow play it, and change its numbers: what the workbench saves changes the dive that is running. Ctrl+C ends both.\n",
  );
  const { createServer } = await import("vite");
  const serve = async (configFile) => {
    const root = "examples/kelpline";
    const server = await createServer({
      root,
      configFile: `${root}/${configFile}`,
      server: { host: "127.0.0.1" },
      logLevel: "warn",
    });
    await server.listen();
    return [server, server.resolvedUrls.local[0]];
  };
  const [lab, labAddress] = await serve("vite.lab.config.js");
  // The game's page leads to it.
  process.env.VITE_LAB = `${labAddress}lab.html`;
  const [game, address] = await serve("vite.config.js");
  console.log(`Kelpline:      ${address}`);
  console.log(`Its lab:       ${process.env.VITE_LAB}`);
  const bench = spawn("node", ["packages/reacher-cli/bin/reacher.cjs", "try", plan, trace], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  bench.stdout.on("data", (told) => {
    const [address] = /http:\S+/.exec(String(told)) ?? [];
    if (address !== undefined) console.log(`Its workbench: ${address}`);
  });
  const end = () => {
    bench.kill("SIGINT");
    void Promise.all([game.close(), lab.close()]).then(() => process.exit(0));
  };
  process.once("SIGINT", end);
  process.once("SIGTERM", end);
}
