/**
 * Axes and vectors: from keys and sticks to a direction with a length.
 * In: ends pressed and released, raw stick values. Out: x, y and length, the facing, the gait, and the fact "it moves".
 *
 * The order of work is the design's: opposite directions, number of directions, diagonal; sticks shaped one by one;
 * then keys and sticks together, of which the longest wins.
 */
import { clearDeadline } from "./deadlines.js";
import { faceMovement } from "./facing.js";
import { updateGait } from "./gaits.js";
import { strongest } from "./signals.js";
import { shapedTravel } from "./shape.js";
import type { SeatState } from "./state.js";
import { NEUTRAL, LATEST, PRESSES_SEEN, type EndTable, type MoverTable, type SignalTable } from "./tables.js";
import { keepSector, sectorX, sectorY } from "./sectors.js";
import type { Device } from "../controls/catalogue.js";

/** Ends of a mover. */
export const LEFT = 0;
export const RIGHT = 1;
export const DOWN = 2;
export const UP = 3;

/** State of a mover, floats. */
export const X = 0;
export const Y = 1;
export const LENGTH = 2;
export const FACE_X = 3;
export const FACE_Y = 4;
export const PACE_FROM = 5;
export const PACE_TO = 6;
export const PACE_AT = 7;
export const MOVER_FLOATS = 8;

/** Ints: by end, the keys down, and the number of the newest and of the first press of those held ... */
const KEYS = 0;
const NEWEST = 4;
const FIRST = 8;
/** ... who gives the movement (0 the keys, n + 1 its stick n, -1 nobody), facing of eight or -1, facing to settle on or -1, gait or -1 ... */
const WINNER = 12;
export const FACE = 13;
export const SETTLING = 14;
export const GAIT = 15;
/** ... and the device of the newest key. */
const KEY_DEVICE = 16;
export const MOVER_INTS = 17;

/** Shaped values of a stick, floats. */
const STICK_X = 0;
const STICK_Y = 1;
const STICK_LENGTH = 2;
export const STICK_FLOATS = 3;
export const STICK_INTS = 1;

const DEVICES: readonly Device[] = ["keyboard", "mouse", "pad"];
const NO_SECTOR = -1;

/** A source of this end went down. */
export function pressEnd(state: SeatState, end: EndTable, signal: SignalTable): void {
  const { i } = state;
  const mover = state.tables.mover[end.mover]!;
  const press = ++i[PRESSES_SEEN]!;
  if (i[mover.i + KEYS + end.end] === 0) i[mover.i + FIRST + end.end] = press;
  // A further key on a direction already held counts as pressed anew.
  i[mover.i + NEWEST + end.end] = press;
  i[mover.i + KEY_DEVICE] = DEVICES.indexOf(signal.device);
  if (!end.analog) i[mover.i + KEYS + end.end]!++;
  state.markMover(end.mover);
}

/** A source of this end is up again. */
export function releaseEnd(state: SeatState, end: EndTable): void {
  if (!end.analog) state.i[state.tables.mover[end.mover]!.i + KEYS + end.end]!--;
  state.markMover(end.mover);
}

/** Works a stick's raw values into its shaped ones. */
export function updateStick(state: SeatState, id: number): void {
  const { f } = state;
  const stick = state.tables.stick[id]!;
  const mover = state.tables.mover[stick.mover]!;
  let x = f[stick.rawX]! * stick.signX;
  let y = stick.rawY < 0 ? 0 : f[stick.rawY]! * stick.signY;
  const raw = y === 0 ? Math.abs(x) : Math.sqrt(x * x + y * y);
  const length = shapedTravel(stick.shape, raw);
  if (length === 0) {
    x = y = 0;
    state.i[stick.i] = NO_SECTOR;
  } else if (mover.directions === 0) {
    const factor = length / raw;
    x = x * factor + 0;
    y = y * factor + 0;
  } else {
    const sector = keepSector(state.i[stick.i]!, mover.directions, x, y, raw);
    state.i[stick.i] = sector;
    x = sectorX(sector) * length + 0;
    y = sectorY(sector) * length + 0;
  }
  f[stick.f + STICK_X] = x;
  f[stick.f + STICK_Y] = y;
  f[stick.f + STICK_LENGTH] = length;
  state.markMover(stick.mover);
}

/** Works keys and sticks into the movement. */
export function updateMover(state: SeatState, id: number): void {
  const { f, i } = state;
  const mover = state.tables.mover[id]!;
  let x = between(state, mover, LEFT, RIGHT);
  let y = mover.kind === "axis" ? 0 : between(state, mover, DOWN, UP);
  if (x !== 0 && y !== 0 && mover.directions === 4) {
    if (newest(state, mover, LEFT, RIGHT, x) > newest(state, mover, DOWN, UP, y)) y = 0;
    else x = 0;
  }
  y = y * mover.up + 0;
  let length = y === 0 ? Math.abs(x) : x === 0 ? Math.abs(y) : Math.sqrt(x * x + y * y);
  if (length > 1 && mover.round) {
    x /= length;
    y /= length;
    length = 1;
  }

  let winner = length > 0 ? 0 : -1;
  if (mover.sticks.length > 0) {
    const present = i[mover.i + WINNER]!;
    for (let n = 0; n < mover.sticks.length; n++) {
      const stick = state.tables.stick[mover.sticks[n]!]!;
      const other = f[stick.f + STICK_LENGTH]!;
      if (other > length || (other === length && other > 0 && n + 1 === present)) {
        x = f[stick.f + STICK_X]!;
        y = f[stick.f + STICK_Y]!;
        length = other;
        winner = n + 1;
      }
    }
  }
  i[mover.i + WINNER] = winner;
  if (f[mover.f + X] === x && f[mover.f + Y] === y) return;
  f[mover.f + X] = x;
  f[mover.f + Y] = y;
  f[mover.f + LENGTH] = length;
  state.setFact(mover.fact, length > 0 ? 1 : 0);
  if (mover.kind === "vector") {
    faceMovement(state, mover, winner > 0 && mover.directions === 0);
    updateGait(state, mover);
  }
  state.markMoved(id);
}

/** The component that two opposite ends give together. */
function between(state: SeatState, mover: MoverTable, minus: number, plus: number): number {
  const { i } = state;
  const minusDown = i[mover.i + KEYS + minus]! > 0;
  const plusDown = i[mover.i + KEYS + plus]! > 0;
  if (minusDown && plusDown) {
    if (mover.opposed === NEUTRAL) return 0;
    const stamps = mover.i + (mover.opposed === LATEST ? NEWEST : FIRST);
    const plusIsLater = i[stamps + plus]! > i[stamps + minus]!;
    return plusIsLater === (mover.opposed === LATEST) ? 1 : -1;
  }
  const less = minusDown ? 1 : analog(state, mover, minus);
  const more = plusDown ? 1 : analog(state, mover, plus);
  return more - less;
}

function analog(state: SeatState, mover: MoverTable, end: number): number {
  const sources = mover.analogEnds[end]!;
  let most = 0;
  for (let n = 0; n < sources.length; n++) {
    const source = sources[n]!;
    const value = shapedTravel(source.shape, strongest(state.f, source.f, source.places, source.sign));
    if (value > most) most = value;
  }
  return most;
}

/** The number of the newest press of the end that gives this component. */
function newest(state: SeatState, mover: MoverTable, minus: number, plus: number, component: number): number {
  return state.i[mover.i + NEWEST + (component > 0 ? plus : minus)]!;
}

/** The device that gives the movement, or `null` at rest. */
export function movingDevice(state: SeatState, mover: MoverTable): Device | null {
  const winner = state.i[mover.i + WINNER]!;
  if (winner > 0) return "pad";
  return winner === 0 ? DEVICES[state.i[mover.i + KEY_DEVICE]!]! : null;
}

/** As before anything has moved; what is held moves it again at once. */
export function startMover(state: SeatState, id: number): void {
  const { f, i } = state;
  const mover = state.tables.mover[id]!;
  f[mover.f + X] = f[mover.f + Y] = f[mover.f + LENGTH] = 0;
  f[mover.f + FACE_X] = sectorX(mover.faces);
  f[mover.f + FACE_Y] = sectorY(mover.faces) * mover.up + 0;
  i[mover.i + FACE] = mover.faces;
  if (i[mover.i + SETTLING] !== -1) clearDeadline(state, mover.settle);
  i[mover.i + SETTLING] = -1;
  i[mover.i + GAIT] = -1;
  i[mover.i + WINNER] = -1;
  state.setFact(mover.fact, 0);
  state.markMover(id);
}
