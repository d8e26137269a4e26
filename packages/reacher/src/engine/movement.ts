/**
 * Axes and vectors: from keys and sticks to a direction with a length.
 * In: ends pressed and released, raw stick values. Out: x, y and length, the facing, the gait, and the fact "it moves".
 *
 * The order of work is the design's: opposite directions, number of directions, diagonal; sticks shaped one by one;
 * then keys and sticks together, of which the longest wins, or which are added.
 */
import { strongest } from "./channels.js";
import { EndInt, HeadInt, MoverFloat, MoverInt, StickFloat, StickInt } from "./layout.js";
import { clearDeadline } from "./deadlines.js";
import { faceMovement } from "./facing.js";
import { easedNow, isEasing, Part, setOut, waitForNext } from "./ease.js";
import { updateGait } from "./gaits.js";
import { endsOf, sectorOf } from "./keys.js";

import { bentTravel, freeTravel, shapedTravel } from "./shape.js";
import type { SeatState } from "./state.js";
import { DEVICES, End, Opposed, type EndTable, type MoverTable, type StickTable } from "./tables.js";
import { exactSector, keepSector, sectorX, sectorY } from "./sectors.js";
import type { Device } from "../controls/catalogue.js";

const NO_SECTOR = -1;
const HORIZONTAL = (1 << End.Left) | (1 << End.Right);
const VERTICAL = (1 << End.Down) | (1 << End.Up);

/** A source of this end went down. */
export function pressEnd(state: SeatState, end: EndTable, device: number): void {
  const { i } = state;
  const { moverAt, newestAt } = end;
  const keys = i[moverAt + MoverInt.Keys]!;
  const press = i[HeadInt.Presses]!;
  if (end.ordered && (keys & end.bits) === 0) i[newestAt + (MoverInt.First - MoverInt.Newest)] = press;
  // A further key on a direction already held counts as pressed anew.
  i[newestAt] = press;
  i[moverAt + MoverInt.KeyDevice] = device;
  i[end.i + EndInt.Down] = 1;
  if (i[end.i + EndInt.Hidden] === 0) i[moverAt + MoverInt.Keys] = keys + end.key;
  state.markMover(end.mover);
}

/** A source of this end is up again. */
export function releaseEnd(state: SeatState, end: EndTable): void {
  const { i } = state;
  i[end.i + EndInt.Down] = 0;
  if (i[end.i + EndInt.Hidden] === 0) i[end.moverAt + MoverInt.Keys]! -= end.key;
  state.markMover(end.mover);
}

/** Works a stick's raw values into its shaped ones. */
export function updateStick(state: SeatState, stick: StickTable): void {
  const { f, i } = state;
  let x = f[stick.rawX]! * stick.signX;
  let y = stick.rawY < 0 ? 0 : f[stick.rawY]! * stick.signY;
  const { shape } = stick;
  let raw = 0;
  let length = 0;
  if (i[stick.i + StickInt.Hidden] === 0) {
    raw = Math.sqrt(x * x + y * y);
    if (shape.cross) {
      x = x < 0 ? -freeTravel(shape, -x) : freeTravel(shape, x);
      y = y < 0 ? -freeTravel(shape, -y) : freeTravel(shape, y);
      raw = Math.sqrt(x * x + y * y);
      if (raw > 0) length = bentTravel(shape, raw);
    } else length = shapedTravel(shape, raw);
  }
  const before = f[stick.f + StickFloat.Length]!;
  if (length === 0) {
    x = y = 0;
    if (before !== 0 && stick.turn < 0) stickRests(state, stick);
    i[stick.i + StickInt.Sector] = NO_SECTOR;
  } else {
    if (before === 0 && stick.turn < 0 && ++i[stick.moverAt + MoverInt.SticksAway]! === 1)
      i[stick.moverAt + MoverInt.StickAway] = stick.number;
    if (stick.directions === 0) {
      const factor = length / raw;
      x = x * factor + 0;
      y = y * factor + 0;
    } else {
      const sector = keepSector(i[stick.i + StickInt.Sector]!, stick.directions, x, y, raw);
      i[stick.i + StickInt.Sector] = sector;
      x = sectorX(sector) * length + 0;
      y = sectorY(sector) * length + 0;
    }
  }
  f[stick.f + StickFloat.X] = x;
  f[stick.f + StickFloat.Y] = y;
  f[stick.f + StickFloat.Length] = length;
}

/** One stick fewer is away; where one is left, it is found out which. */
export function stickRests(state: SeatState, stick: StickTable): void {
  const { f, i, tables } = state;
  if (--i[stick.moverAt + MoverInt.SticksAway]! !== 1) return;
  for (const { number, f: at } of tables.mover[stick.mover]!.sticks) {
    if (number !== stick.number && f[at + StickFloat.Length]! > 0)
      i[stick.moverAt + MoverInt.StickAway] = number;
  }
}

/** A stick that has not moved yet. */
export function clearStick(state: SeatState, stick: StickTable): void {
  state.i[stick.i + StickInt.Sector] = NO_SECTOR;
}

/** Works keys and sticks into the movement. */
export function updateMover(state: SeatState, id: number): void {
  const mover = state.tables.mover[id]!;
  if (mover.keyVectors === null) updateFully(state, mover, id);
  else updatePlainly(state, mover);
}

/** Keys count at once, sticks alone beside them: the longest wins. */
export function updatePlainly(state: SeatState, mover: MoverTable): void {
  const { f, i } = state;
  const { i: ints, f: floats } = mover;
  let x = 0;
  let y = 0;
  let length = 0;
  let winner = -1;
  let sector = -1;
  if (i[mover.live] === 1) {
    const keys = i[ints + MoverInt.Keys]!;
    if (keys !== 0) {
      const ends = standing(state, mover, endsOf(keys));
      if (ends !== 0) {
        const vectors = mover.keyVectors!;
        x = vectors[ends * 3]!;
        y = vectors[ends * 3 + 1]!;
        length = vectors[ends * 3 + 2]!;
        winner = 0;
        sector = sectorOf(ends);
      }
    }
    const away = i[ints + MoverInt.SticksAway]!;
    if (away > 0) {
      const stick = away === 1 ? i[ints + MoverInt.StickAway]! : longestStick(state, mover);
      const at = mover.sticks[stick]!.f;
      const other = f[at + StickFloat.Length]!;
      if (other > length || (other === length && stick + 1 === i[ints + MoverInt.Winner])) {
        x = f[at + StickFloat.X]!;
        y = f[at + StickFloat.Y]!;
        length = other;
        winner = stick + 1;
      }
    }
  }
  i[ints + MoverInt.Winner] = winner;
  if (f[floats + MoverFloat.X] === x && f[floats + MoverFloat.Y] === y) return;
  const moves = length > 0;
  if (mover.heard) state.setFact(mover.fact, moves ? 1 : 0);
  else i[mover.factAt] = moves ? 1 : 0;
  f[floats + MoverFloat.X] = x;
  f[floats + MoverFloat.Y] = y;
  f[floats + MoverFloat.Length] = length;
  if (!mover.isAxis) {
    const free = winner > 0 && mover.directions === 0;
    if (winner > 0 && !free) sector = exactSector(x, y * mover.up);
    if (i[ints + MoverInt.Settling] !== -1 || !free) faceMovement(state, mover, free, sector);
    else if (length >= mover.facingFrom) {
      i[ints + MoverInt.Face] = -1;
      f[floats + MoverFloat.FaceX] = x;
      f[floats + MoverFloat.FaceY] = y;
    }
    if (length >= mover.gaitTop) i[ints + MoverInt.Gait] = mover.gaitFrom.length - 1;
    else if (mover.gaitFrom.length > 0) updateGait(state, mover);
  }
  if (state.watcher !== null) state.markMoved(mover.id);
}

/** Of sticks of which several are away, the one tilted furthest; on a tie the one that moves it already. */
function longestStick({ f, i }: SeatState, { sticks, i: ints }: MoverTable): number {
  const present = i[ints + MoverInt.Winner]! - 1;
  let longest = 0;
  for (let n = 1; n < sticks.length; n++) {
    const length = f[sticks[n]!.f + StickFloat.Length]!;
    const most = f[sticks[longest]!.f + StickFloat.Length]!;
    if (length > most || (length === most && n === present)) longest = n;
  }
  return longest;
}

/** Of the ends that are down, those that count: opposite ones are settled, and with four directions perpendicular ones too. */
function standing(state: SeatState, mover: MoverTable, ends: number): number {
  let left = ends;
  if ((left & HORIZONTAL) === HORIZONTAL) left &= ~loser(state, mover, End.Left, End.Right);
  if ((left & VERTICAL) === VERTICAL) left &= ~loser(state, mover, End.Down, End.Up);
  if (mover.directions !== 4 || (left & HORIZONTAL) === 0 || (left & VERTICAL) === 0) return left;
  const across = newest(state, mover, End.Left, left);
  return left & (across > newest(state, mover, End.Down, left) ? HORIZONTAL : VERTICAL);
}

/** Which of two opposite ends, both down, count for nothing. */
function loser(state: SeatState, mover: MoverTable, minus: number, plus: number): number {
  if (mover.opposed === Opposed.Neutral) return (1 << minus) | (1 << plus);
  const stamps = mover.i + (mover.opposed === Opposed.Latest ? MoverInt.Newest : MoverInt.First);
  const plusIsLater = state.i[stamps + plus]! > state.i[stamps + minus]!;
  return plusIsLater === (mover.opposed === Opposed.Latest) ? 1 << minus : 1 << plus;
}

/** The number of the newest press of whichever of an end and the opposite one is among these. */
function newest(state: SeatState, mover: MoverTable, minus: number, ends: number): number {
  return state.i[mover.i + MoverInt.Newest + minus + ((ends >> minus) & 1 ? 0 : 1)]!;
}

/** The same where ramps, analog ends or a sum come into it. */
function updateFully(state: SeatState, mover: MoverTable, id: number): void {
  const { f, i } = state;
  updateKeys(state, mover);
  const live = state.isLive(mover.action);
  let x = f[mover.f + MoverFloat.KeysX]!;
  let y = f[mover.f + MoverFloat.KeysY]!;
  let length = f[mover.f + MoverFloat.KeysLength]!;
  let winner = length > 0 ? 0 : -1;
  if (mover.ease !== undefined || mover.sums) gatherSticks(state, mover, live);
  const away = i[mover.i + MoverInt.SticksAway]!;
  if (away > 0 && mover.sums) {
    x += f[mover.f + MoverFloat.StickX]!;
    y += f[mover.f + MoverFloat.StickY]!;
    const sum = Math.sqrt(x * x + y * y);
    if (f[mover.f + MoverFloat.StickLength]! > length) winner = 1;
    length = sum > 1 ? 1 : sum;
    if (sum > 1) {
      x /= sum;
      y /= sum;
    }
  } else if (away > 0) {
    const stick = away === 1 ? i[mover.i + MoverInt.StickAway]! : longestStick(state, mover);
    const at = mover.sticks[stick]!.f;
    const other = f[at + StickFloat.Length]!;
    if (other > length || (other === length && stick + 1 === i[mover.i + MoverInt.Winner])) {
      x = f[at + StickFloat.X]!;
      y = f[at + StickFloat.Y]!;
      length = other;
      winner = stick + 1;
    }
  }
  if (!live) {
    x = y = length = 0;
    winner = -1;
  }
  i[mover.i + MoverInt.Winner] = winner;
  const same = f[mover.f + MoverFloat.X] === x && f[mover.f + MoverFloat.Y] === y;
  if (same && mover.ease === undefined) return;
  const moves = length > 0;
  if (mover.ease !== undefined) {
    f[mover.f + MoverFloat.Length] = length;
    const setsOut = setOut(state, mover, state.cancelling);
    const moving = isEasing(state, mover);
    state.setFact(mover.fact, moves || moving ? 1 : 0);
    // A stick that is less than the keys may be more than their ramp.
    if (same && !setsOut && !moving) return;
  } else if (moves !== f[mover.f + MoverFloat.Length]! > 0) state.setFact(mover.fact, moves ? 1 : 0);
  f[mover.f + MoverFloat.X] = x;
  f[mover.f + MoverFloat.Y] = y;
  f[mover.f + MoverFloat.Length] = length;
  if (!mover.isAxis) {
    const free = winner > 0 && mover.directions === 0;
    faceMovement(state, mover, free, free || length === 0 ? -1 : exactSector(x, y * mover.up));
    if (mover.gaitFrom.length > 0) {
      updateGait(state, mover);
      if (mover.ease !== undefined) waitForNext(state, mover);
    }
  }
  state.markMoved(id);
}

/** A ramp has come to a moment on which something hangs: a gait, or its end. */
export function continueEase(state: SeatState, id: number): void {
  const mover = state.tables.mover[id]!;
  if (mover.gaitFrom.length > 0) updateGait(state, mover);
  waitForNext(state, mover);
  if (!isEasing(state, mover) && easedNow(state, mover, Part.Length) === 0) state.setFact(mover.fact, 0);
  state.markMoved(id);
}

/** What the sticks give together: the longest, or their sum. */
function gatherSticks(state: SeatState, mover: MoverTable, live: boolean): void {
  const { f } = state;
  let x = 0;
  let y = 0;
  let length = 0;
  for (let n = 0; live && n < mover.sticks.length; n++) {
    const at = mover.sticks[n]!.f;
    const other = f[at + StickFloat.Length]!;
    if (other === 0) continue;
    if (mover.sums) {
      x += f[at + StickFloat.X]!;
      y += f[at + StickFloat.Y]!;
      length = Math.sqrt(x * x + y * y);
    } else if (other > length) {
      x = f[at + StickFloat.X]!;
      y = f[at + StickFloat.Y]!;
      length = other;
    }
  }
  f[mover.f + MoverFloat.StickX] = x;
  f[mover.f + MoverFloat.StickY] = y;
  f[mover.f + MoverFloat.StickLength] = length;
}

/** Works out what keys and analog ends alone give. */
function updateKeys(state: SeatState, mover: MoverTable): void {
  const { f, i } = state;
  const ends = endsOf(i[mover.i + MoverInt.Keys]!);
  let x = between(state, mover, ends, End.Left, End.Right);
  let y = mover.isAxis ? 0 : between(state, mover, ends, End.Down, End.Up);
  let length = Math.abs(x);
  if (y !== 0) {
    if (x === 0) length = Math.abs(y);
    else if (mover.directions === 4) {
      const across = newestOf(state, mover, End.Left, End.Right, x);
      if (across > newestOf(state, mover, End.Down, End.Up, y)) y = 0;
      else x = 0;
      length = Math.abs(x + y);
    } else {
      length = Math.sqrt(x * x + y * y);
      if (length > 1 && mover.round) {
        x /= length;
        y /= length;
        length = 1;
      }
    }
  }
  f[mover.f + MoverFloat.KeysX] = x;
  f[mover.f + MoverFloat.KeysY] = y * mover.up + 0;
  f[mover.f + MoverFloat.KeysLength] = length;
}

/** The component that two opposite ends give together. */
function between(state: SeatState, mover: MoverTable, ends: number, minus: number, plus: number): number {
  const minusDown = (ends & (1 << minus)) !== 0;
  const plusDown = (ends & (1 << plus)) !== 0;
  if (minusDown && plusDown) {
    const lost = loser(state, mover, minus, plus);
    return (lost >> minus) & 1 ? ((lost >> plus) & 1 ? 0 : 1) : -1;
  }
  if (!mover.hasAnalogEnds) return plusDown ? 1 : minusDown ? -1 : 0;
  const less = minusDown ? 1 : analog(state, mover, minus);
  const more = plusDown ? 1 : analog(state, mover, plus);
  return more - less;
}

function analog(state: SeatState, mover: MoverTable, end: number): number {
  const sources = mover.analogEnds[end]!;
  let most = 0;
  for (let n = 0; n < sources.length; n++) {
    const source = sources[n]!;
    if (state.i[source.hiddenAt] === 1) continue;
    const value = shapedTravel(source.shape, strongest(state.f, source.f, source.places, source.sign));
    if (value > most) most = value;
  }
  return most;
}

/** The number of the newest press of the end that gives this component. */
function newestOf(
  state: SeatState,
  mover: MoverTable,
  minus: number,
  plus: number,
  component: number,
): number {
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
  if (mover.ease !== undefined) {
    f[mover.f + MoverFloat.FromX] = f[mover.f + MoverFloat.FromY] = 0;
    f[mover.f + MoverFloat.ToX] = f[mover.f + MoverFloat.ToY] = 0;
    clearDeadline(state, mover.easing);
  }
  i[mover.i + MoverInt.Face] = mover.faces;
  if (mover.settle >= 0) clearDeadline(state, mover.settle);
  i[mover.i + MoverInt.Settling] = -1;
  i[mover.i + MoverInt.Gait] = -1;
  i[mover.i + MoverInt.Winner] = -1;
  state.setFact(mover.fact, 0);
  state.markMover(id);
}
