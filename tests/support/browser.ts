/** A real browser with a built example in it. */
import { mkdtempSync, readFileSync } from "node:fs";
import { readdir, readFile, rm } from "node:fs/promises";
import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import { tmpdir } from "node:os";
import { extname, join, normalize } from "node:path";
import { buildSync } from "esbuild";
import { chromium, firefox, type Browser, type Page } from "playwright-core";

export const root = join(__dirname, "../..");

declare global {
  /** Which browser this project of the tests is for. */
  var BROWSER: "chromium" | "firefox";
  /** In the page: see pageClock.ts. */
  var pageClock: {
    pass(ms: number): Promise<void>;
    until(read: () => unknown, wanted: unknown, patienceMs: number): Promise<unknown>;
    run(): void;
  };
}

const TYPES: Record<string, string> = { ".html": "text/html", ".js": "text/javascript", ".css": "text/css" };

/** How a page is opened. */
interface PageOptions {
  readonly width?: number;
  readonly height?: number;
  readonly path?: string;
  /** What is there once the page is ready, by its selector. */
  readonly ready?: string;
  /** What the page may do, as its server says (W3C Content Security Policy). */
  readonly policy?: string;
}

interface Site {
  /**
   * A page of the example, loaded anew with nothing kept from before. Its clock stands still until a test lets time pass: no machine
   * is too slow.
   */
  open(options?: PageOptions): Promise<Page>;
  close(): Promise<void>;
}

/** A fresh page of an example for each test of a file, handed to `use`. */
export function eachPage(name: string, use: (page: Page) => void, options?: PageOptions): void {
  let site: Site;
  beforeAll(async () => {
    site = await openSite(name, options?.policy);
  });
  afterAll(() => site.close());
  beforeEach(async () => use(await site.open(options)));
}

/** How long a page may take for what its clock does not govern: drawing, storage. */
const PATIENCE_MS = 60_000;
/** About a frame. */
const TICK_MS = 16;

/** Lets this much of the page's time pass, frame by frame, and what it changed be drawn. */
export async function pass(page: Page, ms: number): Promise<void> {
  await page.evaluate((time) => pageClock.pass(time), ms);
}

/** Lets frames pass until `read` gives what is wanted. */
export async function until<T>(page: Page, read: () => Promise<T>, wanted: T): Promise<void> {
  const begun = Date.now();
  let found = await read();
  while (found !== wanted && Date.now() - begun < PATIENCE_MS) {
    await pass(page, TICK_MS);
    found = await read();
  }
  expect(found).toEqual(wanted);
}

/** The same where `read` is for the page, which is asked many times as fast. */
export async function untilThere<A>(
  page: Page,
  read: (given: A) => unknown,
  given: A,
  wanted: unknown,
): Promise<void> {
  const [asked, hoped] = [given, wanted].map((one) => JSON.stringify(one));
  const found = await page.evaluate(`pageClock.until(() => (${read})(${asked}), ${hoped}, ${PATIENCE_MS})`);
  expect(found).toEqual(wanted);
}

/** Whether there is something of this selector. */
const isThere = (selector: string) => document.querySelector(selector) !== null;

/** The text of what has this `data-testid`. */
export const textOf = (page: Page, id: string) =>
  page.evaluate(
    (name) => document.querySelector<HTMLElement>(`[data-testid="${name}"]`)?.innerText.trim() ?? "",
    id,
  );
/** Waits until that is this. */
export const hasText = (page: Page, id: string, text: string) =>
  untilThere(
    page,
    (name) => document.querySelector<HTMLElement>(`[data-testid="${name}"]`)?.innerText.trim(),
    id,
    text,
  );

/** Waits until what has this `data-testid` shows a switch on or off. */
export const turnsTo = (page: Page, id: string, on: boolean) =>
  untilThere(
    page,
    (name) => document.querySelector(`[data-testid="${name}"]`)?.getAttribute("data-on"),
    id,
    String(on),
  );

/** Lets the page's clock go by itself, for what waits by it. */
export const letRun = (page: Page) => page.evaluate(() => pageClock.run());

/** A key held for this much of the page's time. */
export async function hold(page: Page, key: string, ms = 50): Promise<void> {
  await page.keyboard.down(key);
  await pass(page, ms);
  await page.keyboard.up(key);
}

/** The text of the file that a click saves. It is looked for where it lands: one driver tells nothing of it. */
export async function saved(page: Page, click: () => Promise<void>): Promise<string> {
  const before = new Set(await readdir(downloadsPath));
  await click();
  let text = "";
  const look = async () => {
    const fresh = (await readdir(downloadsPath)).find(
      (name) => !before.has(name) && !/\.(part|crdownload)$/.test(name),
    );
    text = fresh === undefined ? "" : await readFile(join(downloadsPath, fresh), "utf8");
    return text !== "";
  };
  await until(page, look, true);
  return text;
}

/** Serves examples/NAME/dist and starts the browser. */
async function openSite(name: string, policy?: string): Promise<Site> {
  const folder = join(root, "examples", name, "dist");
  const serve = (request: IncomingMessage, response: ServerResponse) => {
    const path = normalize(new URL(request.url ?? "/", "http://localhost").pathname);
    const file = join(folder, path === "/" ? "index.html" : path);
    readFile(file).then(
      (body) =>
        response
          .writeHead(200, {
            "content-type": TYPES[extname(file)] ?? "application/octet-stream",
            // Names of assets tell their content. Of a page that is kept, fields would keep what was chosen.
            "cache-control": path.startsWith("/assets/") ? "max-age=3600, immutable" : "no-store",
            ...(policy !== undefined && { "content-security-policy": policy }),
          })
          .end(body),
      () => response.writeHead(404).end(),
    );
  };
  const server = createServer(serve);
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  const origin = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const browser = await launch();
  let last: Page | undefined;
  /** Keys that a test may have left held. */
  const held = new Set<string>();
  /** A page is loaded again rather than made again, and at the same address: that takes a third of the time. */
  const reloaded = async (page: Page, url: string) => {
    for (const other of page.context().pages()) if (other !== page) await other.close();
    // Shift first: with it one browser takes a key for another one, which it thinks held ever after.
    const shiftsFirst = [...held].sort((a, b) => Number(/^Shift/.test(b)) - Number(/^Shift/.test(a)));
    for (const key of shiftsFirst) await page.keyboard.up(key);
    held.clear();
    await page.mouse.up();
    await page.evaluate(async () => {
      const names = (await indexedDB.databases()).map(({ name }) => name);
      sessionStorage.setItem("forget", JSON.stringify(names));
    });
    await (page.url() === url ? page.reload() : page.goto(url));
    return page;
  };
  const freshPage = async (url: string) => {
    // Drawn coarsely: what a test looks at is text.
    const context = await browser.newContext({ deviceScaleFactor: 0.25 });
    context.setDefaultTimeout(PATIENCE_MS);
    last = await context.newPage();
    const page = last;
    const { keyboard } = page;
    const press = keyboard.down.bind(keyboard);
    keyboard.down = (key) => (held.add(key), press(key));
    // The browser may have gone first.
    page.on("close", () => void context.close().catch(() => undefined));
    await context.addInitScript(`${pageClockScript()}${simulatedPads()}(${forget})()`);
    await page.goto(url);
    // One browser leaves a new page without the focus, and such a page hears no pad.
    await page.bringToFront();
    return page;
  };
  return {
    open: async ({ width = 1280, height = 800, path = "/", ready = "canvas" } = {}) => {
      const isOpen = last !== undefined && !last.isClosed();
      const page = await (isOpen ? reloaded(last!, origin + path) : freshPage(origin + path));
      await page.setViewportSize({ width, height });
      await untilThere(page, isThere, "canvas", true);
      await pass(page, 100);
      await untilThere(page, isThere, ready, true);
      return page;
    },
    close: async () => {
      await browser.close();
      await rm(downloadsPath, { recursive: true, force: true });
      await new Promise((done) => server.close(done));
    },
  };
}

/** In a page that is loaded again: what the page before it kept is gone before anything looks for it. */
function forget(): void {
  try {
    const names = sessionStorage.getItem("forget");
    if (names === null) return;
    for (const name of JSON.parse(names) as string[]) indexedDB.deleteDatabase(name);
    localStorage.clear();
    sessionStorage.clear();
  } catch {
    // A blank page has no storage.
  }
}

const CHROMIUM_ARGS = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

/** Where the browser puts what a page saves. */
const downloadsPath = mkdtempSync(join(tmpdir(), "reacher-pages-"));

function launch(): Promise<Browser> {
  // A Firefox as its maker ships it, by the open protocol that it speaks itself.
  if (BROWSER === "firefox")
    return firefox.launch({ executablePath: process.env["FIREFOX"]!, channel: "moz-firefox", downloadsPath });
  return chromium.launch({ executablePath: process.env["CHROMIUM"]!, args: CHROMIUM_ARGS, downloadsPath });
}

const scripts = new Map<string, string>();

/** A module of ours as a script of the page. */
function bundled(name: string, source: () => string): string {
  const known = scripts.get(name);
  if (known !== undefined) return known;
  const { outputFiles } = buildSync({
    stdin: { contents: source(), resolveDir: join(root, "examples/kelpline"), loader: "ts" },
    bundle: true,
    // The clock asks for it in vain.
    external: ["util"],
    format: "iife",
    write: false,
  });
  scripts.set(name, outputFiles[0]!.text);
  return outputFiles[0]!.text;
}

/** See pageClock.ts. */
export const pageClockScript = () =>
  bundled("clock", () => readFileSync(join(__dirname, "pageClock.ts"), "utf8"));

/** The testing kit: `pads[0]` stands in for a real one. */
const simulatedPads = () =>
  bundled(
    "pads",
    () => `import { installPads, simulatePad } from "reacher/testing";
      globalThis.pads = [simulatePad(0), simulatePad(1)];
      for (const pad of pads) pad.connected = false;
      installPads(navigator, pads);`,
  );
