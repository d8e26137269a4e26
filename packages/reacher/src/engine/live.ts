/**
 * Which actions are live: modes, what they cover, and mutes. In: modes entered and left, mutes. Out: the live flag of each
 * action, and the hidden flags of its entries. May change: these, and what was counted on entries that are hidden now.
 */
import { EndInt, HeadInt, MoverInt, SwitchInt } from "./layout.js";
import { dropPending } from "./claims.js";
import { hideEntry } from "./entries.js";
import { forgetGesture } from "./gestures.js";
import type { SeatState } from "./state.js";
import { blurSwitch } from "./switches.js";
import type { EndTable, Hideable } from "./tables.js";

/** Puts a mode on top, or moves it there. */
export function enterMode(state: SeatState, mode: number): void {
  takeAway(state, mode);
  state.i[state.tables.stackAt + state.i[HeadInt.Modes]!++] = mode;
  refreshLive(state);
}

/** Takes a mode away. */
export function leaveMode(state: SeatState, mode: number): void {
  takeAway(state, mode);
  refreshLive(state);
}

/** Adds or removes reasons for which an action is muted. */
export function setMutes(state: SeatState, action: number, mutes: number): void {
  state.i[state.tables.mutesAt + action] = mutes;
  refreshLive(state);
}

/** The modes of the start, and nothing muted. */
export function startModes(state: SeatState): void {
  const { i, tables } = state;
  tables.start.forEach((mode, n) => (i[tables.stackAt + n] = mode));
  i[HeadInt.Modes] = tables.start.length;
  i.fill(0, tables.mutesAt, tables.mutesAt + tables.action.length);
  refreshLive(state);
}

/** Works out anew which actions are live and what is hidden, of a state that has seen nothing yet. */
export function showModes(state: SeatState): void {
  refreshLive(state);
}

function takeAway(state: SeatState, mode: number): void {
  const { i, tables } = state;
  const end = tables.stackAt + i[HeadInt.Modes]!;
  let to = tables.stackAt;
  for (let from = to; from < end; from++) if (i[from] !== mode) i[to++] = i[from]!;
  i[HeadInt.Modes] = to - tables.stackAt;
}

function refreshLive(state: SeatState): void {
  const { i, tables } = state;
  tables.action.forEach((action, id) => {
    const level = levelOf(state, action.modes);
    const live =
      !tables.closed && level >= 0 && !isCovered(state, level) && i[tables.mutesAt + id] === 0 ? 1 : 0;
    const was = i[tables.liveAt + id]!;
    i[tables.liveAt + id] = live;
    for (const part of action.hideable) setHidden(state, part, isHidden(state, level, part.channels) ? 1 : 0);
    if (live === was) return;
    if (action.mover >= 0) state.markMover(action.mover);
    else if (action.turn >= 0) state.markTurn(action.turn);
    else changeSwitch(state, action.switch, live);
  });
}

/** How high the highest of these modes is that is on; Infinity for no modes, -1 where none is on. */
function levelOf({ i, tables }: SeatState, modes: readonly number[]): number {
  if (modes.length === 0) return Infinity;
  for (let level = i[HeadInt.Modes]! - 1; level >= 0; level--)
    if (modes.includes(i[tables.stackAt + level]!)) return level;
  return -1;
}

function isCovered({ i, tables }: SeatState, level: number): boolean {
  for (let above = level + 1; above < i[HeadInt.Modes]!; above++) {
    if (tables.mode[i[tables.stackAt + above]!]!.covers === "all") return true;
  }
  return false;
}

function isHidden({ i, tables }: SeatState, level: number, channels: readonly number[]): boolean {
  for (let above = level + 1; level >= 0 && above < i[HeadInt.Modes]!; above++) {
    const mode = tables.mode[i[tables.stackAt + above]!]!;
    if (mode.covers === "same" && channels.some((channel) => mode.channels.has(channel))) return true;
  }
  return false;
}

function setHidden(state: SeatState, part: Hideable, hidden: number): void {
  if (state.i[part.i] === hidden) return;
  state.i[part.i] = hidden;
  if (part.entry !== undefined) hideEntry(state, part.entry, hidden);
  else if (part.gesture !== undefined) forgetGesture(state, part.gesture);
  else if (part.end !== undefined) hideEnd(state, part.end, hidden);
  else if (part.stick >= 0) state.markStick(part.stick);
}

function hideEnd(state: SeatState, end: EndTable, hidden: number): void {
  if (state.i[end.i + EndInt.Down] === 1)
    state.i[end.moverAt + MoverInt.Keys]! += hidden === 1 ? -end.key : end.key;
  state.markMover(end.mover);
}

function changeSwitch(state: SeatState, id: number, live: number): void {
  const table = state.tables.switch[id]!;
  if (live === 0) {
    for (const gesture of table.gestures) forgetGesture(state, gesture);
    for (const entry of table.entries) dropPending(state, entry);
    if (table.keepMs > 0) state.i[table.i + SwitchInt.Kept] = 0;
    if (!table.keeps) blurSwitch(state, id);
  }
  state.markSwitch(id);
}
