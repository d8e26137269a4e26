/** What a stranger does: both packages as they are packed, in a folder outside of this project, and the documents followed word for word. */
import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { chromium, type Browser } from "playwright-core";
import ts from "typescript";
import { root } from "../support/browser";
import { packInto } from "../support/packed";
import { endVite, openByVite } from "../support/vite";

const folder = mkdtempSync(join(tmpdir(), "reacher-stranger-"));
const run = (program: string, ...args: string[]) =>
  execFileSync(program, args, { cwd: folder, encoding: "utf8", stdio: "pipe" });
const versions: Record<string, string> = {
  ...JSON.parse(readFileSync(join(root, "package.json"), "utf8")).devDependencies,
  ...JSON.parse(readFileSync(join(root, "examples/kelpline/package.json"), "utf8")).dependencies,
  ...JSON.parse(readFileSync(join(root, "examples/kelpline/package.json"), "utf8")).devDependencies,
};
const blocksOf = (page: string, language: string) =>
  [
    ...readFileSync(join(root, "docs", page), "utf8").matchAll(
      new RegExp(`^\`\`\`${language}\\n([\\s\\S]*?)^\`\`\`$`, "gm"),
    ),
  ].map(([, code]) => code!);

let browser: Browser;

beforeAll(async () => {
  writeFileSync(join(folder, "package.json"), '{ "name": "a-game", "private": true, "type": "module" }');
  const packed = (name: string) => packInto(folder, name).tarball;
  // As the guide says it, but for where the two packages come from.
  const [first] = blocksOf("guide.md", "text");
  expect(first).toBe("npm install reacher\nnpm install --save-dev reacher-cli vite\n");
  const others = ["vite", "react", "react-dom", "@vitejs/plugin-react"].map(
    (name) => `${name}@${versions[name]}`,
  );
  run(
    "npm",
    "install",
    "--no-audit",
    "--no-fund",
    "--loglevel=error",
    packed("reacher"),
    packed("reacher-cli"),
    ...others,
  );
  browser = await chromium.launch({
    executablePath: process.env["CHROMIUM"]!,
    args: ["--no-sandbox", "--disable-gpu"],
  });
}, 240_000);
afterAll(async () => {
  await browser.close();
  await endVite();
  rmSync(folder, { recursive: true, force: true });
});

const open = (path: string) => openByVite(browser, folder, join(folder, path));

test("the guide, followed word for word, ends in a page that plays", async () => {
  const scripts = blocksOf("guide.md", "ts");
  const game = scripts.find((code) => code.includes("document."))!;
  scripts
    .filter((code) => code !== game)
    .forEach((code, n) => {
      const compilerOptions = { target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ESNext };
      writeFileSync(join(folder, `step${n}.mjs`), ts.transpileModule(code, { compilerOptions }).outputText);
      run("node", `step${n}.mjs`);
    });
  expect(scripts.length).toBe(7);
  writeFileSync(join(folder, "index.html"), blocksOf("guide.md", "html")[0]!);
  writeFileSync(join(folder, "main.ts"), game);
  const [, config, start] = blocksOf("guide.md", "text");
  expect(start).toBe("npx vite\n");
  writeFileSync(join(folder, "vite.config.js"), config!);
  const { page, faults } = await open(".");
  /** How far right the diver is, in pixels. */
  const place = () =>
    page.evaluate(() => {
      const canvas = document.querySelector("canvas")!;
      const { data } = canvas.getContext("2d")!.getImageData(0, 200, 600, 1);
      return Array.from({ length: 600 }, (_, n) => n).find((n) => data[n * 4 + 3]! > 0) ?? -1;
    });
  await page.waitForFunction(
    "document.querySelector('canvas').getContext('2d').getImageData(300, 200, 1, 1).data[3] > 0",
  );
  const before = await place();
  expect(before).toBe(290);
  await page.keyboard.down("KeyD");
  await page.waitForTimeout(300);
  await page.keyboard.up("KeyD");
  await page.waitForTimeout(100);
  const after = await place();
  expect(after).toBeGreaterThan(before + 15);
  await page.waitForTimeout(200);
  // It stops where the key came up.
  expect(await place()).toBe(after);
  expect(faults).toEqual([]);
  // The steps before call what this game does not.
  scripts.forEach((_, n) => rmSync(join(folder, `step${n}.mjs`), { force: true }));
  // As players get it: code made for the plan, and nothing of the reading of plans.
  const env: NodeJS.ProcessEnv = { ...process.env };
  delete env["NODE_ENV"];
  execFileSync("npx", ["vite", "build", "--logLevel", "error"], { cwd: folder, stdio: "pipe", env });
  const assets = join(folder, "dist/assets");
  const code = readdirSync(assets).map((name) => readFileSync(join(assets, name)));
  expect(gzipSync(Buffer.concat(code)).length).toBeLessThan(27_500);
}, 120_000);

test("React's page in strict mode: nothing is heard twice, and a production build is made", async () => {
  mkdirSync(join(folder, "react"));
  const write = (name: string, text: string) => writeFileSync(join(folder, "react", name), text);
  write("package.json", '{ "type": "module" }');
  write("Game.tsx", blocksOf("how-to/react.md", "tsx")[0]!);
  write(
    "index.html",
    '<title>react</title><div id="root"></div><script type="module" src="/main.tsx"></script>',
  );
  write(
    "main.tsx",
    `import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Game } from "./Game";
createRoot(document.getElementById("root")!).render(<StrictMode><Game /></StrictMode>);
`,
  );
  write(
    "vite.config.js",
    `import react from "@vitejs/plugin-react";\nexport default { plugins: [react()], cacheDir: ".cache" };\n`,
  );
  const { page, faults } = await open("react");
  const diver = page.locator("#diver");
  await diver.waitFor();
  const lit = () => diver.getAttribute("data-lit");
  for (const wanted of ["true", "false", "true"]) {
    await page.keyboard.press("KeyF", { delay: 40 });
    await page.waitForFunction(`document.querySelector("#diver").dataset.lit === "${wanted}"`);
    expect(await lit()).toBe(wanted);
  }
  await page.keyboard.down("KeyD");
  await page.waitForFunction(
    "new DOMMatrix(getComputedStyle(document.querySelector('#diver')).transform).m41 > 20",
  );
  await page.keyboard.up("KeyD");
  expect(faults).toEqual([]);
  run("npx", "vite", "build", "react", "--logLevel", "error");
}, 120_000);
