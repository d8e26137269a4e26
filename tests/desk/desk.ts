/**
 * A screen with a window manager, a browser on it as its maker ships it, and hands that the window system knows. No driver takes
 * part: emulated focus and events made by a driver hide what goes wrong between a window and a page.
 */
import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { rm } from "node:fs/promises";
import { createServer, type ServerResponse } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { buildSync } from "esbuild";

export type BrowserName = "chromium" | "firefox" | "webkit";

/** X's numbers of the keys of a usual keyboard, which name places as `KeyboardEvent.code` does; a number of one digit would name a letter. */
const KEYCODES = {
  KeyW: 25,
  KeyA: 38,
  KeyS: 39,
  KeyD: 40,
  BracketLeft: 34,
  ShiftLeft: 50,
  ShiftRight: 62,
  AltLeft: 64,
  Escape: "Escape",
  Enter: 36,
  Space: 65,
  Tab: 23,
  F10: 76,
  MetaLeft: 133,
  ControlLeft: 37,
  KeyT: 28,
  KeyF: 41,
  ArrowLeft: 113,
  ArrowRight: 114,
} as const;
export type Key = keyof typeof KEYCODES;
const BUTTONS = { main: 1, middle: 2, secondary: 3, wheelUp: 4, wheelDown: 5, wheelLeft: 6, wheelRight: 7 };
/** The mouse's own controls, as X numbers them. */
export type Button = keyof typeof BUTTONS;

const PATIENCE_MS = 15_000;

export interface View {
  readonly x: number;
  readonly y: number;
  readonly on: readonly string[];
  readonly presses: Readonly<Record<string, number>>;
  readonly turned: number;
  readonly corner: { readonly x: number; readonly y: number };
  readonly typed: string;
  readonly trace: string;
}

export interface Desk {
  press(...keys: Key[]): void;
  release(...keys: Key[]): void;
  tap(...keys: Key[]): void;
  /** Moves the mouse to a place in the page, in px. */
  point(x: number, y: number): void;
  /** Moves the mouse by so many px, and does not wait for it to arrive: a locked pointer never does. */
  push(dx: number, dy: number): void;
  click(button?: Button, times?: number): void;
  /** Holds or lets go a mouse button. */
  mouse(way: "down" | "up", button?: Button): void;
  /** The keyboard's layout, by its name in X: `us`, `fr`. */
  layout(name: string): void;
  /** What a script gives in the page. */
  ask<T>(script: string): Promise<T>;
  view(): Promise<View>;
  /** Waits until the page says so. */
  until(is: (view: View) => boolean): Promise<View>;
  /** Begins the page anew, with nothing held. */
  fresh(): Promise<void>;
  close(): Promise<void>;
}

export async function openDesk(browser: BrowserName, program: string): Promise<Desk> {
  const folder = mkdtempSync(join(tmpdir(), "reacher-desk-"));
  const site = await serve();
  const { display, screen } = await openScreen();
  const env = { ...process.env, DISPLAY: display };
  const manager = spawn("openbox", [], { env, stdio: "ignore" });
  const window = spawn(program, argumentsOf(browser, folder, site.address), {
    env: { ...env, ...ENVIRONMENT },
    stdio: "ignore",
    detached: true,
  });
  const x = (...args: (string | number)[]) =>
    void execFileSync("xdotool", args.map(String), { env, stdio: ["ignore", "ignore", "pipe"] });
  let corner = { x: 0, y: 0 };
  const held = new Set<Key>();
  const desk: Desk = {
    press: (...keys) => keys.forEach((key) => (held.add(key), x("keydown", KEYCODES[key]))),
    release: (...keys) => keys.forEach((key) => (held.delete(key), x("keyup", KEYCODES[key]))),
    tap: (...keys) => x("key", ...keys.map((key) => KEYCODES[key])),
    point: (px, py) => x("mousemove", "--sync", Math.round(corner.x + px), Math.round(corner.y + py)),
    push: (dx, dy) => x("mousemove_relative", "--", dx, dy),
    click: (button = "main", times = 1) => x("click", "--repeat", times, "--delay", 60, BUTTONS[button]),
    mouse: (way, button = "main") => x(way === "down" ? "mousedown" : "mouseup", BUTTONS[button]),
    layout: (name) => void execFileSync("setxkbmap", name.split(" "), { env }),
    ask: site.ask,
    view: () => site.ask<View>("view()"),
    until: async (is) => {
      const begun = Date.now();
      let view = await desk.view();
      while (!is(view)) {
        if (Date.now() - begun > PATIENCE_MS)
          throw new Error(`the page does not come to it: ${JSON.stringify({ ...view, trace: undefined })}`);
        await sleep(30);
        view = await desk.view();
      }
      return view;
    },
    fresh: async () => {
      desk.release(...held);
      desk.tap("Escape");
      // The key would stop the loading as well.
      await sleep(100);
      await site.reload(() => x("key", "F5"));
      // A page that is still being laid out hears no mouse: it is moved until one is heard.
      let turn = 0;
      const seen = await desk.until((view) => {
        if (!Number.isNaN(view.corner.x ?? NaN)) return true;
        turn++;
        x("mousemove", "--sync", 600 + 40 * (turn % 2), 500 + 20 * (turn % 2));
        return false;
      });
      corner = seen.corner;
      // Only a window that is in front hears keys; a click takes the focus from the browser's own fields.
      desk.point(600, 300);
      desk.click();
      await desk.until((view) => view.presses["snip"] === 1);
      await site.ask("delete view().presses.snip");
    },
    close: async () => {
      end(window);
      manager.kill();
      screen.kill();
      site.close();
      await sleep(200);
      await rm(folder, { recursive: true, force: true, maxRetries: 5 });
    },
  };
  await site.arrived();
  return desk;
}

/** With all that it has started. */
function end(child: ChildProcess): void {
  try {
    process.kill(-child.pid!, "SIGKILL");
  } catch {
    // It had gone by itself.
  }
}

const ENVIRONMENT = {
  GDK_BACKEND: "x11",
  NO_AT_BRIDGE: "1",
  LIBGL_ALWAYS_SOFTWARE: "1",
  WEBKIT_DISABLE_COMPOSITING_MODE: "1",
  // Firefox answers to its own test pads only in a throwaway profile that is closed to the net.
  MOZ_DISABLE_NONLOCAL_CONNECTIONS: "1",
};

/** Nothing but what keeps a fresh profile from greeting its user. */
function argumentsOf(browser: BrowserName, folder: string, address: string): string[] {
  if (browser === "webkit") return ["--geometry=1200x800", address];
  if (browser === "firefox") {
    const settings = {
      "browser.aboutwelcome.enabled": false,
      "browser.shell.checkDefaultBrowser": false,
      "datareporting.policy.dataSubmissionEnabled": false,
      "toolkit.telemetry.reportingpolicy.firstRun": false,
      "termsofuse.bypassNotification": true,
      "trailhead.firstrun.didSeeAboutWelcome": true,
      "browser.startup.page": 0,
      "dom.disable_open_during_load": false,
      "dom.gamepad.test.enabled": true,
      "security.turn_off_all_security_so_that_viruses_can_take_over_this_computer": true,
    };
    const lines = Object.entries(settings).map(
      (entry) => `user_pref(${entry.map((part) => JSON.stringify(part)).join(", ")});`,
    );
    writeFileSync(join(folder, "user.js"), lines.join("\n"));
    return ["--no-remote", "--profile", folder, "--width", "1200", "--height", "800", address];
  }
  return [
    `--user-data-dir=${folder}`,
    "--no-sandbox",
    "--disable-gpu",
    "--no-first-run",
    "--no-default-browser-check",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-popup-blocking",
    "--password-store=basic",
    "--window-size=1200,800",
    address,
  ];
}

/** An X screen of its own, with a number that is free. */
async function openScreen(): Promise<{ display: string; screen: ChildProcess }> {
  const screen = spawn("Xvfb", ["-displayfd", "3", "-screen", "0", "1280x900x24", "-nolisten", "tcp"], {
    stdio: ["ignore", "ignore", "ignore", "pipe"],
  });
  const number = await new Promise<string>((told, failed) => {
    screen.stdio[3]!.on("data", (data: Buffer) => told(data.toString().trim()));
    screen.on("error", failed);
  });
  return { display: `:${number}`, screen };
}

const PAGE = `<!doctype html><meta charset="utf-8"><title>Reacher on a desk</title>
<style>body { margin: 0; height: 100vh; overflow: hidden; font: 16px sans-serif } button, input, select { position: fixed; left: 20px; width: 160px; height: 30px; box-sizing: border-box }</style>
<button style="top: 20px">Press</button><input style="top: 70px"><select style="top: 120px"><option>one<option>two</select>
<script src="/page.js"></script>`;

/** The page's server, and the line that orders and answers take. */
async function serve() {
  const { outputFiles } = buildSync({
    entryPoints: [join(__dirname, "page.ts")],
    bundle: true,
    format: "iife",
    write: false,
  });
  let line: ServerResponse | undefined;
  let hear: (() => void) | undefined;
  const waiting = new Map<number, (answer: { value?: unknown; fault?: string }) => void>();
  const server = createServer((request, response) => {
    if (request.url === "/orders") {
      response.writeHead(200, { "content-type": "text/event-stream" });
      response.write(": here\n\n");
      line = response;
      hear?.();
      return;
    }
    if (request.url === "/answers") {
      let body = "";
      request.on("data", (data) => (body += data));
      request.on("end", () => {
        response.end();
        const { id, ...answer } = JSON.parse(body);
        waiting.get(id)?.(answer);
      });
      return;
    }
    const isScript = request.url === "/page.js";
    response.writeHead(200, { "content-type": isScript ? "text/javascript" : "text/html" });
    response.end(isScript ? outputFiles[0]!.text : PAGE);
  });
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  const { port } = server.address() as { port: number };
  let orders = 0;
  const arrived = () => new Promise<void>((done) => (line === undefined ? (hear = done) : done()));
  const send = (script: string) => line!.write(`data: ${JSON.stringify({ id: ++orders, script })}\n\n`);
  return {
    address: `http://127.0.0.1:${port}/`,
    arrived,
    ask: <T>(script: string) =>
      new Promise<T>((done, failed) => {
        send(script);
        const id = orders;
        const late = setTimeout(() => failed(new Error(`no answer to ${script}`)), PATIENCE_MS);
        waiting.set(id, ({ value, fault }) => {
          clearTimeout(late);
          waiting.delete(id);
          if (fault === undefined) done(value as T);
          else failed(new Error(`${script}: ${fault}`));
        });
      }),
    reload: async (byHand: () => void) => {
      const old = line!;
      line = undefined;
      // On a busy machine the Escape before it is heard late, and stops the loading: then the old page is still there to be asked.
      for (let n = 0; n < 5; n++) {
        old.write(`data: ${JSON.stringify({ id: ++orders, script: "location.reload()" })}\n\n`);
        const came = await Promise.race([arrived().then(() => true), sleep(3000, false, { ref: false })]);
        if (came) return;
        // Stopped with the page, its line hears nothing more.
        byHand();
      }
      line = old;
      throw new Error("the page does not load again");
    },
    close: () => {
      server.closeAllConnections();
      server.close();
    },
  };
}
