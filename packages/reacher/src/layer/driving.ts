/** The values that a game may drive an action by. In: what it passed. Out: two numbers, or an error that says what fits. */
import type { CheckedAction } from "../plan/checked.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/findings.js";

export type Driving =
  boolean | number | Readonly<{ x: number; y: number }> | readonly [number, number] | null;

/** x and y (for a switch 1 and 0); `null` if it lets go. @throws ReacherError */
export function drivenValue({ name, kind }: CheckedAction, given: Driving): readonly [number, number] | null {
  if (kind === "turn")
    throw new ReacherError(`${name} is a turn, which nothing drives; turn the view in the game instead`);
  if (given === false || given === null || given === undefined) return null;
  if (kind === "switch") {
    if (given === true) return [1, 0];
    throw unfit(name, given, "true or false");
  }
  if (kind === "axis") {
    if (typeof given === "number" && Number.isFinite(given)) return [given, 0];
    throw unfit(name, given, "a number from -1 to 1, or null");
  }
  const [x, y] = pairOf(given);
  if (Number.isFinite(x) && Number.isFinite(y)) return [x, y];
  throw unfit(name, given, "{ x, y } from -1 to 1, or null");
}

function pairOf(given: Driving): readonly [number, number] {
  if (typeof given !== "object" || given === null) return [NaN, NaN];
  const [x, y] = Array.isArray(given)
    ? (given as readonly unknown[])
    : [(given as { x?: unknown }).x, (given as { y?: unknown }).y];
  return typeof x === "number" && typeof y === "number" ? [x, y] : [NaN, NaN];
}

function unfit(name: string, given: unknown, fits: string): ReacherError {
  return new ReacherError(`${shown(given)} does not drive ${name}; give ${fits}`);
}

export function countBits(bits: number): number {
  let count = 0;
  for (let left = bits; left !== 0; left &= left - 1) count++;
  return count;
}
