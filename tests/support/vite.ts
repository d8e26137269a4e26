/** Vite in a folder, and a page of what it serves. */
import { spawn, type ChildProcess } from "node:child_process";
import { join } from "node:path";
import type { Browser, Page } from "playwright-core";

const servers: ChildProcess[] = [];

/** Serves a folder by the Vite of `home`, without a shell between that would not pass its end on, and opens it. `args`: `preview`, say. */
export async function openByVite(
  browser: Browser,
  home: string,
  folder: string,
  args: readonly string[] = [],
  env: NodeJS.ProcessEnv = process.env,
): Promise<{ page: Page; faults: string[] }> {
  const vite = join(home, "node_modules/vite/bin/vite.js");
  const server = spawn("node", [vite, ...args, "--port", "0", "--host", "127.0.0.1"], {
    cwd: folder,
    env: { ...env, NO_COLOR: "1" },
  });
  servers.push(server);
  const address = await new Promise<string>((done) => {
    let told = "";
    server.stdout.on("data", (data) => {
      told += String(data);
      const [found] = /http:\/\/127\.0\.0\.1:\d+/.exec(told) ?? [];
      if (found !== undefined) done(found);
    });
  });
  const page = await browser.newPage();
  const faults: string[] = [];
  page.on("pageerror", ({ message }) => faults.push(message));
  await page.goto(address);
  return { page, faults };
}

/** Ends all of them. */
export async function endVite(): Promise<void> {
  for (const server of servers) server.kill();
  await Promise.all(
    servers.map((server) => server.exitCode ?? new Promise((done) => server.on("exit", done))),
  );
}
