/**
 * Axes and vectors: from keys and sticks to a direction with a length.
 * In: ends pressed and released, raw stick values. Out: x, y and length, the facing, the gait, and the fact "it moves".
 *
 * The order of work is the design's: opposite directions, number of directions, diagonal; sticks shaped one by one;
 * then keys and sticks together, of which the longest wins.
 */
import { strongest } from "./channels.js";
import { HeadInt, MoverFloat, MoverInt, StickFloat, StickInt } from "./layout.js";
import { clearDeadline } from "./deadlines.js";
import { faceMovement } from "./facing.js";
import { updateGait } from "./gaits.js";

import { shapedTravel } from "./shape.js";
import type { SeatState } from "./state.js";
import { DEVICES, End, Opposed, type EndTable, type MoverTable, type SignalTable, type StickTable } from "./tables.js";
import { keepSector, sectorX, sectorY } from "./sectors.js";
import type { Device } from "../controls/catalogue.js";

const NO_SECTOR = -1;

/** A source of this end went down. */
export function pressEnd(state: SeatState, end: EndTable, signal: SignalTable): void {
  const { i } = state;
  const mover = state.tables.mover[end.mover]!;
  const press = ++i[HeadInt.Presses]!;
  if (i[mover.i + MoverInt.Keys + end.end] === 0) i[mover.i + MoverInt.First + end.end] = press;
  // A further key on a direction already held counts as pressed anew.
  i[mover.i + MoverInt.Newest + end.end] = press;
  i[mover.i + MoverInt.KeyDevice] = signal.device;
  if (!end.analog) i[mover.i + MoverInt.Keys + end.end]!++;
  state.markMover(end.mover);
}

/** A source of this end is up again. */
export function releaseEnd(state: SeatState, end: EndTable): void {
  if (!end.analog) state.i[state.tables.mover[end.mover]!.i + MoverInt.Keys + end.end]!--;
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
    state.i[stick.i + StickInt.Sector] = NO_SECTOR;
  } else if (mover.directions === 0) {
    const factor = length / raw;
    x = x * factor + 0;
    y = y * factor + 0;
  } else {
    const sector = keepSector(state.i[stick.i + StickInt.Sector]!, mover.directions, x, y, raw);
    state.i[stick.i + StickInt.Sector] = sector;
    x = sectorX(sector) * length + 0;
    y = sectorY(sector) * length + 0;
  }
  f[stick.f + StickFloat.X] = x;
  f[stick.f + StickFloat.Y] = y;
  f[stick.f + StickFloat.Length] = length;
  state.markMover(stick.mover);
}

/** A stick that has not moved yet. */
export function clearStick(state: SeatState, stick: StickTable): void {
  state.i[stick.i + StickInt.Sector] = NO_SECTOR;
}

/** Works keys and sticks into the movement. */
export function updateMover(state: SeatState, id: number): void {
  const { f, i } = state;
  const mover = state.tables.mover[id]!;
  let x = between(state, mover, End.Left, End.Right);
  let y = mover.kind === "axis" ? 0 : between(state, mover, End.Down, End.Up);
  if (x !== 0 && y !== 0 && mover.directions === 4) {
    if (newest(state, mover, End.Left, End.Right, x) > newest(state, mover, End.Down, End.Up, y)) y = 0;
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
    const present = i[mover.i + MoverInt.Winner]!;
    for (let n = 0; n < mover.sticks.length; n++) {
      const stick = state.tables.stick[mover.sticks[n]!]!;
      const other = f[stick.f + StickFloat.Length]!;
      if (other > length || (other === length && other > 0 && n + 1 === present)) {
        x = f[stick.f + StickFloat.X]!;
        y = f[stick.f + StickFloat.Y]!;
        length = other;
        winner = n + 1;
      }
    }
  }
  i[mover.i + MoverInt.Winner] = winner;
  if (f[mover.f + MoverFloat.X] === x && f[mover.f + MoverFloat.Y] === y) return;
  f[mover.f + MoverFloat.X] = x;
  f[mover.f + MoverFloat.Y] = y;
  f[mover.f + MoverFloat.Length] = length;
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
  const minusDown = i[mover.i + MoverInt.Keys + minus]! > 0;
  const plusDown = i[mover.i + MoverInt.Keys + plus]! > 0;
  if (minusDown && plusDown) {
    if (mover.opposed === Opposed.Neutral) return 0;
    const stamps = mover.i + (mover.opposed === Opposed.Latest ? MoverInt.Newest : MoverInt.First);
    const plusIsLater = i[stamps + plus]! > i[stamps + minus]!;
    return plusIsLater === (mover.opposed === Opposed.Latest) ? 1 : -1;
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
  return state.i[mover.i + MoverInt.Newest + (component > 0 ? plus : minus)]!;
}

/** The device that gives the movement, or `null` at rest. */
export function movingDevice(state: SeatState, mover: MoverTable): Device | null {
  const winner = state.i[mover.i + MoverInt.Winner]!;
  if (winner > 0) return "pad";
  return winner === 0 ? (DEVICES[state.i[mover.i + MoverInt.KeyDevice]!] ?? null) : null;
}

/** As before anything has moved; what is held moves it again at once. */
export function startMover(state: SeatState, id: number): void {
  const { f, i } = state;
  const mover = state.tables.mover[id]!;
  f[mover.f + MoverFloat.X] = f[mover.f + MoverFloat.Y] = f[mover.f + MoverFloat.Length] = 0;
  f[mover.f + MoverFloat.FaceX] = sectorX(mover.faces);
  f[mover.f + MoverFloat.FaceY] = sectorY(mover.faces) * mover.up + 0;
  i[mover.i + MoverInt.Face] = mover.faces;
  if (mover.settle >= 0) clearDeadline(state, mover.settle);
  i[mover.i + MoverInt.Settling] = -1;
  i[mover.i + MoverInt.Gait] = -1;
  i[mover.i + MoverInt.Winner] = -1;
  state.setFact(mover.fact, 0);
  state.markMover(id);
}
