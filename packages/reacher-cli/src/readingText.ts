/** A reading in a few characters, for columns of a table. */
import { signed } from "./output.js";

/** `on`, `-0.5`, `(+0.71, +0.71) race at 2.4`; `still` where nothing moves. `paced`: with the speed that the plan gives it. */
export function readingText(reading: Readonly<Record<string, unknown>>, paced: boolean): string {
  if ("on" in reading) return reading["on"] === true ? "on" : "-";
  if ("value" in reading) return signed(reading["value"] as number);
  if ("dx" in reading) {
    const { dx, dy } = reading as { dx: number; dy: number };
    return dx === 0 && dy === 0 ? "still" : `(${signed(dx)}, ${signed(dy)})`;
  }
  const { x, y, gait, pace } = reading as { x: number; y: number; gait: string | null; pace: number };
  if (x === 0 && y === 0) return "still";
  const speed = paced ? `at ${Math.round(pace * 100) / 100}` : null;
  return [`(${signed(x)}, ${signed(y)})`, gait, speed].filter((part) => part !== null).join(" ");
}
