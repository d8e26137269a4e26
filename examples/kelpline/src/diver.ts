/** The diver and the water around: where things are. In: a reading and the time passed. Out: a changed diver. */
import type { KelplineReading } from "../plan/kelpline.plan.json";

/** The farm's size in metres. */
export const FARM = { width: 36, height: 30 };

export interface Diver {
  readonly name: string;
  /** Metres from the farm's middle, x right, y up. */
  x: number;
  y: number;
  /** Metres above the middle depth. */
  depth: number;
  /** The way the body points, in radians; it follows the facing. */
  heading: number;
  /** The way the lamp points. */
  aim: number;
  lamp: boolean;
  tucked: boolean;
  kicking: boolean;
  /** Strokes so far: the fins follow it, wide in a race and hardly at all in a drift. */
  strokes: number;
  stroke: number;
  surging: boolean;
  reeling: boolean;
  /** 0..1. */
  air: number;
  /** How far a haul has come, 0..1. */
  haul: number;
  grabs: number;
  /** How far a throw is drawn, 0..1; and the buoys thrown, which drift and sink. */
  drawn: number;
  readonly buoys: { x: number; y: number; age: number }[];
  /** Whether it crawls along the bank at the farm's lower edge. */
  onBank: boolean;
  snips: number;
  /** Light of a flash or of the shears, 1 fading to 0. */
  flash: number;
  cut: number;
  /** How long the mouse's aim still holds, in seconds. */
  swept: number;
  readonly bubbles: { x: number; y: number; age: number }[];
}

const DEPTH_SPEED = 1.5;
const DEEPEST = 3;
const BUBBLE_SECONDS = 1.6;
/** A surge lasts this long at most, and adds this many metres per second. */
const SURGE_MS = 350;
const SURGE_SPEED = 9;

/** A throw is drawn to the full in this time, and its buoy floats so long. */
const DRAWN_MS = 900;
const BUOY_SECONDS = 12;

/** How far the fins swing, in radians, by gait. */
const STROKES: Readonly<Record<string, number>> = { drift: 0.07, cruise: 0.17, race: 0.32 };
/** How long the lamp stays where the mouse has swept it, in seconds. */
const SWEPT_SECONDS = 2;

export function newDiver(name: string, x: number): Diver {
  return {
    name,
    x,
    y: -2,
    depth: 0,
    heading: 0,
    aim: 0,
    lamp: true,
    tucked: false,
    kicking: false,
    strokes: 0,
    stroke: 0,
    swept: 0,
    surging: false,
    reeling: false,
    air: 1,
    haul: 0,
    grabs: 0,
    drawn: 0,
    buoys: [],
    onBank: false,
    snips: 0,
    flash: 0,
    cut: 0,
    bubbles: [],
  };
}

/** Moves the diver by one frame of `dt` seconds. */
export function moveDiver(
  diver: Diver,
  { swim, along, depth, aim, sweep, kick, tuck, surge, haul, lamp, cast }: KelplineReading,
  dt: number,
): void {
  const dash = surge.on && surge.onMs < SURGE_MS ? SURGE_SPEED : 0;
  diver.x = clamp(diver.x + (swim.vx + swim.facing.x * dash) * dt, FARM.width / 2 - 1);
  diver.y = clamp(diver.y + (swim.vy + swim.facing.y * dash) * dt, FARM.height / 2 - 1);
  if (diver.onBank) diver.x = clamp(diver.x + along.v * dt, FARM.width / 2 - 1);
  diver.drawn = Math.min(1, cast.onMs / DRAWN_MS);
  for (const buoy of diver.buoys) buoy.age += dt / BUOY_SECONDS;
  while (diver.buoys[0] !== undefined && diver.buoys[0].age > 1) diver.buoys.shift();
  diver.surging = dash > 0;
  diver.haul = haul.on ? 1 : haul.progress;
  diver.flash = Math.max(0, diver.flash - dt * 1.5);
  diver.cut = Math.max(0, diver.cut - dt * 5);
  diver.depth = clamp(diver.depth + depth.value * DEPTH_SPEED * dt, DEEPEST);
  const facing =
    diver.onBank && along.length > 0
      ? along.facing < 0
        ? Math.PI
        : 0
      : Math.atan2(swim.facing.y, swim.facing.x);
  diver.heading = turned(diver.heading, facing, dt * 12);
  diver.swept = sweep.dx !== 0 ? SWEPT_SECONDS : Math.max(0, diver.swept - dt);
  if (aim.length > 0) {
    diver.aim = turned(diver.aim, Math.atan2(aim.facing.y, aim.facing.x), dt * 10);
    diver.swept = 0;
  } else if (diver.swept > 0) diver.aim -= (sweep.dx * Math.PI) / 180;
  else diver.aim = turned(diver.aim, facing, dt * 10);
  diver.lamp = lamp.on;
  diver.tucked = tuck.on;
  diver.kicking = kick.on && swim.length > 0;
  diver.strokes += (0.6 + swim.length * swim.pace) * dt;
  diver.stroke += ((STROKES[swim.gait ?? ""] ?? 0.04) - diver.stroke) * Math.min(1, dt * 8);

  for (const bubble of diver.bubbles) bubble.age += dt / BUBBLE_SECONDS;
  while (diver.bubbles[0] !== undefined && diver.bubbles[0].age > 1) diver.bubbles.shift();
  const last = diver.bubbles.at(-1);
  if ((diver.kicking || diver.surging) && (last === undefined || last.age > (diver.surging ? 0.02 : 0.06))) {
    diver.bubbles.push({
      x: diver.x - Math.cos(diver.heading) * 0.9,
      y: diver.y - Math.sin(diver.heading) * 0.9,
      age: 0,
    });
  }
}

/** Throws a buoy, as far as it was drawn. */
export function throwBuoy(diver: Diver, heldMs: number): void {
  const far = 2 + 6 * Math.min(1, heldMs / DRAWN_MS);
  diver.buoys.push({
    x: diver.x + Math.cos(diver.aim) * far,
    y: diver.y + Math.sin(diver.aim) * far,
    age: 0,
  });
}

/** The bank begins here; who swims up from it leaves it. */
export function isAtBank({ y }: Diver): boolean {
  return y <= -FARM.height / 2 + 1.2;
}

/** Where the current runs, and which way it carries, as a share of full speed. */
export const CURRENT = { fromX: 8, fromY: 5.5, drift: { x: -0.3, y: -0.08 } };

export function isInCurrent({ x, y }: Diver): boolean {
  return x >= CURRENT.fromX && y >= CURRENT.fromY;
}

/** One cut of the shears. */
export function snipKelp(diver: Diver): void {
  diver.snips += 1;
  diver.cut = 1;
}

function clamp(value: number, most: number): number {
  return Math.max(-most, Math.min(most, value));
}

/** The angle `from`, turned towards `to` by the shorter way. */
function turned(from: number, to: number, most: number): number {
  const way = Math.atan2(Math.sin(to - from), Math.cos(to - from));
  return from + Math.max(-most, Math.min(most, way));
}
