/** `npm run demo`: replays a shipped dive through the demo's plan, then serves Kelpline. `-- --once` ends after the replay. */
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
  console.log("\nNow play it: Kelpline is being served. Ctrl+C ends it.\n");
  const { createServer } = await import("vite");
  const server = await createServer({
    root: "examples/kelpline",
    server: { host: "127.0.0.1" },
    logLevel: "warn",
  });
  await server.listen();
  console.log(`Kelpline: ${server.resolvedUrls.local[0]}`);
  process.once("SIGINT", () => void server.close().then(() => process.exit(0)));
}
