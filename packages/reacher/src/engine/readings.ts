/**
 * What the game gets: one object per action, made once, whose fields are read off the seat's state as it is at the moment.
 * So a restored snapshot shows at once, and a step writes no reading that nobody reads.
 */
import { MoverFloat, MoverInt } from "./layout.js";
import type { Device } from "../controls/catalogue.js";
import type { Kind, Kinds } from "../plan/types.js";
import { movingDevice } from "./movement.js";
import { easedNow, Part } from "./ease.js";
import { paceNow } from "./pace.js";
import { sectorX, sectorY } from "./sectors.js";
import type { SeatState } from "./state.js";
import { SwitchReading } from "./switches.js";
import { TurnReading } from "./turns.js";
import type { MoverTable } from "./tables.js";

export { SwitchReading, TurnReading };

/** The reading of an action of this kind. */
export type ReadingOf<T extends Kind> = T extends "switch"
  ? SwitchReading
  : T extends "axis"
    ? AxisReading
    : T extends "turn"
      ? TurnReading
      : VectorReading;

/** The reading of each action, typed by its kind. */
export type Reading<K extends Kinds = Kinds> = { readonly [A in keyof K]: ReadingOf<K[A]> };

const INSPECT = Symbol.for("nodejs.util.inspect.custom");

/** One number, -1..1. */
export class AxisReading {
  readonly #state: SeatState;
  #table: MoverTable;

  /** @internal */
  constructor(state: SeatState, table: MoverTable) {
    this.#state = state;
    this.#table = table;
  }

  /** @internal The same reading, by other tables. */
  static point(reading: AxisReading, table: MoverTable): void {
    reading.#table = table;
  }

  /** -1..1. */
  get value(): number {
    if (this.#table.ease !== undefined) return easedNow(this.#state, this.#table, Part.X) + 0;
    return this.#state.f[this.#table.f + MoverFloat.X]!;
  }

  /** What moves it, `null` at rest. */
  get device(): Device | null {
    return movingDevice(this.#state, this.#table);
  }

  toJSON(): { value: number } {
    return { value: this.value };
  }

  [INSPECT](): object {
    return { value: this.value, device: this.device };
  }
}

/** A direction of unit length; y as the plan's `yAxis` has it. */
export class Facing {
  readonly #state: SeatState;
  #table: MoverTable;

  /** @internal */
  constructor(state: SeatState, table: MoverTable) {
    this.#state = state;
    this.#table = table;
  }

  /** @internal */
  static point(reading: Facing, table: MoverTable): void {
    reading.#table = table;
  }

  get x(): number {
    const { i } = this.#state;
    const sector = i[this.#table.i + MoverInt.Face]!;
    return sector >= 0 ? sectorX(sector) : this.#part(MoverFloat.FaceX);
  }

  get y(): number {
    const { i } = this.#state;
    const sector = i[this.#table.i + MoverInt.Face]!;
    return sector >= 0 ? sectorY(sector) * this.#table.up + 0 : this.#part(MoverFloat.FaceY);
  }

  /** The facing of a stick stands in the state with the stick's length. */
  #part(part: MoverFloat): number {
    const { f } = this.#state;
    const { f: at } = this.#table;
    const x = f[at + MoverFloat.FaceX]!;
    const y = f[at + MoverFloat.FaceY]!;
    return f[at + part]! / Math.sqrt(x * x + y * y);
  }

  toJSON(): [number, number] {
    return [this.x, this.y];
  }

  [INSPECT](): object {
    return { x: this.x, y: this.y };
  }
}

/** A direction with a length, and what goes with it. */
export class VectorReading {
  readonly #state: SeatState;
  #table: MoverTable;
  /** The direction last moved in. */
  readonly facing: Facing;

  /** @internal */
  constructor(state: SeatState, table: MoverTable) {
    this.#state = state;
    this.#table = table;
    this.facing = new Facing(state, table);
  }

  /** @internal */
  static point(reading: VectorReading, table: MoverTable): void {
    reading.#table = table;
    Facing.point(reading.facing, table);
  }

  /** -1..1, right is +1. */
  get x(): number {
    if (this.#table.ease !== undefined) return easedNow(this.#state, this.#table, Part.X) + 0;
    return this.#state.f[this.#table.f + MoverFloat.X]!;
  }

  /** -1..1, up is +1 unless the plan's `yAxis` says "down". */
  get y(): number {
    if (this.#table.ease !== undefined) return easedNow(this.#state, this.#table, Part.Y) + 0;
    return this.#state.f[this.#table.f + MoverFloat.Y]!;
  }

  /** 0..1; with square diagonals up to 1.414214. */
  get length(): number {
    if (this.#table.ease !== undefined) return easedNow(this.#state, this.#table, Part.Length);
    return this.#state.f[this.#table.f + MoverFloat.Length]!;
  }

  /** Radians, counter-clockwise from right, whatever `yAxis` is; 0 at rest. For drawing: engine state never depends on it. */
  get angle(): number {
    return Math.atan2(this.y * this.#table.up + 0, this.x);
  }

  /** The named band of the length, `null` below the lowest. */
  get gait(): string | null {
    return this.#table.gaitNames[this.#state.i[this.#table.i + MoverInt.Gait]!] ?? null;
  }

  /** The speed that goes with it, in the pace's unit (metres per second, say); 1 where the plan names none. */
  get pace(): number {
    return paceNow(this.#state, this.#table);
  }

  /** x times pace. */
  get vx(): number {
    const { f } = this.#state;
    const table = this.#table;
    if (table.plain) return f[table.f + MoverFloat.X]! * f[table.f + MoverFloat.PaceTo]!;
    const x = table.ease === undefined ? f[table.f + MoverFloat.X]! : this.x;
    return x * paceNow(this.#state, table);
  }

  /** y times pace. */
  get vy(): number {
    const { f } = this.#state;
    const table = this.#table;
    if (table.plain) return f[table.f + MoverFloat.Y]! * f[table.f + MoverFloat.PaceTo]!;
    const y = table.ease === undefined ? f[table.f + MoverFloat.Y]! : this.y;
    return y * paceNow(this.#state, table);
  }

  /** What moves it, `null` at rest. */
  get device(): Device | null {
    return movingDevice(this.#state, this.#table);
  }

  toJSON(): object {
    const { x, y, length, angle, gait, pace, vx, vy } = this;
    return { x, y, length, angle, facing: this.facing.toJSON(), gait, pace, vx, vy };
  }

  [INSPECT](): object {
    const { x, y, length, angle, facing, gait, pace, vx, vy, device } = this;
    return { x, y, length, angle, facing, gait, pace, vx, vy, device };
  }
}

/** The reading of a seat, with every action in the plan's order. */
export function makeReading(state: SeatState): Reading {
  const { plan, switch: switches, mover } = state.tables;
  const byName = new Map<string, SwitchReading | AxisReading | VectorReading | TurnReading>();
  for (const table of switches) byName.set(table.name, new SwitchReading(state, table));
  for (const table of mover) {
    byName.set(table.name, table.isAxis ? new AxisReading(state, table) : new VectorReading(state, table));
  }
  for (const table of state.tables.turn) byName.set(table.name, new TurnReading(state, table));
  // Made in one go: an object that grows key by key turns slow to read.
  return Object.freeze(Object.fromEntries(plan.actions.map(({ name }) => [name, byName.get(name)!])));
}

/** Lets the readings of a seat look at its state by the tables that it has now. */
export function pointReadings(reading: Reading, state: SeatState): void {
  const { switch: switches, mover, turn } = state.tables;
  for (const table of switches) SwitchReading.point(reading[table.name] as SwitchReading, table);
  for (const table of turn) TurnReading.point(reading[table.name] as TurnReading, table);
  for (const table of mover) {
    const one = reading[table.name]!;
    if (one instanceof AxisReading) AxisReading.point(one, table);
    else VectorReading.point(one as VectorReading, table);
  }
}
