/** Draws one side's world. In: a side, and bubbles. Out: pixels. */
import { SEATS, type Seat } from "./plan";
import type { Side } from "./side";
import { ROPE, WATER } from "./world";

/** A ring that a surge left, and how old it is, 0..1. */
export interface Bubble {
  readonly x: number;
  readonly y: number;
  readonly diver: Seat;
  age: number;
}

export const COLOURS: Readonly<Record<Seat, string>> = { amber: "#ffb454", teal: "#57c7c1" };

export function draw(canvas: HTMLCanvasElement, { world, layer }: Side, bubbles: readonly Bubble[]): void {
  const scale = devicePixelRatio;
  const [width, height] = [canvas.clientWidth, canvas.clientHeight];
  canvas.width = width * scale;
  canvas.height = height * scale;
  const pen = canvas.getContext("2d")!;
  pen.scale(scale, scale);
  const metre = Math.min(width / (2 * WATER.x + 0.6), height / (2 * WATER.y + 0.6));
  const x = (metres: number) => width / 2 + metres * metre;
  const y = (metres: number) => height / 2 - metres * metre;

  pen.fillStyle = "#0f2a3a";
  pen.fillRect(x(-WATER.x) - 12, y(WATER.y) - 12, 2 * WATER.x * metre + 24, 2 * WATER.y * metre + 24);
  const [ax, ay, tx, ty] = [world.x(0), world.y(0), world.x(1), world.y(1)];
  const slack = Math.max(0, ROPE - Math.hypot(tx - ax, ty - ay));
  pen.strokeStyle = slack > 0 ? "#8a7a5c" : "#e8d9b0";
  pen.lineWidth = 2;
  pen.beginPath();
  pen.moveTo(x(ax), y(ay));
  // A rope that is not taut hangs.
  pen.quadraticCurveTo(x((ax + tx) / 2), y((ay + ty) / 2 - slack), x(tx), y(ty));
  pen.stroke();
  for (const { x: left, y: top, diver, age } of bubbles) {
    pen.strokeStyle = COLOURS[diver];
    pen.globalAlpha = 1 - age;
    pen.beginPath();
    pen.arc(x(left), y(top), 6 + 26 * age, 0, 2 * Math.PI);
    pen.stroke();
    pen.globalAlpha = 1;
  }
  SEATS.forEach((seat, n) => {
    const { swim, kick } = layer.seat(seat).now;
    pen.save();
    pen.translate(x(world.x(n)), y(world.y(n)));
    pen.rotate(-Math.atan2(swim.facing.y, swim.facing.x));
    pen.fillStyle = COLOURS[seat];
    pen.beginPath();
    pen.ellipse(0, 0, kick.on ? 15 : 13, 7, 0, 0, 2 * Math.PI);
    pen.fill();
    pen.beginPath();
    pen.moveTo(-10, 0);
    pen.lineTo(-19, -6);
    pen.lineTo(-19, 6);
    pen.fill();
    pen.restore();
  });
}
