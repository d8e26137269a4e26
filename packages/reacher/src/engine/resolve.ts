/**
 * What comes of an event. In: the sticks, movers, turns, signals and switches that it has touched. Out: movement, gestures,
 * switches and pace as they now are, in the design's order, and callbacks that tell of them.
 */
import { reviewEntry } from "./entries.js";
import { Clock, SwitchInt } from "./layout.js";
import { updateMover, updateStick } from "./movement.js";
import { startPace, updatePace } from "./pace.js";
import { applyRules, updateStickEnds } from "./signals.js";
import { Change, type SeatState } from "./state.js";
import { pressSwitch, releaseSwitch, settleSwitch, updateSwitch } from "./switches.js";
import { updateTurn } from "./turns.js";

/** Carries what an event touched through to readings and callbacks, in the design's order. */
export function resolve(state: SeatState, starting: boolean): void {
  const { tables } = state;
  const { sticks, movers, turns } = state.scratch;
  state.roster.work[0]! += sticks.count + movers.count;
  for (let n = 0; n < sticks.count; n++) {
    const stick = tables.stick[sticks.items[n]!]!;
    if (stick.directionSignals !== undefined) updateStickEnds(state, stick);
    updateStick(state, stick);
    if (stick.turn < 0) movers.mark(stick.mover);
    else turns.mark(stick.turn);
  }
  sticks.clear();
  for (let n = 0; n < movers.count; n++) updateMover(state, movers.items[n]!);
  movers.clear();
  if (state.scratch.turns.count > 0) turnAll(state);
  finish(state, starting);
}

/** What comes after the movement: gestures, switches, and all that is told. */
export function finish(state: SeatState, starting: boolean): void {
  const { scratch } = state;
  // A stick that moves on, or a key that only moves: nothing else hangs on it.
  if (!scratch.stirred) return;
  if (scratch.rose.count + scratch.fell.count > 0) rule(state);
  conclude(state, starting);
  scratch.stirred = false;
}

function turnAll(state: SeatState): void {
  for (let n = 0; n < state.scratch.turns.count; n++) updateTurn(state, state.scratch.turns.items[n]!);
  state.scratch.turns.clear();
}

/** Switches, pace, and all that is told of them. */
function conclude(state: SeatState, starting: boolean): void {
  const { paces, changed, moved } = state.scratch;
  updateSwitches(state);
  for (let n = 0; n < paces.count; n++) {
    if (starting) startPace(state, state.tables.mover[paces.items[n]!]!);
    else updatePace(state, paces.items[n]!);
  }
  paces.clear();
  state.cancelling = state.hiding = false;
  if (changed.count > 0) tellChanges(state);
  if (moved.count > 0) tellMoves(state);
  if (state.scratch.blips.count > 0) playBlip(state);
}

/** Gestures, and the entries that have to come after them. */
function rule(state: SeatState): void {
  const { tables } = state;
  const { rose, fell } = state.scratch;
  applyRules(state, rose, fell);
  rose.count = fell.count = 0;
  state.takenNow = 0;
  for (let n = 0; n < tables.waiting.length; n++) reviewEntry(state, tables.waiting[n]!, false);
}

function updateSwitches(state: SeatState): void {
  const { switches } = state.scratch;
  state.roster.work[0]! += switches.count;
  while (switches.count > 0) updateSwitch(state, takeFirstSwitch(state));
}

/** Of the switches that wait, the one that the others may need. */
function takeFirstSwitch(state: SeatState): number {
  const { tables } = state;
  const { switches } = state.scratch;
  if (switches.count === 1) return switches.takeAt(0);
  let first = 0;
  for (let n = 1; n < switches.count; n++) {
    if (tables.switch[switches.items[n]!]!.rank < tables.switch[switches.items[first]!]!.rank) first = n;
  }
  return switches.takeAt(first);
}

/** One press that rises and falls at this moment: both are seen. */
function playBlip(state: SeatState): void {
  const { items } = state.scratch.blips;
  const id = items[0]!;
  const signal = items[1]!;
  items.copyWithin(0, 2, state.scratch.blips.count);
  state.scratch.blips.count -= 2;
  pressSwitch(state, id, signal);
  updateSwitches(state);
  tellAll(state);
  releaseSwitch(state, id);
  resolve(state, false);
}

function tellAll(state: SeatState): void {
  const { paces } = state.scratch;
  for (let n = 0; n < paces.count; n++) updatePace(state, paces.items[n]!);
  paces.clear();
  if (state.scratch.changed.count > 0) tellChanges(state);
}

export function tellPulse(state: SeatState, id: number): void {
  call(state, id, Change.Pulse);
}

function call(state: SeatState, id: number, change: Change): void {
  if (state.tell === null) return;
  state.roster.calling = true;
  try {
    state.tell(id, change);
  } finally {
    state.roster.calling = false;
  }
}

function tellChanges(state: SeatState): void {
  const { tables } = state;
  const { changed, telling } = state.scratch;
  if (state.tell === null && state.watcher === null) {
    // A settled switch changes nothing that another sees.
    for (let n = 0; n < changed.count; n++) settleSwitch(state, changed.items[n]!);
    changed.clear();
    return;
  }
  changed.sort();
  // All are settled before any is told, so that a callback sees every reading as it now is.
  let count = 0;
  for (let n = 0; n < changed.count; n++) {
    const id = changed.items[n]!;
    if (settleSwitch(state, id)) telling[count++] = id;
  }
  changed.clear();
  for (let n = 0; n < count; n++) {
    const id = telling[n]!;
    const { fact } = tables.switch[id]!;
    state.watcher?.changed?.(state.clock[Clock.Now]!, fact - tables.plan.flags.length);
    const on = state.i[tables.switch[id]!.i + SwitchInt.Told] === 1;
    call(state, id, on ? Change.On : Change.Off);
    if (on && tables.switch[id]!.repeat >= 0) tellPulse(state, id);
  }
}

function tellMoves(state: SeatState): void {
  const { tables } = state;
  const { moved } = state.scratch;
  moved.sort();
  for (let n = 0; n < moved.count; n++) {
    state.watcher?.changed?.(
      state.clock[Clock.Now]!,
      tables.mover[moved.items[n]!]!.fact - tables.plan.flags.length,
    );
  }
  moved.clear();
}
