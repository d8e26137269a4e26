/** A real Chromium with a built example in it. */
import { createServer, type Server } from "node:http";
import { readFile } from "node:fs/promises";
import { extname, join, normalize } from "node:path";
import { buildSync } from "esbuild";
import { chromium, type Browser, type Page } from "playwright-core";

export const root = join(__dirname, "../..");

const TYPES: Record<string, string> = { ".html": "text/html", ".js": "text/javascript", ".css": "text/css" };

export interface Site {
  /** A new page of the example, loaded. */
  open(options?: { width?: number; height?: number; path?: string }): Promise<Page>;
  close(): Promise<void>;
}

/** Serves examples/NAME/dist and starts Chromium. */
export async function openSite(name: string): Promise<Site> {
  const folder = join(root, "examples", name, "dist");
  const server: Server = createServer((request, response) => {
    const path = normalize(new URL(request.url ?? "/", "http://localhost").pathname);
    const file = join(folder, path === "/" ? "index.html" : path);
    readFile(file).then(
      (body) =>
        response
          .writeHead(200, { "content-type": TYPES[extname(file)] ?? "application/octet-stream" })
          .end(body),
      () => response.writeHead(404).end(),
    );
  });
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  const { port } = server.address() as { port: number };
  const executablePath = process.env["CHROMIUM"] ?? "/usr/bin/chromium";
  const args = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ];
  const browser: Browser = await chromium.launch({ executablePath, args });
  return {
    open: async ({ width = 1280, height = 800, path = "/" } = {}) => {
      const context = await browser.newContext({ viewport: { width, height } });
      const page = await context.newPage();
      // The browser may have gone first.
      page.on("close", () => void context.close().catch(() => undefined));
      await page.addInitScript(simulatedPads());
      await page.goto(`http://127.0.0.1:${port}${path}`);
      await page.waitForSelector("canvas");
      return page;
    },
    close: async () => {
      await browser.close();
      await new Promise((done) => server.close(done));
    },
  };
}

/** The testing kit as a script of the page: `pads[0]` stands in for a real one. */
function simulatedPads(): string {
  const { outputFiles } = buildSync({
    stdin: {
      contents: `import { installPads, simulatePad } from "reacher/testing";
        globalThis.pads = [simulatePad(0), simulatePad(1)];
        for (const pad of pads) pad.connected = false;
        installPads(navigator, pads);`,
      resolveDir: join(root, "examples/kelpline"),
    },
    bundle: true,
    format: "iife",
    write: false,
  });
  return outputFiles[0]!.text;
}
