/** The last five seconds as a strip. In: rows, ten times a second. Out: a drawing. May change: its own past. */
import type { PanelRow } from "./rows.js";

const COLUMNS = 50;
const ROW = 4;

export class Strip {
  private readonly past: (readonly boolean[])[] = [];

  constructor(private readonly canvas: HTMLCanvasElement) {}

  draw(rows: readonly PanelRow[]): void {
    const { canvas, past } = this;
    past.push(rows.map(({ isOn }) => isOn));
    if (past.length > COLUMNS) past.shift();
    const width = COLUMNS * 5;
    const height = Math.max(1, rows.length) * ROW;
    if (canvas.width !== width) canvas.width = width;
    if (canvas.height !== height) canvas.height = height;
    const pen = canvas.getContext("2d")!;
    pen.clearRect(0, 0, width, height);
    pen.fillStyle = "#f2a65a";
    past.forEach((column, n) =>
      column.forEach(
        (isOn, row) => isOn && pen.fillRect((COLUMNS - past.length + n) * 5, row * ROW, 5, ROW - 1),
      ),
    );
  }
}
