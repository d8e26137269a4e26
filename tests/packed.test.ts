/** What a stranger installs: both packages, packed, in an empty project outside of this one. */
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync, readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { root } from "./support/compiler";
import { packInto } from "./support/packed";

const folder = mkdtempSync(join(tmpdir(), "reacher-packed-"));
const run = (program: string, ...args: string[]) =>
  execFileSync(program, args, { cwd: folder, encoding: "utf8", stdio: "pipe" });
const files: Record<string, string[]> = {};

beforeAll(() => {
  writeFileSync(join(folder, "package.json"), '{ "name": "a-game", "private": true, "type": "module" }');
  const tarballs = ["reacher", "reacher-cli"].map((name) => {
    const packed = packInto(folder, name);
    files[name] = packed.files;
    return packed.tarball;
  });
  run("npm", "install", "--no-audit", "--no-fund", "--loglevel=error", ...tarballs);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

test("each has its papers, and nothing that only its makers need", () => {
  for (const [name, all] of Object.entries(files)) {
    expect(all).toEqual(expect.arrayContaining(["README.md", "LICENSE", "CHANGELOG.md", "package.json"]));
    expect([name, all.filter((path) => /tsbuildinfo|(^|\/)tests?\/|\.test\./.test(path))]).toEqual([
      name,
      [],
    ]);
  }
  // Whoever follows a name ends in the source.
  for (const path of files["reacher"]!.filter((one) => one.endsWith(".map"))) {
    const installed = join(folder, "node_modules/reacher", path);
    const { sources, sourcesContent } = JSON.parse(readFileSync(installed, "utf8"));
    if (sourcesContent !== undefined) continue;
    for (const source of sources) expect(statSync(join(dirname(installed), source)).isFile()).toBe(true);
  }
});

test("the documents come along, with pictures below 60 kB, and whatever they link to within them is there", () => {
  const all = files["reacher"]!.filter((path) => path.startsWith("docs/"));
  expect(all).toEqual(
    expect.arrayContaining(["docs/guide.md", "docs/how-to/react.md", "docs/api/README.md"]),
  );
  const missing = all
    .filter((path) => path.endsWith(".md"))
    .flatMap((path) =>
      [
        ...readFileSync(join(folder, "node_modules/reacher", path), "utf8").matchAll(
          /\]\(([^)#\s:]+)(?:#[^)]*)?\)/g,
        ),
      ]
        .map(([, link]) => join(dirname(path), link!))
        .filter((link) => !all.some((one) => one === link || one.startsWith(`${link}/`))),
    );
  expect(missing).toEqual([]);
  for (const path of all.filter((one) => one.endsWith(".png")))
    expect(statSync(join(folder, "node_modules/reacher", path)).size).toBeLessThan(60_000);
});

test.each([
  ["reacher-cli", "dist/bundle", ["commander", "echarts", "valibot", "tslib"]],
  ["reacher-cli", "dist/workbench", ["react", "@codemirror/view"]],
  ["reacher", "dist/vite", ["jsonc-parser"]],
])("%s: what is bundled into %s has its licence beside it", (name, place, bundled) => {
  expect(files[name]).toContain(`${place}/LICENSES.md`);
  const text = readFileSync(join(folder, "node_modules", name, place, "LICENSES.md"), "utf8");
  const sections = text.split(/^(?=## )/m).slice(1);
  const names = sections.map((section) => /^## (\S+) /.exec(section)?.[1]);
  expect(names).toEqual(expect.arrayContaining(bundled));
  expect(new Set(names).size).toBe(names.length);
  for (const section of sections) expect(section).toMatch(/permission|permitted|apache license/i);
});

test("the command comes with little, and runs", () => {
  const bytes = (path: string): number => {
    const stats = statSync(path);
    return stats.isDirectory()
      ? readdirSync(path).reduce((sum, one) => sum + bytes(join(path, one)), 0)
      : stats.size;
  };
  expect(bytes(join(folder, "node_modules"))).toBeLessThan(24e6);
  const plan = (actions: object) => JSON.stringify({ reacherPlan: 1, actions });
  writeFileSync(join(folder, "game.plan.json"), plan({ hop: { kind: "switch", from: { main: "Space" } } }));
  expect(run("npx", "reacher", "check", "game.plan.json")).toContain("no errors");
  // Made code, and what of the library it needs.
  run("npx", "reacher", "build", "game.plan.json", "-o", "plan.mjs", "--calls", "none");
  expect(readFileSync(join(folder, "plan.mjs"), "utf8")).toContain("madePlan(");
  writeFileSync(
    join(folder, "play.mjs"),
    `import plan from "./plan.mjs";
import { createInputLayer } from "reacher";
const input = createInputLayer(plan);
input.feed({ t: 1, control: "Space", value: 1 });
console.log(input.step(2).hop.on, input.step(3).hop.onMs);`,
  );
  for (const conditions of [["--conditions=reacher-built"], []])
    expect(run("node", ...conditions, "play.mjs")).toBe("true 2\n");
  writeFileSync(
    join(folder, "stick.plan.json"),
    plan({ go: { kind: "vector", from: { pad: "PadLeftStick" } } }),
  );
  run("npx", "reacher", "draw", "stick.plan.json", "-o", "curve.png");
  expect(statSync(join(folder, "curve.png")).size).toBeGreaterThan(10_000);
});

test("what is not installed with it says how to install it", () => {
  const program = `import { fileStore } from "reacher/stores/file";
await fileStore("kept").change("mine", () => "x").catch((error) => console.log(error.message));`;
  writeFileSync(join(folder, "store.mjs"), program);
  // The command has brought it: a project without the command has not.
  rmSync(join(folder, "node_modules/write-file-atomic"), { recursive: true });
  const needs = "reacher/stores/file needs the package write-file-atomic: npm install write-file-atomic";
  expect(run("node", "store.mjs")).toContain(needs);
});

/** The oldest compiler whose users are served; docs and README name it. */
const OLDEST_COMPILER = "5.4";

test("typed for the oldest compiler that the README names, all entries, with nothing skipped", () => {
  expect(readFileSync(join(root, "packages/reacher/README.md"), "utf8")).toContain(
    `TypeScript ${OLDEST_COMPILER} or newer`,
  );
  const { exports } = JSON.parse(readFileSync(join(root, "packages/reacher/package.json"), "utf8"));
  const entries = Object.keys(exports).filter((path) => !path.endsWith(".json"));
  const imports = entries.map((path, n) => `import * as e${n} from "reacher${path.slice(1)}";`);
  writeFileSync(
    join(folder, "all.ts"),
    `${imports.join("\n")}\nexport default [${entries.map((_, n) => `e${n}`).join()}];\n`,
  );
  run(
    "npm",
    "install",
    "--no-audit",
    "--no-fund",
    "--loglevel=error",
    "--no-save",
    `typescript@${OLDEST_COMPILER}`,
    // What the settings screen is made with.
    `lit@${JSON.parse(readFileSync(join(root, "packages/reacher/package.json"), "utf8")).devDependencies.lit}`,
  );
  expectTyped("node_modules/typescript/bin/tsc", "all.ts", "--skipLibCheck", "false");
});

/** Compiles a file in the project by either way of resolving, and has no complaint. */
function expectTyped(compiler: string, file: string, ...more: string[]): void {
  // What the compiler itself brings is its maker's.
  const libs = ["--lib", "ES2022,DOM", "--skipDefaultLibCheck"];
  const options = ["--noEmit", "--strict", "--target", "ES2022", ...libs, ...more];
  for (const [module, resolution] of [
    ["ESNext", "Bundler"],
    ["NodeNext", "NodeNext"],
  ] as const) {
    const resolving = ["--module", module, "--moduleResolution", resolution];
    const { stdout } = spawnSync("node", [compiler, ...options, ...resolving, file], {
      cwd: folder,
      encoding: "utf8",
    });
    expect([module, stdout]).toEqual([module, ""]);
  }
}

test("imported, required, and typed by both ways of resolving, with nothing skipped", () => {
  const game = `import { createInputLayer, definePlan } from "reacher";
import { attachBrowser } from "reacher/browser";
import schema from "reacher/plan.schema.json" with { type: "json" };
const plan = definePlan({ reacherPlan: 1, actions: { hop: { kind: "switch", from: { main: "Space" } } } });
const input = createInputLayer(plan);
input.feed({ t: 1, control: "Space", value: 1 });
if (!input.step(2).hop.on || !schema.$id) throw new Error("it does not work");
try {
  attachBrowser(input);
} catch (error) {
  if (!/outside a page/.test(String(error))) throw error;
}
`;
  writeFileSync(join(folder, "game.ts"), game);
  writeFileSync(join(folder, "game.mjs"), game);
  run("node", "game.mjs");
  run("node", "--eval", "require('reacher').createInputLayer({ reacherPlan: 1, actions: {} })");
  expectTyped(join(root, "node_modules/typescript/bin/tsc"), "game.ts", "--resolveJsonModule");
});
