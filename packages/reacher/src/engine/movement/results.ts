/**
 * Directions and the length of a movement as they come out of the hands. In: x, y and length before ease and before what the game adds. Out: signals
 * pressed or released, conditions set. What rises by anything but hands (its action is live again, bound anew, reset) is down without a press.
 */
import type { ResultSource, Sector } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import type { Compiler, Feature } from "../compile.js";
import type { Condition } from "../conditions.js";
import { listOf } from "../lists.js";
import type { Signal } from "../signals.js";
import { Cause, type SeatState } from "../state.js";
import { keepSector, NO_SECTOR } from "./sectors.js";

/** The movement whose results these are. */
export interface ResultOwner {
  readonly name: string;
  readonly directions: number;
  readonly up: number;
  /** The cells of what comes out of the hands. */
  readonly x: number;
  readonly y: number;
  readonly length: number;
}

/** One signal; and the condition of its name, if a word asks for it. */
class Result {
  condition: Condition | null = null;

  constructor(readonly signal: Signal) {}

  set(s: SeatState, isUp: boolean): void {
    const { signal, condition } = this;
    const wasUp = s.b[signal.up] === 1;
    if (condition !== null) condition.set(s, isUp ? 1 : 0);
    if (isUp === wasUp) return;
    if (!isUp) signal.fall(s);
    else if (s.cause === Cause.Hands) signal.rise(s);
    else s.b[signal.up] = 1;
  }
}

/** How far it goes one way, or at all. */
class Measured extends Result {
  constructor(
    signal: Signal,
    /** The cell of the component or of the length, and its sign towards this way. */
    private readonly at: number,
    private readonly sign: number,
  ) {
    super(signal);
  }

  update(s: SeatState): void {
    const { signal } = this;
    const amount = s.f[this.at]! * this.sign;
    this.set(s, amount >= (s.b[signal.up] === 1 ? signal.release : signal.press));
  }
}

/** The eight directions in the order of their numbers. */
const SECTORS: readonly Sector[] = [
  "right",
  "upRight",
  "up",
  "upLeft",
  "left",
  "downLeft",
  "down",
  "downRight",
];

/** The nearest of the eight directions, or of four: one at a time, from a length on. */
class Nearest extends Rule {
  /** The present one, or -1. */
  private readonly present = this.cells.int("sector", NO_SECTOR);
  readonly results: (Result | null)[] = SECTORS.map(() => null);

  constructor(
    cells: RuleCells,
    private readonly movement: ResultOwner,
    private readonly press: number,
    private readonly release: number,
  ) {
    super(cells);
  }

  update(s: SeatState): void {
    const { f, i } = s;
    const { movement, present, results } = this;
    const length = f[movement.length]!;
    const was = i[present]!;
    const isOn = length >= (was === NO_SECTOR ? this.press : this.release);
    const directions = movement.directions === 4 ? 4 : 8;
    const is = isOn
      ? keepSector(was, directions, f[movement.x]!, f[movement.y]! * movement.up, length)
      : NO_SECTOR;
    i[present] = is;
    // The one that is left falls before the next rises.
    for (let n = 0; n < results.length; n++) if (n !== is && results[n] !== null) results[n]!.set(s, false);
    if (is !== NO_SECTOR && results[is] !== null) results[is]!.set(s, true);
  }
}

/** All results of a movement. */
export class Results {
  private readonly measured: Measured[] = listOf();
  private readonly nearest: Nearest[] = listOf();

  constructor(private readonly movement: ResultOwner) {}

  update(s: SeatState): void {
    const { measured, nearest } = this;
    for (let n = 0; n < measured.length; n++) measured[n]!.update(s);
    for (let n = 0; n < nearest.length; n++) nearest[n]!.update(s);
  }

  /** The result of a source that has this signal. */
  add({ cells }: Compiler, source: ResultSource, signal: Signal): Result {
    const { movement } = this;
    const { result, way, press, release } = source;
    if (result === "sector") {
      const key = `nearest ${movement.name} ${press} ${release}`;
      let own = this.nearest.find((one) => one.key === key);
      if (own === undefined)
        this.nearest.push((own = new Nearest(cells.rule(key), movement, press, release)));
      return (own.results[SECTORS.indexOf(way)] ??= new Result(signal));
    }
    const isAcross = way === "left" || way === "right";
    const isBack = way === "left" || way === "down";
    const at = result === "length" ? movement.length : isAcross ? movement.x : movement.y;
    const sign = result === "length" ? 1 : (isBack ? -1 : 1) * (isAcross ? 1 : movement.up);
    const measured = new Measured(signal, at, sign);
    this.measured.push(measured);
    return measured;
  }
}

/** Makes what raises the signal of a result. */
function make(compiler: Compiler, source: ResultSource, signal: Signal): Result {
  const found = compiler.actions.find((action) => action?.name === source.action) as object;
  const movement = found as ResultOwner & { results: Results | null };
  return (movement.results ??= new Results(movement)).add(compiler, source, signal);
}

export const results: Feature = { results: make };
