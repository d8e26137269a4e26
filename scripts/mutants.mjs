/**
 * `npm run mutants -- FOLDER`: what the tests would not notice. Changes each comparison and drops each statement of a folder's files, one
 * at a time, and lists those changes that all tests survive. `--some 200` takes that many at random, `--seed N` the same ones again.
 */
import { fork } from "node:child_process";
import { readdirSync, statSync } from "node:fs";
import { availableParallelism } from "node:os";
import { join, relative, resolve } from "node:path";
import { parseArgs } from "node:util";
import config from "../jest.config.mjs";

const root = resolve(import.meta.dirname, "..");
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { some: { type: "string" }, seed: { type: "string" } },
});
const target = positionals[0];
if (target === undefined || positionals.length > 1) {
  console.error("Usage: npm run mutants -- FOLDER [--some COUNT] [--seed NUMBER]");
  process.exit(2);
}

/** A test that takes longer is left out: it would be run for each mutant that it reaches. Random tests try a few times only. */
const LONGEST_MS = 1500;
process.env.RUNS ??= "0.1";
const filesIn = (path) =>
  statSync(path).isDirectory() ? readdirSync(path).flatMap((name) => filesIn(join(path, name))) : [path];
const files = filesIn(resolve(root, target)).filter((file) => /\.tsx?$/.test(file));
// The tests of the package that the folder is in.
const own = relative(root, files[0]).split("/").slice(0, 2).join("/");
const project = config.projects.find(({ testMatch }) => testMatch[0].startsWith(`<rootDir>/${own}/`));
const tests = filesIn(join(root, own, "tests")).filter((file) => /^(?!.*\/pages\/).*\.test\.ts$/.test(file));
const transform = Object.values(project.transform)[0][1];
const given = JSON.stringify({ root, files, tests, mapper: project.moduleNameMapper, transform });
process.env.SEED ??= "1";

/** A process with all tests loaded: one that hangs can be ended. */
function start() {
  const worker = fork(join(root, "scripts/mutants/tests.mjs"), [given]);
  const messages = [];
  let wake = () => {};
  worker.on("message", (message) => {
    messages.push(message);
    wake();
  });
  worker.on("exit", () => {
    messages.push({ error: new Error("the tests ended by themselves") });
    wake();
  });
  /** The next message, or nothing after so many ms. */
  const next = async (ms = 2 ** 30) => {
    if (messages.length === 0)
      await new Promise((resolve) => {
        const timer = setTimeout(resolve, ms);
        wake = () => (clearTimeout(timer), resolve());
      });
    return messages.shift();
  };
  return { worker, next };
}

async function ready(one = start()) {
  const first = await one.next();
  if (first?.ready !== true) throw first?.error ?? new Error("the tests could not be loaded");
  return { ...one, ...first };
}

const processes = await Promise.all(Array.from({ length: availableParallelism() }, () => ready()));
const [{ places, tests: all }] = processes;
console.log(`${places.length} places in ${files.length} files, ${all.length} tests`);

/** What each test reaches, and how long it takes. */
const known = [];
await Promise.all(
  processes.map(async ({ worker, next }, n) => {
    const own = all.map((_, index) => index).filter((index) => index % processes.length === n);
    worker.send({ mutant: -1, tests: own, isFirst: true });
    for (let message; (message = await next()).done !== true;) {
      if (message.error) throw message.error;
      known[message.test] = message;
    }
  }),
);
for (const { test, failed, ms } of known)
  if (failed !== undefined || ms > LONGEST_MS)
    console.log(
      `left out: ${all[test].name.slice(0, 70)} (${failed?.split("\n")[0] ?? `${Math.round(ms)} ms`})`,
    );
console.log(`${(known.reduce((sum, { ms }) => sum + ms, 0) / 1000).toFixed(1)} s for all of them`);
const useful = known.filter(({ failed, ms }) => failed === undefined && ms <= LONGEST_MS);
const reaching = places.map((_, place) =>
  useful.filter(({ hits }) => hits.includes(place)).sort((a, b) => a.ms - b.ms),
);

let seed = Number(values.seed ?? Date.now() % 100000);
console.log(`seed ${seed}`);
const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
const queue = places
  .map((_, place) => ({ place, at: random() }))
  .sort((a, b) => a.at - b.at)
  .slice(0, Number(values.some ?? Infinity))
  .map(({ place }) => place);
const total = queue.length;
const survivors = [];
let tried = 0;
await Promise.all(
  processes.map(async (one) => {
    for (let place; (place = queue.pop()) !== undefined;) {
      const asked = reaching[place];
      const limit = asked.reduce((sum, { ms }) => sum + ms, 0) * 4 + 5000;
      one.worker.send({ mutant: place, tests: asked.map(({ test }) => test) });
      const answer = asked.length === 0 ? await one.next() : await one.next(limit);
      if (answer?.done) survivors.push(place);
      // One that hangs is noticed; one that leaves something behind would kill the next ones too.
      if (answer === undefined || answer.error || answer.isClean === false) {
        one.worker.kill("SIGKILL");
        Object.assign(one, await ready());
      }
      if (process.stderr.isTTY)
        process.stderr.write(`\r${++tried} of ${total}, ${survivors.length} survive `);
    }
    one.worker.kill("SIGKILL");
  }),
);
if (process.stderr.isTTY) process.stderr.write("\n");
for (const place of survivors.sort((a, b) => a - b)) {
  const { file, line, what, code } = places[place];
  const how = reaching[place].length === 0 ? ", not reached" : "";
  console.log(`${relative(root, file)}:${line}  ${what}${how}: ${code}`);
}
console.log(`${survivors.length} of ${total} survive (${((100 * survivors.length) / total).toFixed(1)} %)`);
