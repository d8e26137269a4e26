/** The documentation as a site, served from a folder of its own: searched, read in the dark, and a recipe played in its page. */
import { execFileSync } from "node:child_process";
import { readFileSync, statSync } from "node:fs";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { extname, join } from "node:path";
import { chromium, type Browser, type Page } from "playwright-core";
import { root } from "../support/browser";

const TYPES: Record<string, string> = {
  ".js": "text/javascript",
  ".css": "text/css",
  ".html": "text/html",
  ".json": "application/json",
};
let server: Server;
let browser: Browser;
const faults: string[] = [];

beforeAll(async () => {
  execFileSync("node", [join(root, "scripts/site.mjs"), "--base", "/manual/"], { stdio: "pipe" });
  server = createServer((request, answer) => {
    const url = decodeURIComponent(request.url!.split("?")[0]!);
    const path = join(root, "site/dist", url.replace(/^\/manual\/?/, "").replace(/^$/, "index.html"));
    const isThere = url.startsWith("/manual") && statSync(path, { throwIfNoEntry: false })?.isFile() === true;
    if (!isThere) faults.push(`missing: ${url}`);
    answer.writeHead(isThere ? 200 : 404, {
      "Content-Type": TYPES[extname(path)] ?? "application/octet-stream",
    });
    answer.end(isThere ? readFileSync(path) : "");
  }).listen(0, "127.0.0.1");
  await new Promise((done) => server.once("listening", done));
  browser = await chromium.launch({
    executablePath: process.env["CHROMIUM"]!,
    args: ["--no-sandbox", "--disable-gpu"],
  });
}, 240_000);
afterAll(async () => {
  await browser.close();
  server.close();
});

async function open(path: string): Promise<Page> {
  const context = await browser.newContext({ colorScheme: "light", permissions: [] });
  // Nothing from elsewhere: it is read offline as well.
  await context.route(/^(?!http:\/\/127\.0\.0\.1)/, (route) => {
    faults.push(`from elsewhere: ${route.request().url()}`);
    return route.abort();
  });
  const page = await context.newPage();
  page.on("pageerror", ({ message }) => faults.push(message));
  await page.goto(addressOf(path));
  return page;
}
const addressOf = (path: string) =>
  `http://127.0.0.1:${(server.address() as AddressInfo).port}/manual/${path}`;

test("it is searched, and every page that is opened is there", async () => {
  const page = await open("");
  await page.locator(".VPNavBarSearch button").first().click();
  await page.getByRole("searchbox").fill("chord");
  const result = page.locator(".VPLocalSearchBox .result").first();
  await result.waitFor();
  await result.click();
  await page.locator("main h1").waitFor();
  expect(await page.locator("main").innerText()).toMatch(/chord/i);
  await page.context().close();
}, 60_000);

test("in light and dark colours it can be read, by machines as well, and in a narrow window", async () => {
  const page = await open("");
  for (const path of ["", "guide.html", "how-to/react.html"]) {
    await page.goto(addressOf(path));
    await page.locator("h1").first().waitFor();
    await page.addScriptTag({ path: join(root, "node_modules/axe-core/axe.min.js") });
    const grounds = new Set<string>();
    for (const colorScheme of ["light", "dark"] as const) {
      await page.emulateMedia({ colorScheme });
      await page.waitForFunction(
        `document.documentElement.classList.contains("dark") === ${colorScheme === "dark"}`,
      );
      // The parts of a page that are its author's: what stands in it, with its colours.
      const { violations } = (await page.evaluate("axe.run('#VPContent')")) as {
        violations: { id: string; nodes: { html: string }[] }[];
      };
      const wrong = violations.map(({ id, nodes }) => [id, nodes[0]!.html]);
      expect([path, colorScheme, wrong]).toEqual([path, colorScheme, []]);
      grounds.add((await page.evaluate("getComputedStyle(document.body).backgroundColor")) as string);
    }
    expect(grounds.size).toBe(2);
    await page.setViewportSize({ width: 390, height: 800 });
    expect([path, await page.evaluate("document.documentElement.scrollWidth")]).toEqual([path, 390]);
    await page.setViewportSize({ width: 1280, height: 800 });
  }
  await page.context().close();
}, 120_000);

test("a recipe is played in the workbench, without a command", async () => {
  const page = await open("recipes.html");
  const links = page.getByRole("link", { name: "Try it" });
  expect(await links.count()).toBeGreaterThan(20);
  const [bench] = await Promise.all([page.context().waitForEvent("page"), links.nth(1).click()]);
  await bench.locator("canvas, svg").first().waitFor();
  await bench.locator("body").click();
  await bench.keyboard.down("KeyD");
  await bench.getByText("swim").first().waitFor();
  await bench.waitForTimeout(200);
  await bench.keyboard.up("KeyD");
  expect(await bench.locator("body").innerText()).not.toContain("could not be read");
  await page.context().close();
}, 60_000);

afterAll(() => expect(faults).toEqual([]));
