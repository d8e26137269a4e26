/** What the packages are tried with: the packages of each, its files, and how it plays. */
import assert from "node:assert";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "../ensure.mjs";

const PLAN = readFileSync(join(root, "examples/plans/platformer.plan.json"), "utf8");
const TRACE = readFileSync(join(root, "examples/plans/platformer.trace.jsonl"), "utf8");

/** A game that reads its plan as it runs. */
const READING = `import { readFileSync } from "node:fs";
import { createInputLayer, parsePlan } from "reacher";
import { parseTrace, replay } from "reacher/trace";
import { fileStore } from "reacher/stores/file";
const plan = parsePlan(JSON.parse(readFileSync("game.plan.json", "utf8")));
const input = createInputLayer(plan);
input.feed({ t: 10, control: "KeyD", value: 1 });
const rows = replay(plan, parseTrace(readFileSync("game.trace.jsonl", "utf8")).entries);
const store = fileStore("kept");
await store.change("amber", () => "{}");
console.log("walks", input.step(2000).walk.value, "rows", rows.length, "kept", ...(await store.names()));
`;
const PLAYED = /^walks 1 rows \d{2,} kept amber$/m;

/** A game that a bundler makes small. */
const BUNDLED = `import plan from "./plan.js";
import { createInputLayer } from "reacher";
const input = createInputLayer(plan);
input.feed({ t: 10, control: "KeyD", value: 1 });
console.log("walks", input.step(2000).walk.value);
`;
const data = { "game.plan.json": PLAN, "game.trace.jsonl": TRACE };

/** Builds the plan ahead, has it bundled, and looks whether the result plays and has no rules in it. */
const bundles =
  (...command) =>
  (run, place) => {
    run("reacher", "build", "game.plan.json", "-o", "src/plan.js", "--calls", "none");
    run(...command);
    plays(run, place, "dist");
  };
function plays(run, place, folder) {
  const scripts = readdirSync(join(place, folder)).filter((name) => /\.m?js$/.test(name));
  const main = scripts.length === 1 ? scripts[0] : scripts.find((name) => /main|index/.test(name));
  assert.match(run("node", join(folder, main)), /^walks 1$/m);
  for (const name of scripts)
    assert(
      !readFileSync(join(place, folder, name), "utf8").includes("not among the features"),
      "the rules are in it",
    );
}

const TEST = `import { createInputLayer, definePlan } from "reacher";
import { play } from "reacher/testing";
import { matchers } from "reacher/matchers";
`;
const USED = `
const input = createInputLayer(definePlan({ reacherPlan: 1, actions: { jump: { kind: "switch", from: { main: "Space" } } } }));
`;
const CHECKED = `${USED}
test("jumps", () => {
  const hands = play(input);
  expect(hands.press("Space").wait(20).now.jump).toBeOn();
  expect(() => expect(hands.now.jump).not.toBeOn()).toThrow("expected the switch");
});
`;
const IN_PAGE = `
import { attachBrowser } from "reacher/browser";
test("hears a page", () => {
  const detach = attachBrowser(input);
  window.dispatchEvent(new KeyboardEvent("keydown", { code: "Space", bubbles: true }));
  expect(input.step(performance.now() + 1).jump).toBeOn();
  detach();
});
`;

/** The nth block of a page of the documents, of this language. */
function blockOf(page, heading, language) {
  const text = readFileSync(join(root, "docs", page), "utf8");
  const part = text.slice(text.indexOf(`\n## ${heading}\n`));
  return new RegExp(`\`\`\`${language}\n([^]*?)\`\`\``).exec(part)[1];
}
const FRAMES = `globalThis.requestAnimationFrame = (next) => setTimeout(() => next(performance.now()), 5);
globalThis.cancelAnimationFrame = clearTimeout;
const turn = () => new Promise((done) => setTimeout(done, 30));
`;

const nodes = ["20.19", "22", "24", "latest"].map((version) => [
  `node-${process.platform === "win32" ? "win" : process.platform}-${process.arch}@${version}`,
]);
const typed = { "all.ts": typesOfAll() };
function typesOfAll() {
  const { exports } = JSON.parse(readFileSync(join(root, "packages/reacher/package.json"), "utf8"));
  const entries = Object.keys(exports).filter((path) => !/\.json$|internal|react|settings/.test(path));
  return entries.map((path, n) => `export * as e${n} from "reacher${path.slice(1)}";`).join("\n");
}

export const TOOLS = [
  {
    name: "Node",
    does: "a plan is read and played, a recording replayed, changes kept in a file; the command checks a plan",
    with: nodes,
    files: { ...data, "game.js": READING },
    play: (run, place) => {
      const packages = join(place, "node_modules");
      const node = join(
        packages,
        readdirSync(packages).find((name) => name.startsWith("node-")),
        "bin/node",
      );
      assert.match(run(node, "game.js"), PLAYED);
      assert.match(
        run(node, join(packages, "reacher-cli/bin/reacher.cjs"), "check", "game.plan.json"),
        /no errors/,
      );
    },
  },
  ...["deno", "bun"].map((name) => ({
    name: name[0].toUpperCase() + name.slice(1),
    does: "a plan is read and played, a recording replayed, changes kept in a file",
    with: [[`${name}@latest`]],
    files: { ...data, "game.js": READING },
    play: (run) =>
      assert.match(run(name, "run", ...(name === "deno" ? ["--allow-all"] : []), "game.js"), PLAYED),
  })),
  {
    name: "TypeScript",
    does: "all entries, `moduleResolution` Bundler and NodeNext",
    with: ["5.4", "5.9", "latest"].map((version) => [
      `typescript@${version}`,
      "@types/node@20",
      "vite@8",
      "@types/jest@30",
    ]),
    files: typed,
    play: (run) => {
      for (const [module, resolution] of [
        ["ESNext", "Bundler"],
        ["NodeNext", "NodeNext"],
      ])
        run(
          "tsc",
          "--noEmit",
          "--strict",
          "--target",
          "ES2022",
          "--lib",
          "ES2022,DOM",
          "--types",
          "node",
          "--skipLibCheck",
          "true",
          "--module",
          module,
          "--moduleResolution",
          resolution,
          "all.ts",
        );
    },
  },
  {
    name: "Vite",
    does: "a production build by the plugin: code made for the plan",
    with: ["5", "6", "7", "8"].map((version) => [`vite@${version}`]),
    files: {
      ...data,
      "index.html": '<script type="module" src="/main.js"></script>',
      "main.js": BUNDLED.replace("./plan.js", "./game.plan.json"),
      "vite.config.js": `import { reacher } from "reacher/vite";
export default { plugins: [reacher({ types: false })], build: { modulePreload: false } };
`,
    },
    play: (run, place) => {
      run("vite", "build");
      plays(run, place, "dist/assets");
    },
  },
  {
    name: "esbuild",
    does: "a plan built ahead, with the condition `reacher-built`",
    with: [["esbuild@latest"]],
    files: { ...data, "src/main.js": BUNDLED },
    play: bundles(
      "esbuild",
      "src/main.js",
      "--bundle",
      "--minify",
      "--format=esm",
      "--conditions=reacher-built",
      "--outdir=dist",
    ),
  },
  ...[
    ["webpack", ["webpack@5", "webpack-cli@latest"], "webpack"],
    ["Rspack", ["@rspack/core@1", "@rspack/cli@1"], "rspack"],
  ].map(([name, packages, program]) => ({
    name,
    does: "a plan built ahead, with the condition `reacher-built`",
    with: [packages],
    files: {
      ...data,
      "src/main.js": BUNDLED,
      [`${program}.config.js`]: `export default { mode: "production", entry: "./src/main.js", resolve: { conditionNames: ["reacher-built", "..."] } };`,
    },
    play: bundles(program, "build"),
  })),
  {
    name: "Rollup",
    does: "a plan built ahead, with the condition `reacher-built`",
    with: [["rollup@4", "@rollup/plugin-node-resolve@latest"]],
    files: {
      ...data,
      "src/main.js": BUNDLED,
      "rollup.config.js": `import { nodeResolve } from "@rollup/plugin-node-resolve";
export default { input: "src/main.js", output: { dir: "dist" }, plugins: [nodeResolve({ browser: true, exportConditions: ["reacher-built"] })] };`,
    },
    play: bundles("rollup", "-c"),
  },
  {
    name: "Jest, ES modules",
    does: "`play` and matchers",
    with: [["jest@30"]],
    files: {
      "game.test.js": `import { expect, test } from "@jest/globals";\n${TEST}expect.extend(matchers);${CHECKED}`,
    },
    play: (run) => run("node", "--experimental-vm-modules", "node_modules/jest/bin/jest.js"),
  },
  {
    name: "Jest, CommonJS",
    does: "`play` and matchers, with `@swc/jest`",
    with: [["jest@30", "@swc/jest@latest", "@swc/core@latest"]],
    files: {
      "package.json": '{ "private": true }',
      "jest.config.js": `module.exports = {
  transform: { "\\\\.js$": ["@swc/jest", { module: { type: "commonjs" } }] },
  transformIgnorePatterns: ["/node_modules/(?!(reacher|valibot)/)"],
};`,
      "game.test.js": `${TEST}expect.extend(matchers);${CHECKED}`,
    },
    play: (run) => run("jest"),
  },
  ...[
    ["Vitest", [], ""],
    ["Vitest, jsdom", ["jsdom@26"], IN_PAGE],
    ["Vitest, happy-dom", ["happy-dom@latest"], IN_PAGE],
  ].map(([name, packages, more]) => ({
    name,
    does: more === "" ? "`play` and matchers" : "the same, and `attachBrowser`",
    with: [["vitest@4", ...packages]],
    files: {
      "game.test.js": `import { expect, test } from "vitest";\n${TEST}expect.extend(matchers);${CHECKED}${more}`,
    },
    play: (run) =>
      run("vitest", "run", ...(packages.length > 0 ? ["--environment", packages[0].split("@")[0]] : [])),
  })),
  {
    name: "React, rendered on a server",
    does: "`useReading` and `useOverrides` give their values",
    with: ["18", "19"].map((version) => [`react@${version}`, `react-dom@${version}`]),
    files: {
      "game.js": `import { createElement } from "react";
import { renderToString } from "react-dom/server";
import { useOverrides, useReading } from "reacher/react";
import { createInputLayer, definePlan } from "reacher";${USED}
const Hud = () => {
  const [overrides] = useOverrides(input);
  return createElement("p", null, String(useReading(input, "jump", (jump) => jump.on)), String(overrides));
};
console.log(renderToString(createElement(Hud)).replace("<!-- -->", " "));
`,
    },
    play: (run) => assert.match(run("node", "game.js"), /<p>false null<\/p>/),
  },
  {
    name: "Vue",
    does: "the recipe: a component shows what a reading says",
    with: [["vue@3", "happy-dom@latest"]],
    files: {
      "useReading.js": blockOf("how-to/react.md", "Vue", "text"),
      "game.js": `import { Window } from "happy-dom";
const window = new Window();
for (const name of ["document", "Element", "SVGElement", "Node", "HTMLElement"]) globalThis[name] = window[name];
globalThis.window = window;
${FRAMES}const { createApp, h } = await import("vue");
const { useReading } = await import("./useReading.js");
const { createInputLayer, definePlan } = await import("reacher");${USED}
const place = document.createElement("div");
const app = createApp({ setup: () => { const on = useReading(input, "jump", (jump) => jump.on); return () => h("p", String(on.value)); } });
app.mount(place);
const before = place.textContent;
input.feed({ t: 10, control: "Space", value: 1 });
input.step(16);
await turn();
console.log(before, place.textContent);
app.unmount();
process.exit();
`,
    },
    play: (run) => assert.match(run("node", "game.js"), /^false true$/m),
  },
  {
    name: "Svelte",
    does: "the recipe: a store says what a reading says",
    with: [["svelte@5"]],
    files: {
      "reading.js": blockOf("how-to/react.md", "Svelte", "text"),
      "game.js": `${FRAMES}import { reading } from "./reading.js";
import { createInputLayer, definePlan } from "reacher";${USED}
const seen = [];
const end = reading(input, "jump", (jump) => jump.on).subscribe((on) => seen.push(on));
input.feed({ t: 10, control: "Space", value: 1 });
input.step(16);
await turn();
end();
console.log(seen.join(" "));
`,
    },
    play: (run) => assert.match(run("node", "game.js"), /^false true$/m),
  },
];

/** What the tests of the project do at each change. */
export const TRIED_BY_TESTS = [
  ["TypeScript", "5.4, 6.0", "all entries, with the library's own types checked as well"],
  ["Vite", "5, 8", "serving, reload, a production build, players' keys that come later, in Chromium"],
  ["esbuild", "", "one file; a plan built ahead"],
  ["no bundler", "", "`reacher.browser.js` in a page"],
  ["React", "19", "the guide's game and hooks, in strict mode, in Chromium"],
  ["a worker", "", "module workers in Chromium"],
  ["`node:test`", "", "a created game's own test"],
  ["Windows", "", "paths of both kinds in the plugin, on Linux"],
];
