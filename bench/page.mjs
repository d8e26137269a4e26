/** Measures in a real page: what a frame allocates while a pad moves, and a key's way from listener to reading beside a hand's. */
import { fileURLToPath } from "node:url";
import { build } from "esbuild";
import { chromium } from "playwright-core";

const root = fileURLToPath(new URL("..", import.meta.url));

const SCRIPT = `
  import { createInputLayer } from "reacher";
  import { attachBrowser } from "reacher/browser";
  import { simulatePad } from "reacher/testing";
  import { Plain } from "./bench/handWritten.mjs";
  import { plan } from "./bench/game.mjs";

  const FRAMES = 20000;

  globalThis.bytesAFrame = () => {
    const pad = simulatePad();
    let next = () => {};
    globalThis.requestAnimationFrame = (fn) => { next = fn; return 1; };
    const pads = [pad];
    const input = createInputLayer(plan);
    const detach = attachBrowser(input, { pads: () => pads });
    let sum = 0;
    const axes = pad.axes;
    const frames = (count) => {
      for (let n = 0; n < count; n++) {
        axes[0] = ((n % 200) - 100) / 100;
        axes[1] = ((n % 140) - 70) / 70;
        next(performance.now());
        const { swim, kick } = input.step(performance.now());
        sum += swim.vx + swim.vy + (kick.on ? 1 : 0);
      }
    };
    for (let n = 0; n < 20; n++) frames(1000);
    const found = [];
    for (let n = 0; n < 5; n++) {
      gc();
      const before = performance.memory.usedJSHeapSize;
      frames(FRAMES);
      found.push((performance.memory.usedJSHeapSize - before) / FRAMES);
    }
    detach();
    return found.sort((a, b) => a - b)[2];
  };

  // Both listen to windows of their own, on which the same events are dispatched.
  globalThis.keyRatio = () => {
    const codes = ["KeyW", "KeyD", "KeyA", "ShiftLeft", "KeyS"];
    const types = ["keydown", "keyup"];
    const events = codes.flatMap((code) => types.map((type) => new KeyboardEvent(type, { code, cancelable: true })));
    const globals = { performance, document, navigator, requestAnimationFrame: () => 1, cancelAnimationFrame() {} };
    const ownWindow = Object.assign(new EventTarget(), globals);
    const input = createInputLayer(plan);
    attachBrowser(input, { window: ownWindow, pads: () => [] });
    const hand = new Plain();
    const handWindow = new EventTarget();
    handWindow.addEventListener("keydown", (event) => {
      if (!event.repeat) hand.keydown(event.code);
    });
    handWindow.addEventListener("keyup", (event) => hand.keyup(event.code));
    let sum = 0;
    const readOwn = () => {
      const { swim, kick, tuck, surge } = input.step(performance.now());
      sum += swim.vx + swim.vy + (kick.on ? 1 : 0) + (tuck.turnedOn ? 1 : 0) + (surge.turnedOn ? 1 : 0);
    };
    const readHand = () => {
      const { vx, vy, kick, tuckChanged, surge } = hand.tick(performance.now());
      sum += vx + vy + (kick ? 1 : 0) + (tuckChanged ? 1 : 0) + (surge ? 1 : 0);
    };
    const time = (target, read) => {
      const begin = performance.now();
      for (let n = 0; n < 20_000; n++) {
        target.dispatchEvent(events[n % events.length]);
        read();
      }
      return performance.now() - begin;
    };
    const ratios = Array.from({ length: 21 }, () => time(ownWindow, readOwn) / time(handWindow, readHand));
    return ratios.sort((a, b) => a - b)[10];
  };
`;

/** \`undefined\` where there is no browser. */
export async function measurePage(executablePath) {
  const { outputFiles } = await build({
    stdin: { contents: SCRIPT, resolveDir: root },
    absWorkingDir: root,
    bundle: true,
    format: "iife",
    target: "es2022",
    write: false,
  });
  const browser = await chromium.launch({
    executablePath,
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-background-networking",
      "--enable-precise-memory-info",
      "--js-flags=--expose-gc",
    ],
  });
  try {
    const page = await browser.newPage();
    await page.addScriptTag({ content: outputFiles[0].text });
    const bytes = await page.evaluate(() => globalThis.bytesAFrame());
    const ratio = await page.evaluate(() => globalThis.keyRatio());
    return { bytes, ratio };
  } finally {
    await browser.close();
  }
}
