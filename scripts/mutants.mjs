/**
 * `npm run mutants -- FOLDER`: what the tests would not notice. Changes each comparison and drops each statement of a folder's files, one
 * at a time, and lists those changes that all tests survive. `--some 200` takes that many at random, `--seed N` the same ones again;
 * `--unreached` lists only what no test comes to, which takes a minute.
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
  options: { some: { type: "string" }, seed: { type: "string" }, unreached: { type: "boolean" } },
});
const target = positionals[0];
if (target === undefined || positionals.length > 1) {
  console.error("Usage: npm run mutants -- FOLDER [--some COUNT] [--seed NUMBER] [--unreached]");
  process.exit(2);
}

/** Most changes are noticed by few runs of random tests; those that are not are tried again with all. */
const ROUNDS = [
  { runs: "0.1", longestMs: 1000 },
  { runs: "1", longestMs: 10_000 },
];
const filesIn = (path) =>
  statSync(path).isDirectory() ? readdirSync(path).flatMap((name) => filesIn(join(path, name))) : [path];
const files = filesIn(resolve(root, target)).filter((file) => /\.tsx?$/.test(file));
// The tests of the package that the folder is in.
const own = relative(root, files[0]).split("/").slice(0, 2).join("/");
const project = config.projects.find(({ testMatch }) => testMatch[0].startsWith(`<rootDir>/${own}/`));
const tests = filesIn(join(root, own, "tests")).filter((file) => /^(?!.*\/pages\/).*\.test\.ts$/.test(file));
const transform = Object.values(project.transform)[0][1];
const given = JSON.stringify({ root, files, tests, mapper: project.moduleNameMapper, transform });
const seed = Number(values.seed ?? Date.now() % 100000);

/** A process with all tests loaded: one that hangs can be ended. */
async function start(env) {
  const worker = fork(join(root, "scripts/mutants/tests.mjs"), [given], { env: { ...process.env, ...env } });
  const messages = [];
  let wake = () => {};
  const hear = (message) => {
    messages.push(message);
    wake();
  };
  worker.on("message", hear);
  worker.on("exit", () => hear({ error: new Error("the tests ended by themselves") }));
  /** The next message, or nothing after so many ms. */
  const next = async (ms = 2 ** 30) => {
    if (messages.length === 0)
      await new Promise((resolve) => {
        const timer = setTimeout(resolve, ms);
        wake = () => (clearTimeout(timer), resolve());
      });
    return messages.shift();
  };
  const first = await next();
  if (first.ready !== true) throw first.error;
  return { worker, next, ...first };
}

/** What each test reaches, and how long it takes. */
async function measured(processes) {
  const known = [];
  await Promise.all(
    processes.map(async ({ worker, next, tests: all }, n) => {
      const ours = all.map((_, index) => index).filter((index) => index % processes.length === n);
      worker.send({ mutant: -1, tests: ours, isFirst: true });
      for (let message; (message = await next()).done !== true;) {
        if (message.error) throw message.error;
        known.push({ ...message, hits: new Set(message.hits) });
      }
    }),
  );
  return known;
}

/** Processes with all tests loaded, and what each test reaches. */
async function startAll(env) {
  const processes = await Promise.all(Array.from({ length: availableParallelism() }, () => start(env)));
  const [{ places, tests: all }] = processes;
  const known = await measured(processes);
  const seconds = known.reduce((sum, { ms }) => sum + ms, 0) / 1000;
  console.log(
    `${places.length} places in ${files.length} files, ${all.length} tests of ${seconds.toFixed(0)} s`,
  );
  return { processes, places, all, known };
}

/** Those of the changes that survive the tests; all, or the sample, where none are named. */
async function survivorsOf(asked, { runs, longestMs }) {
  const env = { RUNS: runs, SEED: String(seed) };
  const { processes, places, all, known } = await startAll(env);
  for (const { test, failed, ms } of known)
    if (failed !== undefined || ms > longestMs)
      console.log(
        `left out: ${all[test].name.slice(0, 70)} (${failed?.split("\n")[0] ?? `${Math.round(ms)} ms`})`,
      );
  const useful = known
    .filter(({ failed, ms }) => failed === undefined && ms <= longestMs)
    .sort((one, other) => one.ms - other.ms);
  const queue = [...(asked ?? sampled(places))];
  const total = queue.length;
  const survivors = [];
  await Promise.all(
    processes.map(async (one) => {
      for (let place; (place = queue.pop()) !== undefined;) {
        const reaching = useful.filter(({ hits }) => hits.has(place));
        const limit = reaching.reduce((sum, { ms }) => sum + ms, 0) * 4 + 5000;
        one.worker.send({ mutant: place, tests: reaching.map(({ test }) => test) });
        const answer = await one.next(limit);
        if (answer?.done) survivors.push({ ...places[place], place, isReached: reaching.length > 0 });
        // One that hangs is noticed; one that leaves something behind would kill the next ones too.
        if (answer === undefined || answer.error || answer.isClean === false) {
          one.worker.kill("SIGKILL");
          Object.assign(one, await start(env));
        }
        if (process.stderr.isTTY)
          process.stderr.write(`\r${queue.length} to try, ${survivors.length} survive `);
      }
      one.worker.kill("SIGKILL");
    }),
  );
  if (process.stderr.isTTY) process.stderr.write("\n");
  return { survivors, total };
}

function sampled(places) {
  let state = seed + 1;
  const random = () => (state = (state * 16807) % 2147483647) / 2147483647;
  return places
    .map((_, place) => ({ place, at: random() }))
    .sort((one, other) => one.at - other.at)
    .slice(0, Number(values.some ?? Infinity))
    .map(({ place }) => place);
}

console.log(`seed ${seed}`);
if (values.unreached) {
  const { processes, places, known } = await startAll({ RUNS: ROUNDS[1].runs, SEED: String(seed) });
  for (const { worker } of processes) worker.kill("SIGKILL");
  const reached = new Set(known.flatMap(({ hits }) => [...hits]));
  for (const [n, { file, line, code }] of places.entries())
    if (!reached.has(n)) console.log(`${relative(root, file)}:${line}  ${code}`);
  process.exit();
}
const { survivors: first, total } = await survivorsOf(undefined, ROUNDS[0]);
const { survivors } = await survivorsOf(
  first.map(({ place }) => place),
  ROUNDS[1],
);
for (const { file, line, what, code, isReached } of survivors.sort((one, other) => one.place - other.place))
  console.log(`${relative(root, file)}:${line}  ${what}${isReached ? "" : ", not reached"}: ${code}`);
console.log(`${survivors.length} of ${total} survive (${((100 * survivors.length) / total).toFixed(1)} %)`);
