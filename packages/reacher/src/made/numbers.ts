/** What a made seat is told besides its functions: places of cells, and what the shell asks of controls. As `reacher build` writes it. */

import type { DrivenAt, Latching } from "../engine/recordable.js";

/** Bytes of a buffer: place and value, one after the other. */
type Bytes = readonly number[];

export interface MadeNumbers {
  /** Identifies plan and slots in snapshots. */
  readonly print: number;
  /** The buffer's size; its words of four bytes other than 0, each with its place; and the bytes that the first step changes before all else. */
  readonly bytes: number;
  readonly start: readonly number[];
  readonly begun: Bytes;
  /**
   * Of a seat whose slots change: the bytes that it keeps then, as runs of them (the first, and the one after the last); and cells of places in lists of rules,
   * each with the rules' numbers. And by worn key, as its place among the bound controls, the cell of the moment until which its release is held back.
   */
  readonly carried?: {
    readonly runs: readonly number[];
    readonly refers: readonly (readonly number[])[];
    readonly bounces: readonly (readonly [bound: number, until: number])[];
  };
  /** Where settings may turn sticks around, the bytes of all that is counted, as runs of them. */
  readonly counted?: readonly number[];
  /**
   * What stays as it is since the game was built without some call: from which byte, then the bytes. A snapshot that has them otherwise comes from a game
   * that made that call.
   */
  readonly fixed?: readonly Bytes[];
  /** The seat's own cells. */
  readonly cells: readonly number[];
  /** By bound control: its number, the cell of its value, how many pads, flags (1 axis, 2 amount, 4 a stick alone), least, most, group, and its other axis. */
  readonly channels: readonly (readonly number[])[];
  /** The names of the bound controls, in their order; and the devices of the plan's own controls. */
  readonly names: readonly string[];
  readonly ownDevices: readonly string[];
  /** Other names with the controls behind them; and by control the cells of its users, live and hidden by turns. */
  readonly named: readonly (readonly [name: string, ...controls: number[]])[];
  readonly users: readonly (readonly number[])[];
  /** The cells of how many timers are set and of their list; then phase, rank and cell of each. */
  readonly timers: readonly number[];
  /** By action: the cell of whether it is live. */
  readonly live: readonly number[];
  /** By switch: its rank, its cell of presses at one moment, of whether it is on, and its action. */
  readonly switches: readonly (readonly number[])[];
  /** By movement: its action. */
  readonly movements: readonly number[];
  /** How many sticks, turns, paces, waiting entries and signals there are. */
  readonly counts: readonly number[];
  /** By keeper: the cell of the number of the event that pressed it. */
  readonly keepers: readonly number[];
  /** Cells, in the plan's order. */
  readonly flags: readonly number[];
  readonly numbers: readonly number[];
  readonly spots: readonly (readonly [name: string, x: number, y: number])[];
  /** By mode its level, by action its mutes; `null` without modes and mutes. */
  readonly levels: readonly number[] | null;
  readonly mutes: readonly number[] | null;
  /** How far below 0 losses are numbered. */
  readonly devices: number;
  readonly usesPads: boolean;
  /** For recordings: what may be latched, and where it stands what drives each action. */
  readonly recordable?: {
    readonly latches: readonly Omit<Latching, "isOn">[];
    /** Of switches whose style a player may set: by which of the open numbers it is a toggle, and what it tells with the other style. */
    readonly others?: readonly (readonly [latch: number, open: number, told: Omit<Latching, "isOn">])[];
    readonly driven: readonly (DrivenAt | null)[];
  };
}
