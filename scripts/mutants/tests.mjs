/**
 * Loads a project's tests into this process, its sources marked, and runs those that it is asked to. In: messages `{ hits: true, tests }`
 * or `{ mutant, tests }`. Out: what each test reached and how long it took, or the first test that failed.
 */
import { createRequire, Module } from "node:module";
import { readFileSync, existsSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import swc from "@swc/core";
import { expect } from "expect";
import { marked } from "./mutate.mjs";

const { root, files, tests: testFiles, mapper, transform } = JSON.parse(process.argv[2]);
const places = [];
let active = -1;
let hits;
globalThis.mutant = (place) => {
  hits?.add(place);
  return place === active;
};

const mapped = Object.entries(mapper).map(([from, to]) => [new RegExp(from), to.replace("<rootDir>", root)]);
const usual = Module._resolveFilename;
Module._resolveFilename = function (name, parent, ...rest) {
  for (const [from, to] of mapped) {
    const found = from.exec(name);
    if (found === null) continue;
    const to1 = to.replace(/\$(\d)/g, (_, n) => found[n]);
    const path = to1.startsWith(".") ? resolve(dirname(parent.filename), to1) : to1;
    const file = [path, `${path}.ts`, `${path}.tsx`, join(path, "index.ts")].find(
      (one) => /\.\w+$/.test(one) && existsSync(one),
    );
    if (file !== undefined) return file;
  }
  const path = name.startsWith(".") ? resolve(dirname(parent.filename), `${name}.ts`) : "";
  return existsSync(path) ? path : usual.call(this, name, parent, ...rest);
};
const mutated = new Set(files);
for (const extension of [".ts", ".tsx"])
  Module._extensions[extension] = (module, file) => {
    const text = readFileSync(file, "utf8");
    const { code } = swc.transformSync(mutated.has(file) ? marked(file, text, places) : text, {
      ...transform,
      filename: file,
    });
    module._compile(code, file);
  };

/** What Jest gives to tests, as far as these use it. */
const tests = [];
const scopes = [{ before: [], after: [], beforeAll: [] }];
let file = "";
const all = (kind) => scopes.flatMap((scope) => scope[kind]);
function test(name, run) {
  tests.push({ name, file, run, before: all("before"), after: all("after"), beforeAll: all("beforeAll") });
}
const each = (add) => (rows) => (name, run) =>
  rows.forEach((row, n) => add(`${name} (${n})`, () => run(...(Array.isArray(row) ? row : [row]))));
test.each = each(test);
test.failing = test.skip = test.todo = () => {};
function describe(_, run) {
  scopes.push({ before: [], after: [], beforeAll: [] });
  run();
  scopes.pop();
}
describe.each = each((name, run) => describe(name, run));
const hook = (kind) => (run) => scopes.at(-1)[kind].push(run);
Object.assign(globalThis, {
  test,
  it: test,
  describe,
  expect,
  beforeEach: hook("before"),
  afterEach: hook("after"),
  beforeAll: hook("beforeAll"),
  afterAll: () => {},
});
console.error = console.warn = console.log = () => {};

const require = createRequire(join(root, "package.json"));
for (file of testFiles) require(file);
process.send({ ready: true, places, tests: tests.map(({ name, file }) => ({ name, file })) });

/** Runs a test. @returns what it failed of, if anything */
async function failure({ run, before, after, beforeAll }) {
  try {
    for (const one of beforeAll.splice(0)) await one();
    for (const one of before) await one();
    await run();
  } catch (error) {
    return String(error?.message ?? error);
  } finally {
    for (const one of after) await one();
  }
}

process.on("message", async ({ mutant, tests: asked, isFirst }) => {
  for (const n of asked) {
    hits = isFirst ? new Set() : undefined;
    active = mutant;
    const begin = performance.now();
    const failed = await failure(tests[n]);
    active = -1;
    if (isFirst) {
      process.send({ test: n, failed, ms: performance.now() - begin, hits: [...hits] });
    } else if (failed !== undefined) {
      // A mutant may leave something behind that fails this test from now on.
      process.send({ mutant, killer: n, isClean: (await failure(tests[n])) === undefined });
      return;
    }
  }
  process.send({ mutant, done: true });
});
