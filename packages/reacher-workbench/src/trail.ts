/** The path of the figure, as it is drawn. */

interface Step {
  readonly x: number;
  readonly y: number;
  readonly gait: string | null;
  /** A switch that turned on here. */
  readonly began: string | undefined;
}

/** How many steps of the way are drawn. */
const MOST_STEPS = 600;
/** The shortest step that is drawn, in grid lines. */
const LEAST_STEP = 0.02;

/** The path of the figure. May change: itself. */
export class Trail {
  x = 0;
  y = 0;
  at = 0;
  grid = 1;
  readonly steps: Step[] = [];
  private wasOn: readonly string[] | undefined;

  /** Which of these switches was not on at the last call. */
  began(on: readonly string[]): string | undefined {
    const was = this.wasOn ?? on;
    this.wasOn = on;
    return on.find((name) => !was.includes(name));
  }

  go(at: number, dx: number, dy: number, gait: string | null, began: string | undefined): void {
    this.at = at;
    this.x += dx;
    this.y += dy;
    const last = this.steps.at(-1);
    const isFar =
      last === undefined || Math.hypot(this.x - last.x, this.y - last.y) >= LEAST_STEP * this.grid;
    if (!isFar && began === undefined) return;
    this.steps.push({ x: this.x, y: this.y, gait, began });
    if (this.steps.length > MOST_STEPS) this.steps.shift();
  }
}
