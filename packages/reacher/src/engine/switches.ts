/**
 * How a press becomes on and off. In: presses and releases of a switch's controls. Out: the switch's fact, on or off.
 *
 * A switch's controls are OR-ed into one signal and the style works on that, so that a second key for the same action
 * neither ends a hold nor flips a toggle a second time.
 */
import { Clock, SwitchFloat, SwitchInt } from "./layout.js";
import { clearDeadline, setDeadline } from "./deadlines.js";
import { longProgress } from "./longs.js";
import { wordsHold } from "./pace.js";
import type { SeatState } from "./state.js";
import { Style, type SwitchTable } from "./tables.js";

/** An `either` is on while held, or latched by a short press. A toggle has only off and held. */
const enum Latch {
  Off,
  Held,
  Latched,
}

/** One more of its controls is down. */
export function pressSwitch(state: SeatState, id: number, signal: number): void {
  const at = state.tables.switch[id]!.i;
  if (state.i[at + SwitchInt.Down]!++ === 0) {
    state.i[at + SwitchInt.By] = signal;
    state.markSwitch(id);
  }
}

/** One of its controls is up again. */
export function releaseSwitch(state: SeatState, id: number): void {
  if (--state.i[state.tables.switch[id]!.i + SwitchInt.Down]! === 0) state.markSwitch(id);
}

/** As at the start; what is held must be pressed again. */
export function startSwitch(state: SeatState, id: number): void {
  const { i, tables } = state;
  const table = tables.switch[id]!;
  blurSwitch(state, id);
  if (table.startsOn && table.style !== Style.Hold)
    i[table.i + SwitchInt.Latch] = table.style === Style.Toggle ? Latch.Held : Latch.Latched;
  if (table.keepMs > 0) i[table.i + SwitchInt.Kept] = 0;
  state.markSwitch(id);
}

/** Off, until it is pressed again. */
export function blurSwitch(state: SeatState, id: number): void {
  const { i, tables } = state;
  const { i: at, simple } = tables.switch[id]!;
  if (!simple) i[at + SwitchInt.Latch] = Latch.Off;
  i[at + SwitchInt.Up] = 0;
  if (i[at + SwitchInt.Down]! > 0) i[at + SwitchInt.Spent] = 1;
}

/** Carries the signal's change through the style, and asks whether it may be on. */
export function updateSwitch(state: SeatState, id: number): void {
  const { f, i } = state;
  const table = state.tables.switch[id]!;
  const at = table.i;
  if (table.simple) {
    holdSimply(state, table, id);
    return;
  }
  const now = state.clock[Clock.Now]!;
  const needsHold = wordsHold(state, table.needs);
  const able = needsHold && state.isLive(table.action);
  let up = i[at + SwitchInt.Down]! > 0 ? 1 : 0;
  if (i[at + SwitchInt.Spent] === 1) {
    if (up === 0) i[at + SwitchInt.Spent] = 0;
    up = 0;
  }
  let latch = i[at + SwitchInt.Latch]!;
  // What a mode hides and shows again is no press.
  const edge = state.hiding ? 0 : up - i[at + SwitchInt.Up]!;
  if (edge > 0) {
    if (table.keepMs > 0) keepPress(state, table);
    const turnsOn = table.style === Style.Hold || latch === Latch.Off;
    if (able && turnsOn && table.restMs > 0 && now - f[table.f + SwitchFloat.OnAt]! <= table.restMs) {
      i[at + SwitchInt.Spent] = 1;
      up = 0;
    } else if (table.style === Style.Toggle) {
      if (needsHold) latch = latch === Latch.Off ? Latch.Held : Latch.Off;
    } else if (table.style === Style.Either) {
      latch = latch === Latch.Off ? Latch.Held : Latch.Off;
      f[table.f + SwitchFloat.RoseAt] = now;
    }
  } else if (edge < 0 && table.style === Style.Either && latch === Latch.Held) {
    // A lost device is no release: it latches nothing.
    const short = now - f[table.f + SwitchFloat.RoseAt]! <= table.tapMs;
    latch = able && short && !state.cancelling ? Latch.Latched : Latch.Off;
  }
  if (!needsHold) {
    if (table.style === Style.Toggle || latch === Latch.Latched) latch = Latch.Off;
    if (!table.resume && up === 1) {
      i[at + SwitchInt.Spent] = 1;
      latch = Latch.Off;
      up = 0;
    }
  }
  i[at + SwitchInt.Up] = up;
  i[at + SwitchInt.Latch] = latch;
  const wants =
    table.style === Style.Hold
      ? up === 1
      : latch === Latch.Latched || (latch === Latch.Held && (up === 1 || table.style === Style.Toggle));
  const on = able && wants ? 1 : 0;
  if (on === state.fact(table.fact)) return;
  state.setFact(table.fact, on);
  state.markChanged(id);
  if (on === 1 && table.group.length > 0) turnOthersOff(state, table, id);
}

/** On while it is held and live. */
function holdSimply(state: SeatState, table: SwitchTable, id: number): void {
  const { i } = state;
  const at = table.i;
  let up = i[at + SwitchInt.Down]! > 0 ? 1 : 0;
  if (i[at + SwitchInt.Spent] === 1) {
    if (up === 0) i[at + SwitchInt.Spent] = 0;
    up = 0;
  }
  i[at + SwitchInt.Up] = up;
  const on = up & i[table.live]!;
  if (on === i[table.factAt]) return;
  if (table.heard) state.setFact(table.fact, on);
  else i[table.factAt] = on;
  state.markChanged(id);
}

/**
 * Of the switches with one name, at most one is on: the newest. In one event that is the later in the plan, so that an
 * earlier one that comes on in the same event gives way.
 */
function turnOthersOff(state: SeatState, table: SwitchTable, id: number): void {
  for (let n = 0; n < table.group.length; n++) {
    const other = table.group[n]!;
    const rival = state.tables.switch[other]!;
    if (state.fact(rival.fact) === 0) continue;
    const isNew = state.i[rival.i + SwitchInt.Told] === 0;
    turnOff(state, isNew && other > id ? id : other);
  }
}

/** Off by another switch: it needs a new press. */
function turnOff(state: SeatState, id: number): void {
  const table = state.tables.switch[id]!;
  blurSwitch(state, id);
  state.setFact(table.fact, 0);
  state.markChanged(id);
}

function keepPress(state: SeatState, table: SwitchTable): void {
  state.i[table.i + SwitchInt.Kept] = 1;
  state.f[table.f + SwitchFloat.KeptUntil] = state.clock[Clock.Now]! + table.keepMs;
}

/** True once for a press that is kept, while its needs hold. */
export function takePress(state: SeatState, id: number): boolean {
  const { f, i, tables } = state;
  const table = tables.switch[id]!;
  if (table.keepMs === 0 || i[table.i + SwitchInt.Kept] === 0) return false;
  if (state.clock[Clock.Now]! > f[table.f + SwitchFloat.KeptUntil]!) return false;
  if (!wordsHold(state, table.needs)) return false;
  i[table.i + SwitchInt.Kept] = 0;
  return true;
}

/** Notes a change for the readings. True where the switch is other than when it was last told. */
export function settleSwitch(state: SeatState, id: number): boolean {
  const { f, i } = state;
  const table = state.tables.switch[id]!;
  const on = state.fact(table.fact);
  if (i[table.i + SwitchInt.Told] === on) return false;
  i[table.i + SwitchInt.Told] = on;
  if (on === 0) {
    f[table.f + SwitchFloat.OffStep] = state.clock[Clock.Step]!;
    if (table.repeat >= 0) clearDeadline(state, table.repeat);
    return true;
  }
  i[table.i + SwitchInt.Presses] =
    f[table.f + SwitchFloat.OnStep] === state.clock[Clock.Step] ? i[table.i + SwitchInt.Presses]! + 1 : 1;
  f[table.f + SwitchFloat.OnStep] = state.clock[Clock.Step]!;
  f[table.f + SwitchFloat.OnAt] = state.clock[Clock.Now]!;
  if (table.repeat >= 0) {
    countPulse(state, table);
    setDeadline(state, table.repeat, state.clock[Clock.Now]! + table.afterMs);
  }
  return true;
}

/** The next pulse of a switch that stays on. */
export function pulseSwitch(state: SeatState, id: number): void {
  const table = state.tables.switch[id]!;
  countPulse(state, table);
  setDeadline(state, table.repeat, state.clock[Clock.Now]! + table.everyMs);
}

function countPulse(state: SeatState, table: SwitchTable): void {
  const { f, i } = state;
  i[table.i + SwitchInt.Pulses] =
    f[table.f + SwitchFloat.PulseStep] === state.clock[Clock.Step] ? i[table.i + SwitchInt.Pulses]! + 1 : 1;
  f[table.f + SwitchFloat.PulseStep] = state.clock[Clock.Step]!;
}

/**
 * What the game gets for a switch. Made once; every field is read off the seat's state as it is at the moment.
 */
export class SwitchReading {
  readonly #state: SeatState;
  #table: SwitchTable;

  /** @internal */
  constructor(state: SeatState, table: SwitchTable) {
    this.#state = state;
    this.#table = table;
  }

  /** @internal */
  static point(reading: SwitchReading, table: SwitchTable): void {
    reading.#table = table;
  }

  /** Whether it is on. */
  get on(): boolean {
    return this.#state.i[this.#table.i + SwitchInt.Told] === 1;
  }

  /** Whether it turned on within this step, even if it is off again. */
  get turnedOn(): boolean {
    return this.#state.f[this.#table.f + SwitchFloat.OnStep] === this.#state.clock[Clock.Step];
  }

  /** Whether it turned off within this step, even if it is on again. */
  get turnedOff(): boolean {
    return this.#state.f[this.#table.f + SwitchFloat.OffStep] === this.#state.clock[Clock.Step];
  }

  /** How often it turned on within this step. */
  get presses(): number {
    return this.turnedOn ? this.#state.i[this.#table.i + SwitchInt.Presses]! : 0;
  }

  /** How long it has been on, in ms; 0 while off. */
  get onMs(): number {
    return this.on ? this.#state.clock[Clock.Now]! - this.#state.f[this.#table.f + SwitchFloat.OnAt]! : 0;
  }

  /** The control that raised it last, `null` before the first press. */
  get by(): string | null {
    return this.#state.tables.signal[this.#state.i[this.#table.i + SwitchInt.By]!]?.control ?? null;
  }

  /** How far a press that has to last has come, 0..1; 0 where none is waited for. */
  get progress(): number {
    let most = 0;
    for (const long of this.#table.longs) most = Math.max(most, longProgress(this.#state, long));
    return most;
  }

  /** How many pulses it gave within this step. */
  get pulses(): number {
    const { f, i } = this.#state;
    if (this.#table.repeat < 0) return 0;
    return f[this.#table.f + SwitchFloat.PulseStep] === this.#state.clock[Clock.Step]
      ? i[this.#table.i + SwitchInt.Pulses]!
      : 0;
  }

  toJSON(): { on: boolean; onMs: number; progress: number } {
    return { on: this.on, onMs: this.onMs, progress: this.progress };
  }

  [Symbol.for("nodejs.util.inspect.custom")](): object {
    const { on, turnedOn, turnedOff, presses, onMs, pulses, progress, by } = this;
    return { on, turnedOn, turnedOff, presses, onMs, pulses, progress, by };
  }
}

/** Nothing has pressed it, and no step has seen it change. */
export function clearSwitch(state: SeatState, table: SwitchTable): void {
  state.i[table.i + SwitchInt.By] = -1;
  state.f[table.f + SwitchFloat.OnStep] = -1;
  state.f[table.f + SwitchFloat.OffStep] = -1;
  if (table.repeat >= 0) state.f[table.f + SwitchFloat.PulseStep] = -1;
  state.f[table.f + SwitchFloat.OnAt] = -Infinity;
}
