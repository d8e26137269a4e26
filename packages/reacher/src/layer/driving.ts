/** The values that a game may drive an action by. In: what it passed. Out: two numbers, or an error that says what fits. */
import { Way } from "../engine/meanings.js";
import type { CheckedAction } from "../plan/checked.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";

/** How a drive meets the hands: the longer of both counts, both are added, or the hands do not count. */
const WAYS = { longest: Way.Longest, add: Way.Add, alone: Way.Alone } as const;
export type DriveWay = keyof typeof WAYS;

/** How a drive of such an action meets the hands where nothing is said. `sums`: whether it adds up what its sources give. */
function usualWay(sums: boolean): DriveWay {
  return sums ? "add" : "longest";
}

/** For a trace: the way that the engine has, where it is not the usual one. */
export function unusualWay(way: Way, sums: boolean): { how?: DriveWay } {
  const how = (Object.keys(WAYS) as DriveWay[]).find((name) => WAYS[name] === way)!;
  return how === usualWay(sums) ? {} : { how };
}

/** Nobody waits longer for a cutscene to begin. */
const MOST_BLEND_MS = 60_000;

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

/** How it is driven: the way as the engine has it, and how long it blends, in ms. @throws ReacherError */
export function drivenHow(
  action: CheckedAction,
  options: { how?: unknown; blendMs?: unknown; alone?: unknown },
) {
  const sums = action.kind !== "switch" && action.kind !== "turn" && action.combine === "sum";
  const { how = usualWay(sums), blendMs = 0 } = options;
  if (options.alone !== undefined)
    throw new ReacherError('alone is no option of drive; did you mean { how: "alone" }?');
  if (action.kind === "switch" && (options.how !== undefined || options.blendMs !== undefined))
    throw new ReacherError(
      `${action.name} is a switch, which is on or off: drive takes no how and no blendMs there`,
    );
  const fault = faultOfHow(how, blendMs);
  if (fault !== undefined) throw new ReacherError(fault);
  return { way: WAYS[how as DriveWay], blendMs: blendMs as number };
}

/** What is wrong with how something is driven, if anything is. */
export function faultOfHow(how: unknown = "longest", blendMs: unknown = 0): string | undefined {
  if (typeof how !== "string" || !Object.hasOwn(WAYS, how))
    return `how is ${shown(how)}; it is "longest", "add" or "alone"`;
  if (typeof blendMs !== "number" || !(blendMs >= 0 && blendMs <= MOST_BLEND_MS))
    return `blendMs is ${shown(blendMs)}; it is a time in ms, from 0 to ${MOST_BLEND_MS}`;
  return undefined;
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
