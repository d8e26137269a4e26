#!/usr/bin/env node
// CommonJS, which starts sooner; and from the second time on with what the engine compiled the first time.
const { existsSync, mkdirSync, readFileSync, renameSync, statSync, writeFileSync } = require("node:fs");
const { createRequire, wrap } = require("node:module");
const { dirname, join } = require("node:path");
const { Script } = require("node:vm");

const main = join(__dirname, "../dist/bundle/main.cjs");
if (existsSync(main)) start();
else {
  process.stderr.write("reacher is not built yet; run: npm run build\n");
  process.exitCode = 2;
}

function start() {
  const { size, mtimeMs } = statSync(main);
  // Another engine, or another build, has other code: the name tells them apart.
  const name = `main-${process.version}-${process.arch}-${size}-${Math.round(mtimeMs)}`;
  const kept = join(__dirname, "../dist/bundle/cache", name);
  const cachedData = readKept(kept);
  const script = new Script(wrap(readFileSync(main, "utf8")), {
    filename: main,
    cachedData,
  });
  const module = { exports: {} };
  script
    .runInThisContext()
    .call(module.exports, module.exports, createRequire(main), module, main, dirname(main));
  // Whoever closes the pipe has read enough.
  process.stdout.on("error", (error) => {
    if (error.code === "EPIPE") process.exit(0);
    throw error;
  });
  void module.exports.main(process.argv.slice(2), process).then((code) => (process.exitCode = code));
  if (cachedData === undefined || script.cachedDataRejected)
    // When all that this call needs has been compiled.
    process.once("exit", () => keep(kept, script));
}

function readKept(file) {
  try {
    return readFileSync(file);
  } catch {
    return undefined;
  }
}

/** Whole or not at all; where nothing may be written, the command starts a little later each time. */
function keep(file, script) {
  try {
    mkdirSync(dirname(file), { recursive: true });
    const part = `${file}-${process.pid}`;
    writeFileSync(part, script.createCachedData());
    renameSync(part, file);
  } catch {
    // It is only quicker with it.
  }
}
