/** `npm create reacher` as a stranger meets it: from tarballs, in an empty folder. */
import { execFileSync, spawnSync } from "node:child_process";
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Browser, type Page } from "playwright-core";
import { packInto } from "../support/packed";
import { endVite, openByVite } from "../support/vite";

const folder = mkdtempSync(join(tmpdir(), "reacher-created-"));
/** As in a stranger's terminal: what runs these tests says otherwise that everything is a test. */
const env: NodeJS.ProcessEnv = { ...process.env, NO_COLOR: "1" };
delete env["NODE_ENV"];
const run = (cwd: string, program: string, ...args: string[]) =>
  execFileSync(program, args, { cwd: join(folder, cwd), encoding: "utf8", stdio: "pipe", env });
let browser: Browser;
let tarballs: Record<string, string>;

beforeAll(async () => {
  writeFileSync(join(folder, "package.json"), '{ "private": true }');
  tarballs = Object.fromEntries(
    ["reacher", "reacher-cli", "create-reacher"].map((name) => [name, packInto(folder, name).tarball]),
  );
  run(".", "npm", "install", "--no-audit", "--no-fund", "--loglevel=error", tarballs["create-reacher"]!);
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

/** Makes a game, installs it with these packages in place of the registry's, tests and builds it. */
function create(name: string, ...options: string[]): void {
  run(".", "npx", "create-reacher", name, ...options);
  const file = join(folder, name, "package.json");
  const made = JSON.parse(readFileSync(file, "utf8"));
  expect(made.name).toBe(name);
  made.dependencies.reacher = `file:${tarballs["reacher"]}`;
  made.devDependencies["reacher-cli"] = `file:${tarballs["reacher-cli"]}`;
  writeFileSync(file, JSON.stringify(made));
  // What another game of these brought is not fetched again.
  const other = join(folder, "my-game/node_modules");
  if (existsSync(other))
    cpSync(other, join(folder, name, "node_modules"), { recursive: true, verbatimSymlinks: true });
  run(name, "npm", "install", "--no-audit", "--no-fund", "--loglevel=error");
  expect(run(name, "npm", "test")).toMatch(/# pass 2|ℹ pass 2/);
  run(
    name,
    "npx",
    "reacher",
    "replay",
    "src/game.plan.json",
    "tests/first-run.trace.jsonl",
    "--expect",
    "tests/first-run.rows.jsonl",
  );
  run(name, "npm", "run", "build");
}

const open = (name: string, ...args: string[]) =>
  openByVite(browser, join(folder, name), join(folder, name), args, env);

/** How far to the right the diver is drawn, in pixels. */
const PLACE = `(() => {
  const canvas = document.querySelector("canvas");
  const { data, width } = canvas.getContext("2d").getImageData(0, Math.round(canvas.height * 0.75) - 4, canvas.width, 1);
  for (let x = 0; x < width; x++) if (data[x * 4 + 3] > 0) return x;
  return -1;
})()`;
async function walks(page: Page, key: string): Promise<void> {
  await page.waitForFunction(`${PLACE} >= 0`);
  const from = (await page.evaluate(PLACE)) as number;
  await page.keyboard.down(key);
  await page.waitForFunction(`${PLACE} > ${from + 30}`);
  await page.keyboard.up(key);
}

test("a game is created, tested, built, served and played; players' keys are kept; a folder with something in it stays", async () => {
  create("my-game");
  expect(readdirSync(join(folder, "my-game"))).toEqual(
    expect.arrayContaining([".gitignore", ".github", "src", "tests"]),
  );
  const refused = spawnSync("npx", ["create-reacher", "my-game"], { cwd: folder, encoding: "utf8" });
  expect([refused.status, refused.stderr]).toEqual([
    2,
    expect.stringContaining("is not empty, and nothing in it was changed"),
  ]);
  const serving = await open("my-game");
  await walks(serving.page, "KeyD");
  expect(serving.faults).toEqual([]);
  await serving.page.close();

  // As players get it: what players' keys need is loaded with the settings.
  const names = readdirSync(join(folder, "my-game/dist/assets"));
  expect(names.map((name) => name.split("-")[0])).toEqual(expect.arrayContaining(["keys", "settings"]));
  const { page, faults } = await open("my-game", "preview");
  await walks(page, "KeyD");
  await page.keyboard.press("Escape", { delay: 60 });
  await page.locator('[data-address="walk.keys.plus"]').click();
  await page.waitForTimeout(200);
  await page.keyboard.press("KeyL", { delay: 60 });
  await page.waitForFunction(
    "document.querySelector('reacher-settings').overrides.controls['walk.keys.plus'] === 'KeyL'",
  );
  await page.getByRole("button", { name: "Done" }).click();
  await walks(page, "KeyL");
  await page.reload();
  await walks(page, "KeyL");
  expect(faults).toEqual([]);
  await page.close();
}, 240_000);

test("the same with React", async () => {
  create("with-react", "--react");
  expect(existsSync(join(folder, "with-react/src/main.tsx"))).toBe(true);
  const { page, faults } = await open("with-react");
  await walks(page, "KeyD");
  await page.keyboard.down("ShiftLeft");
  await page.getByText("running").waitFor();
  await page.keyboard.up("ShiftLeft");
  await page.getByRole("button", { name: "Keys and settings" }).click();
  await page.locator('[data-address="jump.keys"]').waitFor();
  expect(faults).toEqual([]);
  await page.close();
}, 240_000);
