/** The Vite plugin in a real server and browser: a plan is edited while a key is held, and built; players' keys come later. */
import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { chromium, type Browser, type Page } from "playwright-core";
import { root } from "../support/browser";

/** Within the workspace, so that a game finds the library as any game does. */
const folder = mkdtempSync(join(root, "examples", "tmp-vite-"));
const file = join(folder, "reef.plan.json");
const PLAN = `{
  "reacherPlan": 1,
  "name": "reef",
  "actions": {
    "swim": { "kind": "axis", "from": { "main": { "minus": "KeyA", "plus": "KeyD" } }, "pace": { "base": 2 } },
    "kick": { "kind": "switch", "style": "toggle", "from": { "main": "KeyK" } }
  }
}
`;
let server: ChildProcess;
let browser: Browser;
let page: Page;
let told = "";

beforeAll(async () => {
  writeFileSync(file, PLAN);
  writeFileSync(
    join(folder, "index.html"),
    '<title>reef</title><script type="module" src="/main.ts"></script>',
  );
  writeFileSync(
    join(folder, "main.ts"),
    `import plan from "./reef.plan.json";
import { createInputLayer } from "reacher";
import { attachBrowser } from "reacher/browser";
const input = createInputLayer(plan);
attachBrowser(input);
if (import.meta.env.DEV) void import("reacher/panel").then(({ showPanel }) => showPanel(input));
requestAnimationFrame(function frame() {
  requestAnimationFrame(frame);
  const { swim, kick } = input.step(performance.now());
  Object.assign(window, { reading: { v: swim.v, kick: kick.on, loads: performance.timeOrigin } });
});
`,
  );
  writeFileSync(
    join(folder, "vite.config.js"),
    `import { reacher } from "reacher/vite";
const calls = { serve: ["setOverrides", "bringKeys"] };
export default ({ command }) => ({
  plugins: [reacher({ calls: calls[command] })], server: { host: "127.0.0.1" }, clearScreen: false, cacheDir: ".cache",
});
`,
  );
  server = spawn("node", [join(root, "node_modules/vite/bin/vite.js"), "--port", "0"], {
    cwd: folder,
    env: { ...process.env, NODE_ENV: undefined, NO_COLOR: "1" },
  });
  const address = await new Promise<string>((done) => {
    const hear = (data: Buffer) => {
      told += String(data);
      const [found] = /http:\/\/127\.0\.0\.1:\d+/.exec(told) ?? [];
      if (found !== undefined) done(found);
    };
    server.stdout!.on("data", hear);
    server.stderr!.on("data", hear);
  });
  browser = await chromium.launch({
    executablePath: process.env["CHROMIUM"]!,
    args: ["--no-sandbox", "--disable-gpu"],
  });
  page = await browser.newPage();
  await page.goto(address);
});
afterAll(async () => {
  await browser.close();
  server.kill();
  await new Promise((done) => server.on("exit", done));
  rmSync(folder, { recursive: true, force: true });
});

interface Reading {
  readonly v: number;
  readonly kick: boolean;
  readonly loads: number;
}
async function until(is: (reading: Reading) => boolean): Promise<Reading> {
  const found = await page.waitForFunction(
    `((is) => window.reading && is(window.reading) && window.reading)(${is})`,
  );
  return (await found.jsonValue()) as Reading;
}

test("an edited plan plays on with what is held; a broken one leaves the last good one; a mended one plays", async () => {
  const { loads } = await until(({ v }) => v === 0);
  await page.keyboard.press("KeyK");
  await page.keyboard.down("KeyD");
  await until(({ v, kick }) => v === 2 && kick);
  // What the build will lack is there for the panel.
  await page.waitForFunction(
    '/kick ?on/.test(document.querySelector("reacher-panel")?.shadowRoot.textContent)',
  );

  writeFileSync(file, PLAN.replace('"base": 2', '"base": 5'));
  // The key is still down, the toggle still on, and the page the same.
  expect(await until(({ v }) => v === 5)).toEqual({ v: 5, kick: true, loads });

  writeFileSync(file, PLAN.replace("KeyK", "LeftShift"));
  const overlay = page.locator("vite-error-overlay");
  await overlay.waitFor();
  const words = await overlay.locator(".message-body").innerText();
  expect(words).toContain('actions.kick.from.main: "LeftShift" is no control; did you mean ShiftLeft?');
  expect(await overlay.locator(".file").innerText()).toContain("reef.plan.json:6:");
  expect(told).toContain('"LeftShift" is no control');
  expect(await until(({ v }) => v === 5)).toEqual({ v: 5, kick: true, loads });

  writeFileSync(file, PLAN.replace('"base": 2', '"base": 7'));
  expect(await until(({ v }) => v === 7)).toEqual({ v: 7, kick: true, loads });
  expect(await overlay.count()).toBe(0);
  await page.keyboard.up("KeyD");
  await until(({ v }) => v === 0);
});

test("a plan that is known only when the game runs is refused while serving, with its place", async () => {
  writeFileSync(
    join(folder, "own.ts"),
    'import { parsePlan } from "reacher";\nexport const own = parsePlan(location.hash);\n',
  );
  const answer = await fetch(new URL("own.ts", page.url()));
  expect([answer.status, await answer.text()]).toEqual([
    500,
    expect.stringContaining("calls parsePlan, and in a game that is built ahead no plan is read"),
  ]);
  expect(told).toMatch(/own\.ts:2:\d+/);
});

test("its types stand beside it, and are written only when they change", async () => {
  const types = file.replace(/\.json$/, ".d.json.ts");
  const before = readFileSync(types, "utf8");
  expect(before).toContain('readonly kick: "switch";');
  expect(before).toContain("export default plan;");
  // As some editors save: emptied first, and written a moment later.
  writeFileSync(file, "");
  await page.waitForTimeout(40);
  writeFileSync(file, PLAN.replace('"kick"', '"dash"'));
  const begun = Date.now();
  while (!readFileSync(types, "utf8").includes("dash") && Date.now() - begun < 20_000)
    await page.waitForTimeout(50);
  expect(readFileSync(types, "utf8")).toContain('readonly dash: "switch";');
});

/** Serves a built folder and opens it. `missing`: files that are not there. */
async function siteOf(out: string, missing: { now?: RegExp } = {}) {
  const site = createServer((request, answer) => {
    const path = join(folder, out, request.url === "/" ? "index.html" : request.url!);
    const isThere = existsSync(path) && missing.now?.test(path) !== true;
    answer.setHeader("Content-Type", path.endsWith(".js") ? "text/javascript" : "text/html");
    answer.writeHead(isThere ? 200 : 404);
    answer.end(isThere ? readFileSync(path) : "");
  }).listen(0, "127.0.0.1");
  await new Promise((done) => site.once("listening", done));
  await page.goto(`http://127.0.0.1:${(site.address() as AddressInfo).port}/`);
  return site;
}

const vite = (...args: string[]) =>
  spawnSync("node", [join(root, "node_modules/vite/bin/vite.js"), "build", "--logLevel", "error", ...args], {
    cwd: folder,
    encoding: "utf8",
    env: { ...process.env, NODE_ENV: undefined, NO_COLOR: "1" },
  });

test("a production build is checked ahead, ships no reading of plans, and plays; a plan of its own in it is refused", async () => {
  writeFileSync(file, PLAN);
  expect(vite("--outDir", "out").stderr).toBe("");
  const assets = join(folder, "out/assets");
  const [script] = readdirSync(assets).filter((name) => name.endsWith(".js"));
  const code = readFileSync(join(assets, script!), "utf8");
  // What the schema says of a field that is none, the reading of plans and the rules themselves stay at home.
  expect([code.includes("is no field here"), code.length < 65_000]).toEqual([false, true]);

  const site = await siteOf("out");
  await until(({ v }) => v === 0);
  await page.keyboard.down("KeyD");
  expect(await until(({ v }) => v === 2)).toMatchObject({ v: 2, kick: false });
  await page.keyboard.up("KeyD");
  site.close();

  const main = join(folder, "main.ts");
  const own = `import { definePlan } from "reacher";\nexport const plan = definePlan(JSON.parse('{}'));\n`;
  writeFileSync(main, own + readFileSync(main, "utf8"));
  const { status, stderr } = vite("--outDir", "out2");
  expect([status, stderr]).toEqual([
    1,
    expect.stringContaining("calls definePlan, and in a game that is built ahead no plan is read"),
  ]);
  expect(stderr).toContain("main.ts:2");
}, 120_000);

test("players' keys are a part that comes while the game plays; where it does not come, the game plays on", async () => {
  writeFileSync(file, PLAN.replace('"toggle",', '"toggle", "player": { "style": ["hold", "toggle"] },'));
  const main = join(folder, "main.ts");
  const before = readFileSync(main, "utf8");
  const game = before.slice(before.indexOf('import plan from "./reef'));
  writeFileSync(
    main,
    `${game}
const change = () =>
  input.setOverrides({ reacherOverrides: 1, controls: { "swim.main.plus": "KeyL" }, settings: { "kick.style": "hold" } });
const tried = (call: () => unknown) => Promise.resolve().then(call).then(() => "", (error) => String(error.message));
const held = { reacherOverrides: 1, settings: { "kick.style": "hold" } } as const;
const soften = () => input.bringKeys(held).then(() => void input.setOverrides(held));
Object.assign(window, { soften: () => tried(soften), change: () => tried(change), bring: () => tried(() => input.bringKeys()) });
`,
  );
  expect(vite("--outDir", "keys").stderr).toBe("");
  const names = readdirSync(join(folder, "keys/assets"));
  expect(names.filter((name) => name.startsWith("keys-"))).toHaveLength(1);
  const missing: { now?: RegExp } = { now: /\/keys-/ };
  const site = await siteOf("keys", missing);
  await until(({ v }) => v === 0);
  await page.keyboard.press("KeyK");
  await page.keyboard.down("KeyD");
  await until(({ v, kick }) => v === 2 && kick);
  const call = (name: string) => page.evaluate(`window.${name}()`);
  expect(await call("change")).toContain("await input.bringKeys() before the first setOverrides");
  expect(await call("bring")).toContain("could not be loaded");
  expect(await until(({ v }) => v === 2)).toMatchObject({ v: 2, kick: true });
  // What the plan's `player` names needs nothing of it.
  expect(await call("soften")).toBe("");
  await until(({ v, kick }) => v === 2 && !kick);

  // A page asks again for what it did not get only when it is loaded anew.
  delete missing.now;
  await page.keyboard.up("KeyD");
  await page.reload();
  await until(({ v }) => v === 0);
  await page.keyboard.press("KeyK");
  await page.keyboard.down("KeyD");
  await until(({ v, kick }) => v === 2 && kick);
  expect([await call("bring"), await call("bring")]).toEqual(["", ""]);
  expect(await until(({ v }) => v === 2)).toMatchObject({ v: 2, kick: true });
  expect(await call("change")).toBe("");
  // The old key is no longer bound; the new one is.
  await until(({ v }) => v === 0);
  await page.keyboard.down("KeyL");
  await until(({ v }) => v === 2);
  await page.keyboard.up("KeyL");
  await page.keyboard.up("KeyD");
  site.close();
}, 120_000);
