/** The page that is tried: a plan with something of everything, told to whoever asks. */
import { createInputLayer, definePlan } from "reacher";
import { attachBrowser, lockPointer } from "reacher/browser";
import { record } from "reacher/trace";

const plan = definePlan({
  reacherPlan: 1,
  actions: {
    move: {
      kind: "vector",
      from: {
        main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" },
        spare: { up: "ArrowUp", left: "ArrowLeft", down: "ArrowDown", right: "ArrowRight" },
        pad: "PadLeftStick",
      },
    },
    look: { kind: "turn", from: { main: { use: "MouseMove", perPixel: 0.1 } } },
    amberKick: { kind: "switch", from: { main: "ShiftLeft" } },
    tealKick: { kind: "switch", from: { main: "ShiftRight" } },
    surge: { kind: "switch", from: { main: { taps: 2, of: "KeyD", gapMs: 400 } } },
    rise: { kind: "switch", from: { main: "WheelUp" } },
    sink: { kind: "switch", from: { main: "WheelDown" } },
    mark: { kind: "switch", from: { main: "BracketLeft" } },
    snip: { kind: "switch", from: { main: "MouseMain", pad: "PadSouth" } },
    chart: { kind: "switch", from: { main: "MetaLeft" } },
    lamp: { kind: "switch", from: { main: "F10", spare: "AltLeft" } },
  },
});

const input = createInputLayer(plan);
const detach = attachBrowser(input);
const recorder = record(input);
const presses: Record<string, number> = {};
const counted = ["surge", "rise", "sink", "mark", "snip", "chart", "lamp"] as const;
let turned = 0;
/** Where the page is on the screen, in its px: a mouse that moved has told. */
let corner = { x: NaN, y: NaN };
addEventListener("mousemove", ({ screenX, screenY, clientX, clientY }) => {
  corner = { x: screenX - clientX, y: screenY - clientY };
});
requestAnimationFrame(function frame() {
  requestAnimationFrame(frame);
  const reading = input.step(performance.now());
  turned += Math.abs(reading.look.dx);
  for (const name of counted)
    if (reading[name].presses > 0) presses[name] = (presses[name] ?? 0) + reading[name].presses;
});

/** What the orders of a test may use. */
Object.assign(globalThis, {
  input,
  lockPointer,
  /** Hears another window in place of this one. */
  hear: (other: Window) => {
    detach();
    attachBrowser(input, { window: other });
  },
  /** Plays by the plan with other actions in place of some, or without them. */
  replan: (actions: object) => {
    const all = Object.entries({ ...plan.actions, ...actions }).filter(([, action]) => action !== undefined);
    input.setPlan({ ...plan, actions: Object.fromEntries(all) } as unknown as typeof plan);
  },
  view: () => {
    const { move, amberKick, tealKick, chart, lamp, mark, snip } = input.now;
    return {
      x: Math.round(move.x * 100) / 100,
      y: Math.round(move.y * 100) / 100,
      on: Object.entries({ amberKick, tealKick, chart, lamp, mark, snip })
        .filter(([, one]) => one?.on)
        .map(([name]) => name),
      presses,
      turned,
      corner,
      typed: document.querySelector("input")!.value,
      trace: recorder.text(),
    };
  },
});

// Orders come and answers go by the server alone: no driver stands between the hands and the page.
new EventSource("/orders").onmessage = async ({ data }) => {
  const { id, script } = JSON.parse(data) as { id: number; script: string };
  let answer: { value?: unknown; fault?: string };
  try {
    answer = { value: await (0, eval)(script) };
  } catch (error) {
    answer = { fault: String(error) };
  }
  await fetch("/answers", { method: "POST", body: JSON.stringify({ id, ...answer }) });
};
