/** Draws the farm at night, seen from above. In: the diver and a canvas. Out: pixels. */
import { CURRENT, FARM, type Diver } from "./diver";

const WATER = "#06202b";
const DEEP = "#041620";
const KELP = ["#2c6b4f", "#3b7f57", "#245a48"];
const ROPE = "#a39a78";
/** A diver's suit and fins. */
const SUITS: Readonly<Record<string, readonly [string, string]>> = {
  amber: ["#f2a93b", "#b3701a"],
  teal: ["#4fc9c0", "#1f7f7d"],
};

/** A frond of kelp; the same ones at every start. */
const FRONDS = plantFronds();

export function drawFarm(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  divers: readonly Diver[],
  seconds: number,
): void {
  const scale = Math.min(width / FARM.width, height / FARM.height);
  pen.resetTransform();
  pen.fillStyle = DEEP;
  pen.fillRect(0, 0, width, height);
  pen.setTransform(scale, 0, 0, -scale, width / 2, height / 2);
  pen.fillStyle = WATER;
  pen.fillRect(-FARM.width / 2, -FARM.height / 2, FARM.width, FARM.height);
  drawBank(pen);
  drawCurrent(pen, seconds);
  drawRopes(pen);
  for (const diver of divers) if (diver.lamp) drawLight(pen, diver);
  pen.resetTransform();
  pen.drawImage(kelpAt(width, height, scale, seconds), 0, 0);
  pen.setTransform(scale, 0, 0, -scale, width / 2, height / 2);
  for (const { x, y, age } of divers.flatMap(({ bubbles }) => bubbles)) {
    pen.strokeStyle = `rgba(205, 236, 240, ${0.7 * (1 - age)})`;
    pen.lineWidth = 0.05;
    pen.beginPath();
    pen.arc(x + Math.sin(age * 9) * 0.15, y, 0.1 + age * 0.25, 0, 7);
    pen.stroke();
  }
  for (const diver of divers) {
    drawDiver(pen, diver);
    drawWork(pen, diver);
    drawThrows(pen, diver);
  }
}

/** The sandy bank at the lower edge. */
function drawBank(pen: CanvasRenderingContext2D): void {
  const [left, bottom] = [-FARM.width / 2, -FARM.height / 2];
  pen.fillStyle = "#2a3a33";
  pen.beginPath();
  pen.moveTo(left, bottom);
  for (let x = 0; x <= FARM.width; x++) pen.lineTo(left + x, bottom + 0.75 + Math.sin(x * 1.7) * 0.18);
  pen.lineTo(-left, bottom);
  pen.fill();
}

/** Streaks of the current, in its corner. */
function drawCurrent(pen: CanvasRenderingContext2D, seconds: number): void {
  const { fromX, fromY, drift } = CURRENT;
  const [width, height] = [FARM.width / 2 - fromX, FARM.height / 2 - fromY];
  pen.strokeStyle = "rgba(120, 190, 205, 0.22)";
  pen.lineWidth = 0.06;
  for (let n = 0; n < 14; n++) {
    const way = (n * 0.37 + seconds * 0.22) % 1;
    const x = FARM.width / 2 - way * width;
    const y = fromY + (((n * 5) % 14) / 14) * height;
    pen.beginPath();
    pen.moveTo(x, y);
    pen.lineTo(x + drift.x * 4, y + drift.y * 4);
    pen.stroke();
  }
}

/** Buoys that were thrown, and how far the next one is drawn. */
function drawThrows(pen: CanvasRenderingContext2D, { x, y, aim, drawn, buoys }: Diver): void {
  for (const buoy of buoys) {
    pen.fillStyle = `rgba(242, 169, 59, ${1 - buoy.age})`;
    pen.beginPath();
    pen.arc(buoy.x, buoy.y - buoy.age, 0.32, 0, 7);
    pen.fill();
  }
  if (drawn === 0) return;
  const far = 2 + 6 * drawn;
  pen.strokeStyle = "#f5e6c4";
  pen.lineWidth = 0.08;
  pen.beginPath();
  pen.moveTo(x, y);
  pen.lineTo(x + Math.cos(aim) * far, y + Math.sin(aim) * far);
  pen.stroke();
}

/** The ring of a haul, the shears' cut, the flash to the boat. */
function drawWork(pen: CanvasRenderingContext2D, diver: Diver): void {
  if (diver.haul > 0) {
    pen.strokeStyle = diver.reeling ? "#f5e6c4" : "#57c7c1";
    pen.lineWidth = 0.16;
    pen.beginPath();
    pen.arc(diver.x, diver.y, 1.7, Math.PI / 2, Math.PI / 2 - diver.haul * 2 * Math.PI, true);
    pen.stroke();
  }
  if (diver.cut > 0) {
    pen.strokeStyle = `rgba(255, 255, 255, ${diver.cut})`;
    pen.lineWidth = 0.1;
    const x = diver.x + Math.cos(diver.heading) * 1.5;
    const y = diver.y + Math.sin(diver.heading) * 1.5;
    pen.beginPath();
    pen.moveTo(x - 0.35, y - 0.35);
    pen.lineTo(x + 0.35, y + 0.35);
    pen.moveTo(x - 0.35, y + 0.35);
    pen.lineTo(x + 0.35, y - 0.35);
    pen.stroke();
  }
  if (diver.flash > 0) {
    pen.fillStyle = `rgba(255, 240, 200, ${diver.flash * 0.5})`;
    pen.beginPath();
    pen.arc(diver.x, diver.y, 2 + (1 - diver.flash) * 9, 0, 7);
    pen.fill();
  }
}

function drawRopes(pen: CanvasRenderingContext2D): void {
  pen.strokeStyle = ROPE;
  pen.lineWidth = 0.07;
  for (let y = -12; y <= 12; y += 6) {
    pen.beginPath();
    pen.moveTo(-FARM.width / 2 + 1, y);
    pen.lineTo(FARM.width / 2 - 1, y);
    pen.stroke();
    for (const x of [-16.5, 0, 16.5]) {
      pen.fillStyle = "#d8553c";
      pen.beginPath();
      pen.arc(x, y, 0.35, 0, 7);
      pen.fill();
    }
  }
}

/** Kelp sways slowly and has a thousand blades: it is drawn anew so often in a second, and copied in between. */
const SWAYS = 12;
let kelp: { readonly canvas: HTMLCanvasElement; readonly what: string } | undefined;

function kelpAt(width: number, height: number, scale: number, seconds: number): HTMLCanvasElement {
  const sway = Math.floor(seconds * SWAYS);
  const what = `${width} ${height} ${sway}`;
  if (kelp?.what === what) return kelp.canvas;
  const canvas = kelp?.canvas ?? document.createElement("canvas");
  // This clears it as well.
  canvas.width = width;
  canvas.height = height;
  const pen = canvas.getContext("2d")!;
  pen.setTransform(scale, 0, 0, -scale, width / 2, height / 2);
  drawKelp(pen, sway / SWAYS);
  kelp = { canvas, what };
  return canvas;
}

function drawKelp(pen: CanvasRenderingContext2D, seconds: number): void {
  pen.lineCap = "round";
  for (const { x, y, length, tone, phase } of FRONDS) {
    pen.strokeStyle = pen.fillStyle = KELP[tone]!;
    pen.lineWidth = 0.1;
    pen.beginPath();
    pen.moveTo(x, y);
    const blades = Math.round(length / 0.32);
    for (let n = 1; n <= blades; n++) {
      const down = (n / blades) * length;
      const sway = Math.sin(seconds * 0.9 + phase + down * 1.3) * 0.16 * down;
      pen.lineTo(x + sway, y - down);
    }
    pen.stroke();
    pen.beginPath();
    for (let n = 1; n <= blades; n++) {
      const down = (n / blades) * length;
      const sway = Math.sin(seconds * 0.9 + phase + down * 1.3) * 0.16 * down;
      const side = n % 2 === 0 ? 1 : -1;
      pen.ellipse(x + sway + side * 0.2, y - down - 0.04, 0.26, 0.085, side * (0.5 + sway * 0.4), 0, 7);
      pen.closePath();
    }
    pen.fill();
  }
}

function drawLight(pen: CanvasRenderingContext2D, diver: Diver): void {
  const reach = 9;
  const half = 0.42;
  const light = pen.createRadialGradient(diver.x, diver.y, 0.4, diver.x, diver.y, reach);
  light.addColorStop(0, "rgba(255, 226, 160, 0.55)");
  light.addColorStop(1, "rgba(255, 226, 160, 0)");
  pen.fillStyle = light;
  pen.beginPath();
  pen.moveTo(diver.x, diver.y);
  pen.arc(diver.x, diver.y, reach, diver.aim - half, diver.aim + half);
  pen.closePath();
  pen.fill();
}

export function drawDiver(pen: CanvasRenderingContext2D, diver: Diver): void {
  const size = 1 + diver.depth * 0.1;
  pen.save();
  pen.translate(diver.x, diver.y);
  pen.rotate(diver.heading);
  pen.scale(size, diver.tucked ? size * 0.62 : size);
  const beat = Math.sin(diver.strokes * 2.4) * (diver.kicking ? 0.4 : diver.stroke);
  const [suit, fins] = SUITS[diver.name]!;
  pen.fillStyle = fins;
  for (const side of [-1, 1]) {
    pen.beginPath();
    pen.ellipse(-1.15, side * 0.26 + beat * side, 0.55, 0.17, side * beat, 0, 7);
    pen.fill();
  }
  pen.fillStyle = suit;
  pen.beginPath();
  pen.ellipse(-0.2, 0, 0.85, 0.42, 0, 0, 7);
  pen.fill();
  for (const side of [-1, 1]) {
    pen.beginPath();
    pen.ellipse(0.1, side * (diver.tucked ? 0.36 : 0.55), 0.4, 0.13, side * (diver.tucked ? 0 : -0.5), 0, 7);
    pen.fill();
  }
  pen.fillStyle = "#dfe9e4";
  pen.fillRect(-0.65, -0.16, 0.75, 0.32);
  pen.fillStyle = "#f6d9ae";
  pen.beginPath();
  pen.arc(0.72, 0, 0.27, 0, 7);
  pen.fill();
  pen.fillStyle = "#123544";
  pen.fillRect(0.82, -0.17, 0.16, 0.34);
  pen.restore();
}

function plantFronds() {
  const fronds: { x: number; y: number; length: number; tone: number; phase: number }[] = [];
  // A small number generator of our own, so that the farm is the same at every start.
  let number = 7;
  const next = () => (number = (number * 16807) % 2147483647) / 2147483647;
  for (let y = -12; y <= 12; y += 6) {
    for (let x = -16; x <= 16; x += 0.8) {
      if (next() < 0.25) continue;
      fronds.push({
        x: x + next() * 0.4,
        y,
        length: 1.2 + next() * 1.8,
        tone: Math.floor(next() * 3),
        phase: next() * 7,
      });
    }
  }
  return fronds;
}
