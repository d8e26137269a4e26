/**
 * Ramps that let a key rise and fall like a stick. In: what the keys of a mover give, whenever it changes. Out: what they
 * have come to at a moment, and the moments at which something hangs on it: a gait begins or ends, the ramp is over.
 *
 * A ramp is a function of time since the keys last changed, so that no step rate can be seen in it.
 */
import { clearDeadline, setDeadline } from "./deadlines.js";
import { Clock, MoverFloat, MoverInt } from "./layout.js";
import type { SeatState } from "./state.js";
import type { EaseTable, MoverTable } from "./tables.js";

/** Differences of time, in ms, and of length that are rounding. */
const NO_TIME = 1e-6;

/** What of an eased movement is asked for. */
export const enum Part {
  X,
  Y,
  Length,
}

/** One component, `ms` after it was at `from` and set out for `to`. */
function ramped(from: number, to: number, ms: number, ease: EaseTable): number {
  if (from === to) return to;
  let begin = from;
  let since = ms + NO_TIME;
  if (from * to < 0) {
    const zero = Math.abs(from) * ease.fallMs;
    if (since < zero) return from > 0 ? from - ms / ease.fallMs : from + ms / ease.fallMs;
    since -= zero;
    begin = 0;
  }
  const way = to > 0 || (to === 0 && begin < 0) ? 1 : -1;
  const grows = Math.abs(to) > Math.abs(begin);
  const gap = Math.abs(to - begin);
  const fullMs = grows ? ease.riseMs : ease.fallMs;
  if (since >= gap * fullMs) return to;
  const step = (since - NO_TIME) / fullMs;
  return begin + (grows ? way : begin > 0 ? -1 : 1) * (step > 0 ? step : 0);
}

/** How long a component takes from `from` to `to`, in ms. */
function rampMs(from: number, to: number, ease: EaseTable): number {
  const [a, b] = [Math.abs(from), Math.abs(to)];
  if (from * to < 0) return a * ease.fallMs + b * ease.riseMs;
  return b > a ? (b - a) * ease.riseMs : (a - b) * ease.fallMs;
}

/** The keys' component as it is now. */
function keyNow(state: SeatState, mover: MoverTable, part: Part.X | Part.Y): number {
  const { f } = state;
  const at = mover.f + part;
  const since = state.clock[Clock.Now]! - f[mover.f + MoverFloat.EaseAt]!;
  return ramped(f[at + MoverFloat.FromX]!, f[at + MoverFloat.ToX]!, since, mover.ease!);
}

/** Keys and sticks together as they are now. */
export function easedNow(state: SeatState, mover: MoverTable, part: Part): number {
  const { f, i } = state;
  let x = keyNow(state, mover, Part.X);
  let y = keyNow(state, mover, Part.Y);
  let length = Math.sqrt(x * x + y * y);
  if (mover.round && length > 1) {
    x /= length;
    y /= length;
    length = 1;
  }
  const sticks = f[mover.f + MoverFloat.StickLength]!;
  if (sticks > 0) {
    const stickX = f[mover.f + MoverFloat.StickX]!;
    const stickY = f[mover.f + MoverFloat.StickY]!;
    if (mover.sums) {
      x += stickX;
      y += stickY;
      length = Math.sqrt(x * x + y * y);
      if (length > 1) {
        x /= length;
        y /= length;
        length = 1;
      }
    } else if (sticks > length || (sticks === length && i[mover.i + MoverInt.Winner]! > 0)) {
      x = stickX;
      y = stickY;
      length = sticks;
    }
  }
  return part === Part.X ? x : part === Part.Y ? y : length;
}

/** Sets out for what the keys give now; true where that is another place. `atOnce`: a lost device and an action that is not live go there without a ramp. */
export function setOut(state: SeatState, mover: MoverTable, atOnce: boolean): boolean {
  const { f } = state;
  const at = mover.f;
  const live = state.isLive(mover.action);
  const toX = live ? f[at + MoverFloat.KeysX]! : 0;
  const toY = live ? f[at + MoverFloat.KeysY]! : 0;
  const other = toX !== f[at + MoverFloat.ToX] || toY !== f[at + MoverFloat.ToY];
  if (other) {
    const x = keyNow(state, mover, Part.X);
    const y = keyNow(state, mover, Part.Y);
    const { through } = mover.ease!;
    f[at + MoverFloat.FromX] = atOnce || !live ? toX : x * toX < 0 && !through ? 0 : x;
    f[at + MoverFloat.FromY] = atOnce || !live ? toY : y * toY < 0 && !through ? 0 : y;
    f[at + MoverFloat.ToX] = toX;
    f[at + MoverFloat.ToY] = toY;
    f[at + MoverFloat.EaseAt] = state.clock[Clock.Now]!;
  }
  waitForNext(state, mover);
  return other;
}

/** Waits for the next moment of the ramp on which something hangs. */
export function waitForNext(state: SeatState, mover: MoverTable): void {
  const { f } = state;
  const at = mover.f;
  const ease = mover.ease!;
  const [fromX, toX] = [f[at + MoverFloat.FromX]!, f[at + MoverFloat.ToX]!];
  const [fromY, toY] = [f[at + MoverFloat.FromY]!, f[at + MoverFloat.ToY]!];
  const begun = f[at + MoverFloat.EaseAt]!;
  const endX = begun + rampMs(fromX, toX, ease);
  const endY = begun + rampMs(fromY, toY, ease);
  const now = state.clock[Clock.Now]!;
  const end = Math.max(endX, endY);
  if (!(end > now + NO_TIME)) {
    clearDeadline(state, mover.easing);
    return;
  }
  let next = end;
  if (mover.gaitFrom.length > 0) {
    const kinks = [endX, endY, begun + Math.abs(fromX) * ease.fallMs, begun + Math.abs(fromY) * ease.fallMs];
    for (const kink of kinks) if (kink > now + NO_TIME) next = Math.min(next, kink);
    next = Math.min(next, now + crossing(state, mover, next - now));
  }
  setDeadline(state, mover.easing, next);
}

/** How long until the length reaches the next gait or falls below its own, within a straight piece of `within` ms; else Infinity. */
function crossing(state: SeatState, mover: MoverTable, within: number): number {
  const { f, i } = state;
  const gait = i[mover.i + MoverInt.Gait]!;
  const sum = mover.sums ? 1 : 0;
  const a = keyNow(state, mover, Part.X) + sum * f[mover.f + MoverFloat.StickX]!;
  const b = keyNow(state, mover, Part.Y) + sum * f[mover.f + MoverFloat.StickY]!;
  const dx = slope(state, mover, Part.X);
  const dy = slope(state, mover, Part.Y);
  const speed = dx * dx + dy * dy;
  const half = a * dx + b * dy;
  let first = Infinity;
  const look = (limit: number | undefined, way: 1 | -1) => {
    if (limit === undefined) return;
    const root = half * half - speed * (a * a + b * b - limit * limit);
    if (!(root > 0) || speed === 0) return;
    const ms = (-half + way * Math.sqrt(root)) / speed;
    if (ms > NO_TIME && ms <= within) first = Math.min(first, ms);
  };
  look(mover.gaitFrom[gait + 1], 1);
  if (gait >= 0) look(mover.gaitKept[gait], -1);
  return first;
}

/** By how much the keys' component changes in a ms, just after now. */
function slope(state: SeatState, mover: MoverTable, part: Part.X | Part.Y): number {
  const now = keyNow(state, mover, part);
  const to = state.f[mover.f + part + MoverFloat.ToX]!;
  const ease = mover.ease!;
  if (now === to) return 0;
  const grows = now * to >= 0 && Math.abs(to) > Math.abs(now);
  const way = to > now ? 1 : -1;
  return way / (grows ? ease.riseMs : ease.fallMs);
}

/** Whether the ramp is on its way. */
export function isEasing(state: SeatState, mover: MoverTable): boolean {
  return state.f[state.tables.deadlinesAt + mover.easing]! < Infinity;
}
