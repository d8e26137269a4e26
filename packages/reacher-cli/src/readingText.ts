/** A reading in a few characters, for columns of a table. */
import { signed } from "./output.js";

/** `on`, `-0.5 stroll at 150`, `(+0.71, +0.71) race at 2.4`; `still` where nothing moves. `paced`: with the speed that the plan gives it. */
export function readingText(reading: Readonly<Record<string, unknown>>, paced: boolean): string {
  if ("on" in reading) return reading["on"] === true ? "on" : "-";
  if ("dx" in reading) {
    const { dx, dy } = reading as { dx: number; dy: number };
    return dx === 0 && dy === 0 ? "still" : `(${signed(dx)}, ${signed(dy)})`;
  }
  const { gait, pace, length } = reading as { gait: string | null; pace: number; length: number };
  if (length === 0) return "still";
  const speed = paced ? `at ${Math.round(pace * 100) / 100}` : null;
  const { value, x, y } = reading as { value?: number; x: number; y: number };
  return [value === undefined ? `(${signed(x)}, ${signed(y)})` : signed(value), gait, speed]
    .filter((part) => part !== null)
    .join(" ");
}
