/** Unit tests run on the sources; those of the command and of the pages on what was built. */
import { availableParallelism } from "node:os";

const transform = {
  "^.+\\.[cm]?tsx?$": [
    "@swc/jest",
    {
      jsc: {
        target: "es2022",
        parser: { syntax: "typescript", tsx: false },
        // As the compiler does it: a field that is only declared is not set.
        transform: { useDefineForClassFields: false },
      },
      module: { type: "commonjs" },
    },
  ],
};
const shared = {
  testEnvironment: "node",
  // One package is a module of the language alone.
  transform: { ...transform, "/js-tokens/.*\\.js$": Object.values(transform)[0] },
  transformIgnorePatterns: ["/node_modules/(?!js-tokens/)"],
  extensionsToTreatAsEsm: [],
  // In a test's sandbox a global is looked up anew each time, which takes a hundred times as long as a variable.
  sandboxInjectedGlobals:
    "Array ArrayBuffer Boolean Error Float64Array Int32Array JSON Map Math Number Object Promise Reflect RegExp Set String Symbol Uint8Array WeakMap".split(
      " ",
    ),
};
const src = "<rootDir>/packages/reacher/src";
const moduleNameMapper = {
  "^reacher$": `${src}/index.ts`,
  "^reacher/browser$": `${src}/devices/browser.ts`,
  "^reacher/touch$": `${src}/touch/touch.ts`,
  "^reacher/trace$": `${src}/trace/index.ts`,
  "^reacher/tuning$": `${src}/tuning/index.ts`,
  "^reacher/rebind$": `${src}/rebind/index.ts`,
  "^reacher/stores/(browser|file)$": `${src}/stores/$1.ts`,
  "^reacher/testing$": `${src}/testing/index.ts`,
  "^reacher/crowd$": `${src}/layer/crowd.ts`,
  "^reacher/matchers$": `${src}/testing/matchers.ts`,
  "^reacher/internal$": `${src}/built/index.ts`,
  // The maker of code runs the engine by its compiled modules, whose sources it reads.
  "^reacher/build$": "<rootDir>/packages/reacher-cli/dist/bundle/make.cjs",
  "^reacher/panel$": `${src}/panel/panel.ts`,
  "^#(reader|overridden)$": `${src}/plan/read.ts`,
  "^#whole$": `${src}/layer/whole.ts`,
  "^reacher/check$": `${src}/plan/check.ts`,
  "^(\\.{1,2}/.*)\\.js$": "$1",
};

/** The pages are tested in each browser that `npm test` has found. */
const pagesIn = ["chromium", "firefox"]
  .filter((browser) => process.env[browser.toUpperCase()] !== undefined)
  .map((browser) => ({
    ...shared,
    displayName: browser,
    globals: { BROWSER: browser },
    testMatch: [
      "<rootDir>/examples/*/tests/**/*.test.ts",
      // The author's own page; players come with any browser.
      ...(browser === "chromium"
        ? ["<rootDir>/packages/reacher-workbench/tests/pages/*.test.ts", "<rootDir>/tests/pages/*.test.ts"]
        : []),
    ],
  }));

/** What only a window system shows is tried in each browser that was found with all that a desk needs. */
const desks = ["chromium", "firefox", "webkit"]
  .filter((browser) => process.env[`DESK_${browser.toUpperCase()}`] !== undefined)
  .map((browser) => ({
    ...shared,
    displayName: `desk ${browser}`,
    globals: { BROWSER: browser, PROGRAM: process.env[`DESK_${browser.toUpperCase()}`] },
    testMatch: ["<rootDir>/tests/desk/*.test.ts"],
  }));

export default {
  // Pages wait for their browsers: one process more than there are cores.
  maxWorkers: Math.min(availableParallelism() + 1, 8),
  // The compiler and the browser take their time on a busy machine.
  testTimeout: 240_000,
  reporters: ["default", "<rootDir>/scripts/browserTable.mjs"],
  projects: [
    {
      ...shared,
      displayName: "library",
      testMatch: ["<rootDir>/packages/reacher/tests/**/*.test.ts"],
      moduleNameMapper,
    },
    {
      ...shared,
      displayName: "workbench",
      testMatch: ["<rootDir>/packages/reacher-workbench/tests/*.test.ts"],
      moduleNameMapper,
    },
    { ...shared, displayName: "command", testMatch: ["<rootDir>/packages/reacher-cli/tests/**/*.test.ts"] },
    { ...shared, displayName: "project", moduleNameMapper, testMatch: ["<rootDir>/tests/*.test.ts"] },
    ...pagesIn,
    ...desks,
  ],
};
