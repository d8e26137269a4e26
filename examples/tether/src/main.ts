/** Two machines in one page: what each player sees, and what the line between them costs. */
import { createInputLayer } from "reacher";
import { attachBrowser } from "reacher/browser";
import { draw, type Bubble } from "./draw";
import type { LineSettings } from "./line";
import { Match } from "./match";
import { plan, SEATS, type Seat } from "./plan";
import { TICK_MS } from "./side";

const BUBBLE_MS = 700;

const settings: LineSettings = { delayMs: 80, jitterMs: 20, loss: 0.02 };
const bubbles: Record<Seat, Bubble[]> = { amber: [], teal: [] };
const match = new Match(settings, (side, diver) => {
  const { world } = match.sides[side];
  const n = SEATS.indexOf(diver);
  bubbles[side].push({ x: world.x(n), y: world.y(n), diver, age: 0 });
});

const find = <E extends HTMLElement>(id: string) => document.getElementById(id) as E;

for (const [id, unit, set] of [
  ["delay", "ms", (value: number) => (settings.delayMs = value)],
  ["jitter", "ms", (value: number) => (settings.jitterMs = value)],
  ["loss", "%", (value: number) => (settings.loss = value / 100)],
] as const) {
  const slider = find<HTMLInputElement>(id);
  const show = () => {
    set(slider.valueAsNumber);
    find<HTMLOutputElement>(`${id}-now`).value = `${slider.value} ${unit}`;
  };
  slider.addEventListener("input", show);
  show();
}

// One layer listens to the page's devices and finds each event's seat; each side has a layer of its own, which is fed only with these.
const ears = createInputLayer(plan);
const start = performance.now();
ears.step(start);
ears.watch({
  event: ({ t, control, value }, seat) =>
    match.feed(seat as Seat, { t: t - start, control, value, pad: SEATS.indexOf(seat as Seat) }),
  command: (command, { t, seat }) => {
    if ("lost" in command || "seatPad" in command) match.feed(seat as Seat, { t: t - start, lost: "focus" });
  },
});
attachBrowser(ears);

/** The cost of each tick in ms, including all that was stepped again in it. */
const costs: number[] = [];
let last = start;

requestAnimationFrame(function frame() {
  requestAnimationFrame(frame);
  const now = performance.now();
  ears.step(now);
  const begun = performance.now();
  match.advance(now - start);
  costs.push(performance.now() - begun);
  if (costs.length > 120) costs.shift();
  for (const seat of SEATS) {
    for (const bubble of bubbles[seat]) bubble.age += (now - last) / BUBBLE_MS;
    bubbles[seat] = bubbles[seat].filter(({ age }) => age < 1);
    draw(find<HTMLCanvasElement>(seat), match.sides[seat], bubbles[seat]);
    tell(seat);
  }
  last = now;
  tellBoth();
});

function tell(seat: Seat): void {
  const { tick, confirmed, cost } = match.sides[seat];
  const mean = cost.rollbacks === 0 ? 0 : cost.ticksAgain / cost.rollbacks;
  find(`${seat}-told`).textContent =
    `tick ${tick}, ${tick - confirmed} ahead of what both know; ` +
    `rolled back ${cost.rollbacks} times, ${mean.toFixed(1)} ticks each, ${cost.mostTicks} at most`;
}

function tellBoth(): void {
  const { compared, unequalAt, sent, sides, lines } = match;
  const sum = sides.amber.sumAt(compared)?.toString(16).padStart(8, "0") ?? "";
  const status = find("equal");
  status.dataset["equal"] = String(unequalAt === undefined);
  status.dataset["tick"] = String(compared);
  status.textContent =
    unequalAt === undefined
      ? `Both worlds are equal at tick ${compared}: ${sum}`
      : `The worlds differ since tick ${unequalAt}`;
  const cost = costs.reduce((all, one) => all + one, 0) / Math.max(1, costs.length);
  const seconds = Math.max(1, sides.amber.tick * TICK_MS) / 1000;
  find("line-told").textContent =
    `${(sent.bytes / seconds / 2).toFixed(0)} bytes a second each way, ${lines.amber.lost + lines.teal.lost} of ${sent.messages} messages lost; ` +
    `stepping takes ${cost.toFixed(2)} ms a frame`;
}
