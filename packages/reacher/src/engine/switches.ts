/**
 * How a press becomes on and off. In: presses and releases of a switch's controls. Out: the switch's fact, on or off.
 *
 * A switch's controls are OR-ed into one signal and the style works on that, so that a second key for the same action
 * neither ends a hold nor flips a toggle a second time.
 */
import type { SeatState } from "./state.js";
import { EITHER, HOLD, NOW, STEP, TOGGLE, type SwitchTable } from "./tables.js";

/** State of a switch, ints: controls down; the signal as last looked at; the style's own state; ... */
const DOWN = 0;
const UP = 1;
const STATE = 2;
/** ... 1 where what is held counts no more until it is pressed again; on as last told; turned on this often in its step; the signal's source. */
const SPENT = 3;
const TOLD = 4;
const PRESSES = 5;
const BY = 6;
export const SWITCH_INTS = 7;

/** Floats: when it turned on; when its signal rose; the steps in which it last turned on and off. */
const ON_AT = 0;
const ROSE_AT = 1;
const ON_STEP = 2;
const OFF_STEP = 3;
export const SWITCH_FLOATS = 4;

/** The state of an `either`: on while held, or latched by a short press. A toggle has only off and `HELD`. */
const OFF = 0;
const HELD = 1;
const LATCHED = 2;

/** One more of its controls is down. */
export function pressSwitch(state: SeatState, id: number, signal: number): void {
  const at = state.tables.switch[id]!.i;
  if (state.i[at + DOWN]!++ === 0) {
    state.i[at + BY] = signal;
    state.markSwitch(id);
  }
}

/** One of its controls is up again. */
export function releaseSwitch(state: SeatState, id: number): void {
  if (--state.i[state.tables.switch[id]!.i + DOWN]! === 0) state.markSwitch(id);
}

/** As at the start; what is held must be pressed again. */
export function startSwitch(state: SeatState, id: number): void {
  const { i, tables } = state;
  const table = tables.switch[id]!;
  i[table.i + STATE] = !table.startsOn || table.style === HOLD ? OFF : table.style === TOGGLE ? HELD : LATCHED;
  i[table.i + SPENT] = i[table.i + DOWN]! > 0 ? 1 : 0;
  i[table.i + UP] = 0;
  state.markSwitch(id);
}

/** Carries the signal's change through the style. */
export function updateSwitch(state: SeatState, id: number): void {
  const { f, i } = state;
  const table = state.tables.switch[id]!;
  const at = table.i;
  let up = i[at + DOWN]! > 0 ? 1 : 0;
  if (i[at + SPENT] === 1) {
    if (up === 0) i[at + SPENT] = 0;
    up = 0;
  }
  const edge = up - i[at + UP]!;
  i[at + UP] = up;

  let on = i[at + STATE]!;
  if (table.style === HOLD) on = up;
  else if (edge > 0) {
    on = on === OFF ? HELD : OFF;
    f[table.f + ROSE_AT] = f[NOW]!;
  } else if (edge < 0 && table.style === EITHER && on === HELD) {
    // A lost device is no release: it latches nothing.
    on = !state.cancelling && f[NOW]! - f[table.f + ROSE_AT]! <= table.tapMs ? LATCHED : OFF;
  }
  i[at + STATE] = on;
  state.setFact(table.fact, on === OFF ? 0 : 1);
  if (i[at + TOLD] !== state.fact(table.fact)) state.markChanged(id);
}

/** Notes a change for the readings. True where the switch is other than when it was last told. */
export function settleSwitch(state: SeatState, id: number): boolean {
  const { f, i } = state;
  const table = state.tables.switch[id]!;
  const on = state.fact(table.fact);
  if (i[table.i + TOLD] === on) return false;
  i[table.i + TOLD] = on;
  if (on === 0) {
    f[table.f + OFF_STEP] = f[STEP]!;
    return true;
  }
  i[table.i + PRESSES] = f[table.f + ON_STEP] === f[STEP] ? i[table.i + PRESSES]! + 1 : 1;
  f[table.f + ON_STEP] = f[STEP]!;
  f[table.f + ON_AT] = f[NOW]!;
  return true;
}

/**
 * What the game gets for a switch. Made once; every field is read off the seat's state as it is at the moment.
 */
export class SwitchReading {
  readonly #state: SeatState;
  readonly #table: SwitchTable;

  constructor(state: SeatState, table: SwitchTable) {
    this.#state = state;
    this.#table = table;
  }

  /** Whether it is on. */
  get on(): boolean {
    return this.#state.i[this.#table.i + TOLD] === 1;
  }

  /** Whether it turned on within this step, even if it is off again. */
  get turnedOn(): boolean {
    return this.#state.f[this.#table.f + ON_STEP] === this.#state.f[STEP];
  }

  /** Whether it turned off within this step, even if it is on again. */
  get turnedOff(): boolean {
    return this.#state.f[this.#table.f + OFF_STEP] === this.#state.f[STEP];
  }

  /** How often it turned on within this step. */
  get presses(): number {
    return this.turnedOn ? this.#state.i[this.#table.i + PRESSES]! : 0;
  }

  /** How long it has been on, in ms; 0 while off. */
  get onMs(): number {
    return this.on ? this.#state.f[NOW]! - this.#state.f[this.#table.f + ON_AT]! : 0;
  }

  /** The control that raised it last, `null` before the first press. */
  get by(): string | null {
    return this.#state.tables.signal[this.#state.i[this.#table.i + BY]!]?.control ?? null;
  }

  toJSON(): { on: boolean; onMs: number } {
    return { on: this.on, onMs: this.onMs };
  }

  [Symbol.for("nodejs.util.inspect.custom")](): object {
    const { on, turnedOn, turnedOff, presses, onMs, by } = this;
    return { on, turnedOn, turnedOff, presses, onMs, by };
  }
}

/** Nothing has pressed it, and no step has seen it change. */
export function clearSwitch(state: SeatState, table: SwitchTable): void {
  state.i[table.i + BY] = -1;
  state.f[table.f + ON_STEP] = -1;
  state.f[table.f + OFF_STEP] = -1;
}
