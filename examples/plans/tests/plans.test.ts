/** Each plan's recording in a page, on the code that a production build makes for it: as the rules play it elsewhere. */
import { execFileSync } from "node:child_process";
import { cpSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { buildSync } from "esbuild";
import type { Page } from "playwright-core";
import { eachPage, root } from "../../../tests/support/browser";

type Play = (name: string, entries: readonly object[]) => string[];

const plans = join(root, "examples/plans");
const built = `tmp-plans-${BROWSER}`;
const folder = join(root, "examples", built);
let byRules: Play;
let page: Page;

beforeAll(() => {
  // The plugin writes types beside the plans that it reads.
  cpSync(plans, folder, { recursive: true, filter: (file) => !file.endsWith(".test.ts") });
  const { NODE_ENV: _, ...env } = process.env;
  const vite = join(root, "node_modules/vite/bin/vite.js");
  const config = join(root, "examples/starter/vite.config.js");
  const options = ["--config", config, "--outDir", join(folder, "dist"), "--logLevel", "warn"];
  execFileSync("node", [vite, "build", join(folder, "tests/page"), ...options], { env, stdio: "pipe" });
  const { outputFiles } = buildSync({
    entryPoints: [join(plans, "tests/page/main.ts")],
    bundle: true,
    format: "iife",
    globalName: "game",
    write: false,
  });
  ({ play: byRules } = new Function(`${outputFiles[0]!.text}return game;`)() as { play: Play });
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
eachPage(built, (opened) => (page = opened));

test("no rule is shipped", () => {
  const scripts = readdirSync(join(folder, "dist/assets")).map((file) =>
    readFileSync(join(folder, "dist/assets", file), "utf8"),
  );
  expect(scripts.join()).toContain("this game was built without");
  // What the compiler of plans says.
  expect(scripts.join()).not.toContain("not among the features of this layer");
});

test("each plays its recording in the page, bit by bit", async () => {
  for (const name of ["first-person", "platformer", "shooter", "two-players"]) {
    const lines = readFileSync(join(plans, `${name}.trace.jsonl`), "utf8")
      .trim()
      .split("\n");
    const entries = lines.slice(1).map((line) => JSON.parse(line) as object);
    expect(entries.length).toBeGreaterThan(10);
    const inPage = await page.evaluate(
      ([plan, all]) => (globalThis as unknown as { play: Play }).play(plan, all),
      [name, entries] as const,
    );
    expect(inPage).toEqual(byRules(name, entries));
  }
});
