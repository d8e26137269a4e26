/** Draws the figure on its stage. In: a canvas, a figure, its trail. May change: the canvas, the trail. */
import type { Figure } from "./figure";
import type { Trail } from "./trail";

/** Pixels from line to line of the floor. */
const GRID_PX = 36;

export function drawStage(canvas: HTMLCanvasElement, figure: Figure, trail: Trail): void {
  const { clientWidth: width, clientHeight: height } = canvas;
  const ratio = devicePixelRatio;
  if (canvas.width !== Math.round(width * ratio)) canvas.width = Math.round(width * ratio);
  if (canvas.height !== Math.round(height * ratio)) canvas.height = Math.round(height * ratio);
  const pen = canvas.getContext("2d")!;
  const style = getComputedStyle(canvas);
  const colour = (name: string) => style.getPropertyValue(`--${name}`);
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, width, height);
  const grid = figure.grid;
  const scale = GRID_PX / grid;
  const [left, top] = [figure.x - width / 2 / scale, figure.y + height / 2 / scale];
  const toX = (x: number) => (x - left) * scale;
  const toY = (y: number) => (top - y) * scale;
  pen.strokeStyle = colour("line");
  pen.lineWidth = 1;
  pen.beginPath();
  for (let x = Math.ceil(left / grid) * grid; toX(x) < width; x += grid)
    pen.rect(Math.round(toX(x)) + 0.5, 0, 0, height);
  for (let y = Math.floor(top / grid) * grid; toY(y) < height; y -= grid)
    pen.rect(0, Math.round(toY(y)) + 0.5, width, 0);
  pen.stroke();

  const shades = ["gait-0", "gait-1", "gait-2", "gait-3"];
  const gaitColour = (gait: string | null) =>
    colour(gait === null ? "gait-none" : shades[Math.max(0, figure.gaits.indexOf(gait)) % shades.length]!);
  pen.lineWidth = 3;
  pen.lineCap = "round";
  for (const [n, step] of trail.steps.entries()) {
    const before = trail.steps[n - 1];
    if (before === undefined) continue;
    pen.strokeStyle = gaitColour(step.gait);
    pen.beginPath();
    pen.moveTo(toX(before.x), toY(before.y));
    pen.lineTo(toX(step.x), toY(step.y));
    pen.stroke();
  }
  pen.font = "11px system-ui, sans-serif";
  pen.textAlign = "center";
  for (const { x, y, began } of trail.steps) {
    if (began === undefined) continue;
    pen.fillStyle = colour("on");
    pen.fillRect(toX(x) - 3, toY(y) - 3, 6, 6);
    pen.fillStyle = colour("text-2");
    pen.fillText(began, toX(x), toY(y) - 8);
  }
  drawFigure(pen, toX(figure.x), toY(figure.y), figure, colour);
}

/** A round body with a beak that points where it faces, and a ring while anything is on. */
function drawFigure(
  pen: CanvasRenderingContext2D,
  x: number,
  y: number,
  { facing, isMoving, on }: Figure,
  colour: (name: string) => string,
): void {
  const angle = Math.atan2(-facing[1], facing[0]);
  pen.save();
  pen.translate(x, y);
  pen.rotate(angle);
  pen.fillStyle = colour(isMoving ? "move" : "rest");
  pen.beginPath();
  pen.arc(0, 0, 12, 0.5, Math.PI * 2 - 0.5);
  pen.lineTo(21, 0);
  pen.closePath();
  pen.fill();
  if (on.length > 0) {
    pen.strokeStyle = colour("on");
    pen.lineWidth = 2.5;
    pen.beginPath();
    pen.arc(0, 0, 17, 0.6, Math.PI * 2 - 0.6);
    pen.stroke();
  }
  pen.restore();
  pen.fillStyle = colour("text");
  pen.font = "12px system-ui, sans-serif";
  pen.textAlign = "center";
  pen.fillText(on.join(", "), x, y + 36);
}
