/** `reacher try` in a real browser: real keys, the pointer, the file on the disk. */
import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Browser, type Page } from "playwright-core";
import { hold, letRun, pageClockScript, pass, root, until } from "../../../../tests/support/browser";

const command = join(root, "packages/reacher-cli/bin/reacher.cjs");
const folder = mkdtempSync(join(tmpdir(), "reacher-workbench-"));
const file = join(folder, "reef.plan.json");
const PLAN = `{
  "reacherPlan": 1,
  "name": "reef",
  "modes": { "dive": {}, "menu": { "covers": "all" } },
  "actions": {
    "swim": {
      "kind": "vector", "in": ["dive"],
      "from": { "main": { "up": "KeyW", "left": "KeyA", "down": "KeyS", "right": "KeyD" }, "pad": "PadLeftStick" },
      "pace": { "unit": "m/s", "base": 2.4 }
    },
    "surge": { "kind": "switch", "in": ["dive"], "from": { "main": { "taps": 2, "of": "swim.each", "gapMs": 220 } } },
    "pause": { "kind": "switch", "from": { "main": "Escape" } }
  }
}
`;

/** Starts the command; returns the address that it tells. */
function serve(...options: string[]): Promise<string> {
  served = spawn("node", [command, "try", file, ...options]);
  return new Promise((done) => {
    let told = "";
    served.stdout!.on("data", (data) => {
      told += data;
      const [found] = /http:\S+/.exec(told) ?? [];
      if (found !== undefined) done(found);
    });
  });
}

let browser: Browser;
let page: Page;
let served: ChildProcess;
let address: string;
const faults: string[] = [];

beforeAll(async () => {
  browser = await chromium.launch({
    executablePath: process.env["CHROMIUM"]!,
    args: ["--no-sandbox", "--disable-gpu"],
  });
  writeFileSync(file, PLAN);
  address = await serve();
  page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on("console", (message) => message.type() === "error" && faults.push(message.text()));
  page.on("pageerror", (error) => faults.push(error.message));
  // It asks before changes are lost.
  page.on("dialog", (dialog) => dialog.accept());
  await page.addInitScript(pageClockScript());
});
afterAll(async () => {
  await browser.close();
  served.kill("SIGINT");
  expect(await new Promise((done) => served.on("exit", done))).toBe(0);
  rmSync(folder, { recursive: true, force: true });
});
beforeEach(async () => {
  writeFileSync(file, PLAN);
  // Loaded again, a page takes a third of the time of another one.
  await page.goto(address);
  faults.length = 0;
  await page.getByRole("tab", { name: "Numbers" }).waitFor();
  await page.evaluate(() => document.fonts.ready);
  await pass(page, 400);
});

const text = (id: string) => page.getByTestId(id).innerText();
const gap = () => page.getByRole("slider", { name: "gapMs of surge" });
/** A double tap that the plan's window misses by 30 ms. */
async function tapTwiceTooSlowly(): Promise<void> {
  await hold(page, "KeyD", 64);
  await pass(page, 186);
  await hold(page, "KeyD", 64);
  await pass(page, 400);
}
async function checkSaved(gapMs: number): Promise<void> {
  await until(page, () => text("state"), "Saved");
  // Only the number is another: the lines stand as they stood.
  expect(readFileSync(file, "utf8")).toBe(PLAN.replace("220", String(gapMs)));
  expect(execFileSync("node", [command, "check", file], { encoding: "utf8" })).toContain("no errors");
}

test("by pointer: a double tap missed by 30 ms is asked, its window widened, caught, kept and saved", async () => {
  await tapTwiceTooSlowly();
  await page.locator(".reason.counts .hit, .reason.nothing .hit").last().click();
  expect(await text("why")).toMatch(/surge: .*30 ms too late for 220/);
  await page.getByRole("button", { name: "Go to gapMs" }).click();
  for (let n = 0; n < 6; n++) await page.keyboard.press("ArrowRight");
  await until(page, () => text("difference"), "1 more surge");
  expect(await page.locator(".ghost").count()).toBe(0);
  expect(await text("state")).toBe("Changed, not kept");
  // What was is drawn in full while it plays; what is new is an outline then.
  await page.keyboard.press("F8");
  expect(await page.locator(".ghost").count()).toBe(1);
  await page.keyboard.press("F8");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await checkSaved(250);
  await page.getByRole("button", { name: "Undo" }).click();
  expect(await text("state")).toBe("Kept, not saved");
  expect(await gap().inputValue()).toBe("220");
  expect(faults).toEqual([]);
});

test("the same by keyboard alone", async () => {
  await tapTwiceTooSlowly();
  const tabTo = async (label: RegExp) => {
    for (let n = 0; n < 60; n++) {
      const name = await page.evaluate(() => {
        const { activeElement: one } = document;
        return one?.getAttribute("aria-label") ?? one?.textContent ?? "";
      });
      if (label.test(name)) return;
      await page.keyboard.press("Tab");
    }
    throw new Error(`nothing called ${label} can be reached by Tab`);
  };
  await tabTo(/^Moment/);
  await page.keyboard.press("End");
  // From change to change, back to the second press.
  for (let n = 0; n < 8 && !/too late/.test(await text("why")); n++) {
    await page.keyboard.press("ArrowLeft");
    await page.keyboard.press("Enter");
  }
  expect(await text("why")).toMatch(/30 ms too late for 220/);
  await tabTo(/^Go to gapMs/);
  await page.keyboard.press("Enter");
  for (let n = 0; n < 6; n++) await page.keyboard.press("ArrowRight");
  await until(page, () => text("difference"), "1 more surge");
  await page.keyboard.press("Control+s");
  await checkSaved(250);
});

test("a mistake in the text keeps the last plan playing, and says where it is; the mended one plays", async () => {
  await page.getByRole("tab", { name: "Text" }).click();
  const editor = page.locator(".cm-content");
  await editor.click();
  await page.keyboard.press("Control+Home");
  await page.keyboard.type("x");
  expect(await text("state")).toMatch(/^1 error/);
  expect(await text("findings")).toMatch(/^error, line 1: not JSON/);
  await page.locator(".stage").click();
  await page.keyboard.down("KeyD");
  const swims = () => page.locator(".readings tr", { hasText: "swim" }).innerText();
  await until(page, async () => /1\.00, 0\.00/.test(await swims()), true);
  await page.keyboard.up("KeyD");
  await editor.click();
  await page.keyboard.press("Control+Home");
  await page.keyboard.press("Delete");
  expect(await text("state")).toBe("Saved");
});

test("a change from another editor comes in by itself; where both have changed, it asks", async () => {
  writeFileSync(file, PLAN.replace("220", "300"));
  await until(page, () => gap().inputValue(), "300");
  expect(await text("state")).toBe("Saved");
  await gap().focus();
  await page.keyboard.press("ArrowRight");
  writeFileSync(file, PLAN.replace("220", "180"));
  const asked = page.getByRole("alertdialog");
  await asked.waitFor();
  expect(readFileSync(file, "utf8")).toContain("180");
  await page.getByRole("button", { name: "Take the file's" }).click();
  await until(page, () => gap().inputValue(), "180");
});

test("only the page itself writes, and only what it may", async () => {
  const call = (headers: Record<string, string>, path = "api/plan", method = "PUT", raw?: string) =>
    new Promise<number>((done) => {
      const where = new URL(path, address);
      const options = {
        host: where.hostname,
        port: where.port,
        path: raw ?? where.pathname,
        agent: false,
        method,
        headers,
      };
      const sent = request(options, (response) => {
        response.resume();
        done(response.statusCode!);
      });
      sent.end(JSON.stringify({ text: "{}", version: "" }));
    });
  const token = await page.locator('meta[name="reacher-token"]').getAttribute("content");
  const own = { "x-reacher-token": token!, origin: address.slice(0, -1) };
  expect(await call({})).toBe(403);
  expect(await call({ "x-reacher-token": `${token}x` })).toBe(403);
  expect(await call({ ...own, origin: "http://elsewhere.example" })).toBe(403);
  expect(await call({ ...own, host: "elsewhere.example" })).toBe(403);
  // Written over what it has not seen: told, not done.
  expect(await call(own)).toBe(409);
  expect(await call(own, "api/traces", "POST")).toBe(422);
  expect(await call({}, "..%2f..%2fpackage.json", "GET")).toBe(404);
  // No address ends the command, whatever it is.
  for (const path of ["//", "//x:99999/", "/%", "/%00", "*", "http://[/"])
    expect([path, await call(own, "", "GET", path)]).toEqual([path, 404]);
  expect(await call({ host: new URL(address).host.replace("127.0.0.1", "localhost") }, "", "GET")).toBe(403);
  expect(readFileSync(file, "utf8")).toBe(PLAN);
});

test("a command that ends is told of; started again it takes what was changed meanwhile", async () => {
  await gap().focus();
  await page.keyboard.press("ArrowRight");
  served.kill("SIGINT");
  await until(page, async () => (await text("message")).slice(0, 21), "The command has ended");
  await serve("--port", new URL(address).port);
  await until(page, () => text("message"), "The command answers again.");
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await until(page, () => text("state"), "Saved");
  expect(readFileSync(file, "utf8")).not.toBe(PLAN);
  faults.length = 0;
  await gap().focus();
  await page.keyboard.press("ArrowLeft");
  await until(page, () => text("state"), "Changed, not kept");
  const asks = () => page.evaluate(() => !dispatchEvent(new Event("beforeunload", { cancelable: true })));
  expect(await asks()).toBe(true);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await until(page, () => text("state"), "Saved");
  expect(await asks()).toBe(false);
});

test("what was played is saved beside the plan as a trace, which replays; a long trace loads beside the play", async () => {
  await tapTwiceTooSlowly();
  await page.getByRole("tab", { name: "Record" }).click();
  await page.getByRole("button", { name: "Save the last 30 s" }).click();
  await until(page, async () => /^Saved reef-.*-1\.trace\.jsonl$/.test(await text("message")), true);
  const name = readdirSync(folder).find((one) => one.endsWith(".trace.jsonl"))!;
  const replayed = execFileSync("node", [command, "why", file, join(folder, name), "--action", "surge"], {
    encoding: "utf8",
  });
  expect(replayed).toContain("30 ms too late for 220");
  const lines = ['{"reacherTrace":1}'];
  for (let t = 0; t < 600_000; t += 125)
    lines.push(JSON.stringify({ t, control: "KeyD", value: (t / 125) % 2 === 0 ? 1 : 0 }));
  await page.locator('input[type="file"]').setInputFiles({
    name: "long.trace.jsonl",
    mimeType: "text/plain",
    buffer: Buffer.from(lines.join("\n")),
  });
  await until(page, async () => (await page.locator(".lanes path.key").count()) === 1, true);
  // What cannot be told apart is drawn as one: ten minutes are no more to draw than one.
  expect(await page.locator(".lanes *").count()).toBeLessThan(300);
  await page.getByRole("tab", { name: "Numbers" }).click();
  await gap().focus();
  for (let n = 0; n < 6; n++) await page.keyboard.press("ArrowRight");
  await until(page, async () => /more surge/.test(await text("difference")), true);
  // A file that is no trace is told, and changes nothing.
  await page.getByRole("tab", { name: "Record" }).click();
  await page
    .locator('input[type="file"]')
    .setInputFiles({ name: "no.jsonl", mimeType: "text/plain", buffer: Buffer.from("{}") });
  await until(page, async () => /^no\.jsonl: /.test(await text("message")), true);
});

test("a report that is dropped on the page plays with its own plan, which nothing saves unasked", async () => {
  const plan = { ...JSON.parse(PLAN), name: "sent-in" };
  const trace = [
    { t: 70_000, control: "KeyD", value: 1 },
    { t: 70_400, control: "KeyD", value: 0 },
    { t: 71_000, end: true },
  ];
  await page.evaluate(
    (content) => {
      const files = new DataTransfer();
      files.items.add(new File([content], "bug.report.json"));
      dispatchEvent(new DragEvent("drop", { dataTransfer: files }));
    },
    JSON.stringify({ reacherReport: 1, plan, overrides: {}, trace }),
  );
  await until(page, async () => /^bug\.report\.json: 3 lines$/.test(await text("message")), true);
  await page.getByRole("tab", { name: "Text" }).click();
  await until(page, async () => /sent-in/.test(await page.locator(".cm-content").innerText()), true);
  expect(readFileSync(file, "utf8")).toBe(PLAN);
});

test("a new action by a form; modes by a click", async () => {
  await page.getByRole("tab", { name: "Text" }).click();
  await page.getByRole("button", { name: "New action" }).click();
  await page.getByLabel("Name").fill("lamp");
  await page.getByRole("button", { name: /press the key/ }).focus();
  await page.keyboard.press("KeyF");
  await page.getByRole("button", { name: "Add lamp" }).click();
  await until(page, async () => (await page.locator(".readings").innerText()).includes("lamp"), true);
  expect(await page.locator(".cm-content").innerText()).toContain('"lamp"');
  await page.getByRole("button", { name: "menu" }).click();
  const swims = () => page.locator(".readings tr", { hasText: "swim" }).innerText();
  await until(page, async () => /not live/.test(await swims()), true);
});

test("a stranger's way: from a plan that is not right to a good one, by what the page says alone", async () => {
  const rough = (name: string) => readFileSync(join(root, "examples/workbench", name), "utf8");
  writeFileSync(file, rough("rough.plan.json"));
  await page.getByRole("tab", { name: "Record" }).click();
  await page.locator('input[type="file"]').setInputFiles(join(root, "examples/workbench/rough.trace.jsonl"));
  await page.getByRole("tab", { name: "Text" }).click();
  await until(page, async () => /gapMs: 140 ms is too short/.test(await text("findings")), true);
  await page.getByRole("tab", { name: "Numbers" }).click();
  const set = async (name: string, value: string) => {
    await page.getByRole("textbox", { name }).fill(value);
    await page.keyboard.press("Enter");
  };
  const note = (place: string) => page.locator(`[id="number ${place}"] .note`).innerText();
  expect(await note("actions.dash.from.main.gapMs")).toContain("250 ms suits: it catches 12 of 12");
  await set("main gapMs of dash, as a number", "250");
  await until(page, async () => /^1[01] more dash/.test(await text("difference")), true);
  expect(await note("actions.walk.shape.deadZone.inner")).toContain("at rest within 0.09");
  await set("deadZone inner of walk, as a number", "0.1");
  await until(page, async () => /walk goes .* less far/.test(await text("difference")), true);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await until(page, () => text("state"), "Saved");
  expect(execFileSync("node", [command, "check", file], { encoding: "utf8" })).toContain("no warnings");
});

test("a plan that does not exist yet begins small, and is written when it is saved", async () => {
  const fresh = join(folder, "fresh.plan.json");
  const other = spawn("node", [command, "try", fresh]);
  const [at] = await new Promise<string[]>((done) => {
    other.stdout!.on("data", (told) => /http:\S+/.test(told) && done(/http:\S+/.exec(told)!));
  });
  await page.goto(at!);
  await pass(page, 300);
  await hold(page, "KeyD", 400);
  await until(
    page,
    async () => (await page.locator(".timeline .label").allTextContents()).join().includes("move"),
    true,
  );
  expect(() => readFileSync(fresh)).toThrow();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await until(page, () => text("state"), "Saved");
  expect(execFileSync("node", [command, "check", fresh], { encoding: "utf8" })).toContain("no warnings");
  other.kill("SIGINT");
});

test("axe finds nothing wrong, on any tab, wide and narrow", async () => {
  await tapTwiceTooSlowly();
  const source = readFileSync(join(root, "node_modules/axe-core/axe.min.js"), "utf8");
  // It waits by the page's clock.
  await letRun(page);
  await page.evaluate(source);
  for (const [width, colorScheme] of [
    [1280, "light"],
    [900, "dark"],
  ] as const)
    for (const name of ["Numbers", "Text", "Record"]) {
      await page.setViewportSize({ width, height: 800 });
      await page.emulateMedia({ colorScheme });
      await page.getByRole("tab", { name }).click();
      const wrong = await page.evaluate(async () => {
        const { violations } = await (globalThis as any).axe.run();
        return violations.map(({ id, nodes }: any) => `${id}: ${nodes[0].html}`);
      });
      expect([width, name, wrong]).toEqual([width, name, []]);
    }
  expect(faults).toEqual([]);
});
