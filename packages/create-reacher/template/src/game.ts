/** The game itself: what a step of the layer says becomes movement. */
import { input, loadKeys, openSettings } from "./input.js";

const GRAVITY = 22;
const JUMP = 9;
/** Let go early, and the jump is a short one. */
const CUT = 0.45;

export const diver = { x: 0, y: 0, up: 0 };

function move(seconds: number): void {
  const { walk, jump } = input.now;
  diver.x += walk.v * seconds;
  if (jump.turnedOn) diver.up = JUMP;
  if (jump.turnedOff && diver.up > 0) diver.up *= CUT;
  diver.up -= GRAVITY * seconds;
  diver.y = Math.max(0, diver.y + diver.up * seconds);
  if (diver.y === 0 && diver.up < 0) diver.up = 0;
  // The plan knows how long after the edge a jump still counts, and how early a press may come.
  const grounded = diver.y === 0;
  if (input.flags.grounded !== grounded && !(grounded && jump.turnedOn)) input.setFlag("grounded", grounded);
}

function draw(pen: CanvasRenderingContext2D): void {
  const { canvas } = pen;
  canvas.width = canvas.clientWidth;
  canvas.height = canvas.clientHeight;
  const floor = canvas.height * 0.75;
  const scale = canvas.width / 16;
  pen.fillStyle = "#1b3743";
  pen.fillRect(0, floor, canvas.width, canvas.height - floor);
  pen.fillStyle = input.now.run.on ? "#ffb454" : "#57c7c1";
  const x = (((diver.x + 8) % 16) + 16) % 16;
  pen.fillRect(x * scale - 20, floor - diver.y * scale - 40, 40, 40);
}

/** Runs the game on this canvas; returns what ends it. */
export async function play(canvas: HTMLCanvasElement): Promise<() => void> {
  await loadKeys();
  const pen = canvas.getContext("2d")!;
  const off = input.on("menu", "on", () => {
    if (input.modes.includes("play") && !input.modes.includes("menu")) void openSettings();
  });
  let last = performance.now();
  let frame = requestAnimationFrame(function next() {
    frame = requestAnimationFrame(next);
    const now = performance.now();
    input.step(now);
    move(Math.min(0.1, (now - last) / 1000));
    last = now;
    draw(pen);
  });
  return () => {
    cancelAnimationFrame(frame);
    off();
  };
}
