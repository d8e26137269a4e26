/**
 * How a press becomes on and off. In: presses and releases of a switch's controls. Out: the switch's fact, on or off.
 *
 * A switch's controls are OR-ed into one signal and the style works on that, so that a second key for the same action
 * neither ends a hold nor flips a toggle a second time.
 */
import { Head, SwitchFloat, SwitchInt } from "./layout.js";
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
  i[table.i + SwitchInt.Latch] =
    !table.startsOn || table.style === Style.Hold ? Latch.Off : table.style === Style.Toggle ? Latch.Held : Latch.Latched;
  i[table.i + SwitchInt.Spent] = i[table.i + SwitchInt.Down]! > 0 ? 1 : 0;
  i[table.i + SwitchInt.Up] = 0;
  state.markSwitch(id);
}

/** Carries the signal's change through the style. */
export function updateSwitch(state: SeatState, id: number): void {
  const { f, i } = state;
  const table = state.tables.switch[id]!;
  const at = table.i;
  let up = i[at + SwitchInt.Down]! > 0 ? 1 : 0;
  if (i[at + SwitchInt.Spent] === 1) {
    if (up === 0) i[at + SwitchInt.Spent] = 0;
    up = 0;
  }
  const edge = up - i[at + SwitchInt.Up]!;
  i[at + SwitchInt.Up] = up;

  let on = i[at + SwitchInt.Latch]!;
  if (table.style === Style.Hold) on = up;
  else if (edge > 0) {
    on = on === Latch.Off ? Latch.Held : Latch.Off;
    f[table.f + SwitchFloat.RoseAt] = f[Head.Now]!;
  } else if (edge < 0 && table.style === Style.Either && on === Latch.Held) {
    // A lost device is no release: it latches nothing.
    on = !state.cancelling && f[Head.Now]! - f[table.f + SwitchFloat.RoseAt]! <= table.tapMs ? Latch.Latched : Latch.Off;
  }
  i[at + SwitchInt.Latch] = on;
  state.setFact(table.fact, on === Latch.Off ? 0 : 1);
  if (i[at + SwitchInt.Told] !== state.fact(table.fact)) state.markChanged(id);
}

/** Notes a change for the readings. True where the switch is other than when it was last told. */
export function settleSwitch(state: SeatState, id: number): boolean {
  const { f, i } = state;
  const table = state.tables.switch[id]!;
  const on = state.fact(table.fact);
  if (i[table.i + SwitchInt.Told] === on) return false;
  i[table.i + SwitchInt.Told] = on;
  if (on === 0) {
    f[table.f + SwitchFloat.OffStep] = f[Head.Step]!;
    return true;
  }
  i[table.i + SwitchInt.Presses] = f[table.f + SwitchFloat.OnStep] === f[Head.Step] ? i[table.i + SwitchInt.Presses]! + 1 : 1;
  f[table.f + SwitchFloat.OnStep] = f[Head.Step]!;
  f[table.f + SwitchFloat.OnAt] = f[Head.Now]!;
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
    return this.#state.i[this.#table.i + SwitchInt.Told] === 1;
  }

  /** Whether it turned on within this step, even if it is off again. */
  get turnedOn(): boolean {
    return this.#state.f[this.#table.f + SwitchFloat.OnStep] === this.#state.f[Head.Step];
  }

  /** Whether it turned off within this step, even if it is on again. */
  get turnedOff(): boolean {
    return this.#state.f[this.#table.f + SwitchFloat.OffStep] === this.#state.f[Head.Step];
  }

  /** How often it turned on within this step. */
  get presses(): number {
    return this.turnedOn ? this.#state.i[this.#table.i + SwitchInt.Presses]! : 0;
  }

  /** How long it has been on, in ms; 0 while off. */
  get onMs(): number {
    return this.on ? this.#state.f[Head.Now]! - this.#state.f[this.#table.f + SwitchFloat.OnAt]! : 0;
  }

  /** The control that raised it last, `null` before the first press. */
  get by(): string | null {
    return this.#state.tables.signal[this.#state.i[this.#table.i + SwitchInt.By]!]?.control ?? null;
  }

  /** How far a press that has to last has come, 0..1; 0 where none is waited for. */
  get progress(): number {
    return 0;
  }

  toJSON(): { on: boolean; onMs: number; progress: number } {
    return { on: this.on, onMs: this.onMs, progress: this.progress };
  }

  [Symbol.for("nodejs.util.inspect.custom")](): object {
    const { on, turnedOn, turnedOff, presses, onMs, by } = this;
    return { on, turnedOn, turnedOff, presses, onMs, by };
  }
}

/** Nothing has pressed it, and no step has seen it change. */
export function clearSwitch(state: SeatState, table: SwitchTable): void {
  state.i[table.i + SwitchInt.By] = -1;
  state.f[table.f + SwitchFloat.OnStep] = -1;
  state.f[table.f + SwitchFloat.OffStep] = -1;
}
