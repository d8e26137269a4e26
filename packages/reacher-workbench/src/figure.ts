/** The figure on the stage. In: a reading, or a timeline at a moment. Out: its position and look. May change: its trail. */
import type { AxisReading, Plan, SwitchReading, TurnReading, VectorReading } from "reacher";
import type { Timeline } from "./timeline/lanes";
import { isOnAt } from "./timeline/timeline";
import type { Trail } from "./trail";

export type AnyReading = SwitchReading | AxisReading | VectorReading | TurnReading;

export interface Figure {
  /** In the pace's unit times seconds, from the middle; y up. */
  readonly x: number;
  readonly y: number;
  readonly facing: readonly [number, number];
  readonly gait: string | null;
  readonly gaits: readonly string[];
  readonly isMoving: boolean;
  /** The grid spacing, so that a pace in metres and one in pixels both fit the stage. */
  readonly grid: number;
  /** The switches that are on. */
  readonly on: readonly string[];
}

/** The longest frame, in ms: after a longer gap the page was asleep. */
const LONGEST_FRAME_MS = 100;

/** The present figure, one frame after the last. */
export function presentFigure(
  reading: Readonly<Record<string, AnyReading>>,
  plan: Plan,
  movement: string,
  trail: Trail,
  now: number,
): Figure {
  const own = reading[movement];
  const ms = Math.min(now - trail.at, LONGEST_FRAME_MS);
  let [vx, vy] = [0, 0];
  let facing: readonly [number, number] = [1, 0];
  if (own !== undefined && "vx" in own) {
    [vx, vy] = [own.vx || own.x, (own.vy || own.y) * (plan.yAxis === "down" ? -1 : 1)];
    facing = [own.facing.x, own.facing.y * (plan.yAxis === "down" ? -1 : 1)];
  } else if (own !== undefined && "value" in own) {
    vx = own.v || own.value;
    facing = [own.facing, 0];
  }
  const gait = own !== undefined && "gait" in own ? own.gait : null;
  trail.grid = gridFor(own !== undefined && "pace" in own ? own.pace : 1);
  const on = Object.keys(reading).filter((name) => {
    const one = reading[name]!;
    return "on" in one && one.on;
  });
  trail.go(now, (vx * ms) / 1000, (vy * ms) / 1000, gait, trail.began(on));
  return {
    x: trail.x,
    y: trail.y,
    facing,
    gait,
    grid: trail.grid,
    gaits: gaitsOf(plan, movement),
    isMoving: vx !== 0 || vy !== 0,
    on,
  };
}

/** The figure at a moment of a timeline, with the path up to there as its trail. */
export function pastFigure(
  timeline: Timeline,
  seat: string,
  movement: string,
  cursor: number,
  trail: Trail,
): Figure {
  const lane = timeline.actions.find((action) => action.seat === seat && action.action === movement);
  const switches = timeline.actions.filter((action) => action.seat === seat && action.kind === "switch");
  const beginnings = switches
    .flatMap(({ action, bars }) => bars.map(({ from }) => ({ action, from })))
    .sort((a, b) => a.from - b.from);
  let next = 0;
  const beganBy = (t: number) => {
    let began: string | undefined;
    for (; next < beginnings.length && beginnings[next]!.from <= t; next++)
      began ??= beginnings[next]!.action;
    return began;
  };
  let facing: readonly [number, number] = [1, 0];
  let isMoving = false;
  const moving = lane?.moving ?? [];
  trail.grid = gridFor(moving[0]?.pace ?? 1);
  const gaits = new Set<string>();
  let gait: string | null = null;
  for (const [n, one] of moving.entries()) {
    if (one.at > cursor) break;
    const until = Math.min(moving[n + 1]?.at ?? timeline.to, cursor);
    const speed = one.pace || 1;
    const pieces = Math.max(1, Math.ceil((until - one.at) / 50));
    for (let piece = 1; piece <= pieces; piece++) {
      const ms = (until - one.at) / pieces;
      const at = one.at + ms * piece;
      trail.go(
        at,
        (one.x * speed * ms) / 1000,
        (one.y * speed * ms) / 1000,
        one.gait,
        beganBy(piece === 1 ? one.at : at),
      );
    }
    gait = one.gait;
    if (one.gait !== null) gaits.add(one.gait);
    isMoving = one.x !== 0 || one.y !== 0;
    if (isMoving) facing = [one.x, one.y];
  }
  return {
    x: trail.x,
    y: trail.y,
    facing,
    gait,
    grid: trail.grid,
    gaits: [...gaits],
    isMoving,
    on: switches.filter(({ bars }) => isOnAt(bars, cursor)).map(({ action }) => action),
  };
}

/** A power of ten, such that the figure crosses a few lines per second. */
function gridFor(pace: number): number {
  return 10 ** Math.round(Math.log10((pace || 1) / 3));
}

function gaitsOf(plan: Plan, movement: string): readonly string[] {
  const action = plan.actions[movement];
  return action !== undefined && "gaits" in action && action.gaits !== undefined
    ? Object.keys(action.gaits)
    : [];
}
