import { createInputLayer, definePlan } from "reacher";
import { attachBrowser } from "reacher/browser";
import { attachTouch } from "reacher/touch";

const plan = definePlan({
  reacherPlan: 1,
  controls: {
    Thumb: { kind: "stick", label: "Move", device: "touch" },
    Run: { kind: "button", label: "Run", device: "touch" },
    Warm: { kind: "button", label: "Colour", device: "touch" },
  },
  actions: {
    move: {
      kind: "vector",
      from: {
        main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" },
        spare: { up: "ArrowUp", left: "ArrowLeft", down: "ArrowDown", right: "ArrowRight" },
        pad: "PadLeftStick",
        touch: "Thumb",
      },
      pace: { unit: "m/s", base: 3, rules: [{ when: "run", set: 6 }] },
    },
    run: { kind: "switch", from: { main: "ShiftLeft", pad: "PadSouth", touch: "Run" } },
    warm: { kind: "switch", style: "toggle", from: { main: "KeyE", pad: "PadNorth", touch: "Warm" } },
  },
});

const input = createInputLayer(plan);
attachBrowser(input);
const area = (control: string) => ({ control, element: document.getElementById(control)! });
attachTouch(input, ["Thumb", "Run", "Warm"].map(area)); // on a phone
// While you develop, with `?panel` in its address: what is held, what each action says, and why a press did nothing.
if (import.meta.env.DEV && location.search === "?panel")
  void import("reacher/panel").then(({ showPanel }) => showPanel(input));

const canvas = document.querySelector("canvas")!;
const pen = canvas.getContext("2d")!;
const square = { x: 0, y: 0 }; // metres from the middle
let last = performance.now();

requestAnimationFrame(function frame() {
  const now = performance.now();
  const { move, warm } = input.step(now);
  square.x += (move.vx * (now - last)) / 1000;
  square.y += (move.vy * (now - last)) / 1000;
  last = now;

  canvas.width = canvas.clientWidth;
  canvas.height = canvas.clientHeight;
  pen.fillStyle = warm.on ? "#ffb454" : "#57c7c1";
  pen.fillRect(canvas.width / 2 + square.x * 60 - 20, canvas.height / 2 - square.y * 60 - 20, 40, 40);
  requestAnimationFrame(frame);
});
