/** A page's clock, which stands still until a test lets time pass: no machine is too slow. Runs in the page, before all else. */
import { install } from "@sinonjs/fake-timers";

/** About a frame. */
const TICK_MS = 16;

const { setInterval: interval, Date: RealDate } = globalThis;
const clock = install({
  now: Date.now(),
  toFake: [
    "setTimeout",
    "clearTimeout",
    "setInterval",
    "clearInterval",
    "requestAnimationFrame",
    "cancelAnimationFrame",
    "requestIdleCallback",
    "cancelIdleCallback",
    "Date",
  ],
});
const began = clock.now;
performance.now = () => clock.now - began;
/** An event happened when it was first seen: time stands still while it is handled. */
const stamps = new WeakMap<Event, number>();
Object.defineProperty(Event.prototype, "timeStamp", {
  configurable: true,
  get(this: Event) {
    const known = stamps.get(this) ?? performance.now();
    stamps.set(this, known);
    return known;
  },
});

/** What the browser itself has waiting comes first: its own events, drawing, promises. */
const turn = () =>
  new Promise((go) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = go;
    port2.postMessage(0);
  });

async function pass(ms: number): Promise<void> {
  for (let left = ms; left > 0; left -= TICK_MS) {
    clock.tick(Math.min(TICK_MS, left));
    await turn();
  }
}

Object.assign(globalThis, {
  pageClock: {
    pass,
    /** Lets frames pass until `read` gives what is wanted, for so long that no machine is too slow. Returns what it gave last. */
    async until(read: () => unknown, wanted: unknown, patienceMs: number) {
      const begun = RealDate.now();
      while (read() !== wanted && RealDate.now() - begun < patienceMs) await pass(TICK_MS);
      return read();
    },
    /** From here on it goes by itself. */
    run: () => void interval(() => clock.tick(TICK_MS), TICK_MS),
  },
});
