/** Pages that take the library as it is shipped: one file without a bundler, the settings screen, a worker, React. */
import { buildSync } from "esbuild";
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { chromium, type Browser, type Page } from "playwright-core";
import { root } from "../support/browser";

const folder = mkdtempSync(join(root, "examples", "tmp-plain-"));
const dist = join(root, "packages/reacher/dist");
let server: Server;
let browser: Browser;
const faults: string[] = [];

beforeAll(async () => {
  server = createServer((request, answer) => {
    const url = request.url!.split("?")[0]!;
    const path = url.startsWith("/dist/") ? join(dist, url.slice("/dist/".length)) : join(folder, url);
    answer.setHeader("Content-Type", url.endsWith(".html") ? "text/html" : "text/javascript");
    answer.end(statSync(path, { throwIfNoEntry: false })?.isFile() ? readFileSync(path) : "");
  }).listen(0, "127.0.0.1");
  await new Promise((done) => server.once("listening", done));
  browser = await chromium.launch({
    executablePath: process.env["CHROMIUM"]!,
    args: ["--no-sandbox", "--disable-gpu"],
  });
});
afterAll(async () => {
  await browser.close();
  server.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A page of this script; `bundled`: as a bundler makes it. */
async function open(name: string, script: string, body = "", bundled = true): Promise<Page> {
  writeFileSync(join(folder, `${name}.source.jsx`), script);
  if (bundled)
    buildSync({
      entryPoints: [join(folder, `${name}.source.jsx`)],
      bundle: true,
      format: "esm",
      jsx: "automatic",
      define: { "process.env.NODE_ENV": '"development"' },
      outfile: join(folder, `${name}.js`),
    });
  else writeFileSync(join(folder, `${name}.js`), script);
  writeFileSync(
    join(folder, `${name}.html`),
    `<!doctype html><html lang="en"><title>${name}</title><body><main><h1>${name}</h1>${body}</main><script type="module" src="/${name}.js"></script></body></html>`,
  );
  const page = await browser.newPage();
  page.on("pageerror", ({ message }) => faults.push(message));
  await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/${name}.html`);
  return page;
}

const LOOP = `requestAnimationFrame(function frame() { requestAnimationFrame(frame); input.step(performance.now()); });
window.input = input;`;
const PLAN = `{ reacherPlan: 1, name: "reef", slots: { main: { label: "Keys" }, pad: { label: "Pad", device: "pad" } }, actions: {
  hop: { kind: "switch", label: "Hop", required: true, from: { main: "Space", pad: "PadSouth" } },
  lamp: { kind: "switch", label: "Lamp", style: "toggle", from: { main: "KeyF" } },
  dash: { kind: "switch", label: "Dash", player: { gapMs: [160, 400] }, from: { main: { taps: 2, of: "KeyD", gapMs: 220 } } },
} }`;

test("one file plays in a page without a bundler", async () => {
  const file = readFileSync(join(dist, "reacher.browser.js"));
  expect(gzipSync(file, { level: 9 }).length).toBeLessThan(123_000);
  const page = await open(
    "plain",
    `import { createInputLayer, attachBrowser, showPanel, record, editOverrides } from "/dist/reacher.browser.js";
const input = createInputLayer(${PLAN});
attachBrowser(input);
showPanel(input);
window.all = [record, editOverrides].every((one) => typeof one === "function");
${LOOP}`,
    "",
    false,
  );
  await page.keyboard.down("Space");
  await page.waitForFunction("window.all && window.input.now.hop.on");
  await page.keyboard.up("Space");
  await page.waitForFunction("!window.input.now.hop.on");
  await page.close();
}, 60_000);

test("the settings screen: keys, clashes, undo, profiles, other words; by keyboard and by pad; without faults of access", async () => {
  const page = await open(
    "settings",
    `import { createInputLayer } from "reacher";
import { attachBrowser } from "reacher/browser";
import { memoryStore } from "reacher/rebind";
import { defineSettings } from "reacher/settings";
const input = createInputLayer(${PLAN});
attachBrowser(input);
defineSettings();
defineSettings();
const settings = document.querySelector("reacher-settings");
Object.assign(settings, { input, store: memoryStore(), words: { done: "Fertig" } });
window.heard = [];
for (const type of ["change", "done", "fault"]) settings.addEventListener(type, () => window.heard.push(type));
window.pad = { index: 0, id: "standard", mapping: "standard", connected: true, axes: [0, 0, 0, 0], timestamp: 0,
  buttons: Array.from({ length: 17 }, () => ({ pressed: false, value: 0 })) };
navigator.getGamepads = () => (window.isPlugged ? [window.pad] : []);
${LOOP}`,
    "<reacher-settings></reacher-settings>",
  );
  const key = (address: string) => page.locator(`[data-address="${address}"]`);
  const says = (text: string) => page.getByText(text, { exact: true }).waitFor();
  const overrides = () => page.evaluate("document.querySelector('reacher-settings').overrides");
  await key("lamp.main").waitFor();
  await page.addScriptTag({ path: join(root, "node_modules/axe-core/axe.min.js") });
  const axe = async () =>
    (
      (await page.evaluate("axe.run()")) as { violations: { id: string; nodes: { html: string }[] }[] }
    ).violations.map(({ id, nodes }) => [id, nodes[0]!.html]);
  expect(await axe()).toEqual([]);

  // By keyboard alone: the Enter that opens it is not caught.
  await key("lamp.main").focus();
  await page.keyboard.press("Enter", { delay: 60 });
  await says("Press what you want in place of F.");
  await page.keyboard.press("Space", { delay: 60 });
  await says("Space is used by Hop already.");
  expect(await axe()).toEqual([]);
  await page.keyboard.press("Enter", { delay: 60 });
  await page.waitForFunction(
    "document.querySelector('reacher-settings').overrides.controls['lamp.main'] === 'Space'",
  );
  expect(await overrides()).toMatchObject({ controls: { "lamp.main": "Space", "hop.main": "KeyF" } });
  await page.keyboard.press("KeyF");
  await page.getByRole("button", { name: "Undo" }).click();
  expect(await overrides()).toMatchObject({ controls: {} });

  // A required action may be cleared on the way, and then nobody leaves.
  const done = page.getByRole("button", { name: "Fertig" });
  for (const address of ["hop.main", "hop.pad"]) {
    await key(address).click();
    await page.keyboard.press("Escape", { delay: 60 });
    await page.getByRole("button", { name: "Clear it" }).click();
  }
  await says("Hop has no key: choose one before you leave.");
  expect(await done.isDisabled()).toBe(true);
  await page.getByRole("button", { name: "Reset everything" }).click();

  // A profile of its own, and back.
  await page.getByRole("textbox").fill("mo");
  await page.keyboard.press("Enter");
  await page.waitForFunction(
    "document.querySelector('reacher-settings').shadowRoot.textContent.includes('mo')",
  );
  await page.getByLabel("Double-tap time").fill("300");
  await says("300 ms");
  await page.getByRole("combobox", { name: "Profile" }).selectOption("player");
  await says("220 ms");

  // By pad: down to the next row, press, and a button of the pad is caught; the right button leaves.
  await page.evaluate("window.isPlugged = true; window.dispatchEvent(new Event('gamepadconnected'))");
  const press = async (button: number) => {
    for (const pressed of [true, false]) {
      await page.evaluate(
        `window.pad = { ...window.pad, timestamp: window.pad.timestamp + 20, buttons: window.pad.buttons.map((one, n) => n === ${button} ? { pressed: ${pressed}, value: +${pressed} } : one) }`,
      );
      await page.waitForTimeout(80);
    }
  };
  await key("hop.pad").focus();
  await press(13);
  const focused = "document.querySelector('reacher-settings').shadowRoot.activeElement.dataset.address";
  expect(await page.evaluate(focused)).toBe("lamp.pad");
  await press(0);
  await says("Press what you want there.");
  await press(3);
  await page.waitForFunction(
    "document.querySelector('reacher-settings').overrides.controls['lamp.pad'] === 'PadNorth'",
  );
  await press(1);
  await page.waitForFunction("window.heard.includes('done')");
  expect(await page.evaluate("window.heard.includes('fault')")).toBe(false);
  await page.setViewportSize({ width: 390, height: 700 });
  expect(await page.evaluate("document.documentElement.scrollWidth <= 390")).toBe(true);
  await page.close();
}, 90_000);

test("a worker plays: raw events go there with moments on its clock", async () => {
  const blocks = [
    ...readFileSync(join(root, "docs/how-to/worker.md"), "utf8").matchAll(/```text\n([^]*?)```/g),
  ];
  const [page, worker] = blocks.map(([, text]) => text!) as [string, string];
  writeFileSync(join(folder, "worker.source.js"), worker);
  buildSync({
    entryPoints: [join(folder, "worker.source.js")],
    bundle: true,
    format: "esm",
    outfile: join(folder, "game.worker.js"),
  });
  const opened = await open("worker", page, '<div id="diver" style="position: relative">diver</div>');
  const left = "document.querySelector('#diver').style.left";
  await opened.waitForFunction(`${left} !== ""`);
  await opened.keyboard.down("KeyD");
  await opened.waitForFunction(`parseFloat(${left}) > 10`);
  await opened.keyboard.up("KeyD");
  await opened.waitForTimeout(200);
  const before = await opened.evaluate(left);
  await opened.waitForTimeout(200);
  expect(await opened.evaluate(left)).toBe(before);
  await opened.close();
}, 60_000);

test("React, in strict mode: a component renders when what it picks has changed, and keys change for all who show them", async () => {
  const page = await open(
    "react",
    `import { StrictMode, useEffect } from "react";
import { createRoot } from "react-dom/client";
import { createInputLayer } from "reacher";
import { attachBrowser } from "reacher/browser";
import { useOverrides, useReading } from "reacher/react";
const input = createInputLayer(${PLAN});
${LOOP}
window.renders = 0;
function Lamp() {
  const { on, pending } = useReading(input, "lamp", ({ on, pending }) => ({ on, pending }));
  window.renders++;
  return <p id="lamp">{String(on)} {String(pending)}</p>;
}
function Keys() {
  const [overrides, change] = useOverrides(input);
  const next = { reacherOverrides: 1, controls: { "lamp.main": "KeyG" } };
  return <button onClick={() => void change(overrides === null ? next : null)}>{overrides?.controls["lamp.main"] ?? "as designed"}</button>;
}
function Game() {
  useEffect(() => attachBrowser(input), []);
  return <><Lamp /><Keys /><Keys /></>;
}
createRoot(document.querySelector("#root")).render(<StrictMode><Game /></StrictMode>);`,
    '<div id="root"></div>',
  );
  const shows = (text: string) =>
    page.waitForFunction(`document.querySelector("#lamp")?.textContent.startsWith("${text}")`);
  await shows("false");
  const renders = async () => (await page.evaluate("window.renders")) as number;
  const before = await renders();
  await page.keyboard.press("KeyF");
  await shows("true");
  await page.waitForTimeout(300);
  // Twice a change in strict mode, and never a frame without one.
  expect((await renders()) - before).toBeLessThanOrEqual(4);
  const [first, second] = [page.getByRole("button").first(), page.getByRole("button").last()];
  await first.click();
  await page.waitForFunction(
    "[...document.querySelectorAll('button')].every((one) => one.textContent === 'KeyG')",
  );
  await page.keyboard.press("KeyG");
  await shows("false");
  await second.click();
  await page.waitForFunction("document.querySelector('button').textContent === 'as designed'");
  await page.close();
}, 60_000);

afterAll(() => expect(faults).toEqual([]));
