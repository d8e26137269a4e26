/**
 * What presses in a row may have in common: all of them within a time, and others held meanwhile. In: how many presses count so far. Out: how
 * many still do. May change: the moments until which a row that begins with each of them may go on.
 */
import type { Source } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { Compiler } from "../compile.js";
import { because, type Because, type Change } from "../explaining.js";
import { listOf } from "../lists.js";
import type { Listener, Signal } from "../signals.js";
import type { SeatState } from "../state.js";

/** The presses in a row that have something in common. */
interface Row {
  forgetCount(s: SeatState): void;
  /** Of so many, how many count without the oldest. */
  shorter(count: number): number;
}

export class Together extends Rule implements Listener {
  /** By press, the oldest first: until when the last one may come; -1 without a limit. */
  private readonly ends: number;
  readonly held: readonly Signal[];

  constructor(
    cells: RuleCells,
    compiler: Compiler,
    most: number,
    readonly withinMs: number | undefined,
    held: readonly Source[],
    private readonly row: Row,
  ) {
    super(cells);
    this.ends = withinMs === undefined ? -1 : cells.float("ends", 0, most);
    this.held = listOf(held.map((source) => compiler.signal(source)));
    for (const signal of this.held) signal.gestures.push(this);
  }

  press(): void {}

  /** Letting one of them go forgets the count. */
  release(s: SeatState): void {
    this.row.forgetCount(s);
  }

  /** Whether all that is to be held is down. */
  isHeld({ b }: Pick<SeatState, "b">): boolean {
    const { held } = this;
    for (let n = 0; n < held.length; n++) if (b[held[n]!.up] !== 1) return false;
    return true;
  }

  /** Of so many presses in a row only the last `left` count. */
  keepLast({ f }: SeatState, count: number, left: number): number {
    if (this.ends >= 0 && left < count) f.copyWithin(this.ends, this.ends + count - left, this.ends + count);
    return left;
  }

  /** Drops those at the front that are too old. */
  dropOld(s: SeatState, count: number): number {
    return this.keepLast(s, count, this.stillCounting(s, count));
  }

  /** How many of them a press now would add to. */
  stillCounting({ f, clock }: Pick<SeatState, "f" | "clock">, count: number): number {
    if (this.ends < 0) return count;
    let left = count;
    while (left > 0 && clock[Clock.Now]! > f[this.ends + count - left]!) left = this.row.shorter(left);
    return left;
  }

  /** Notes a press, the last of so many. */
  add({ f, clock }: SeatState, count: number): void {
    if (this.ends >= 0) f[this.ends + count - 1] = clock[Clock.Now]! + this.withinMs!;
  }

  /** Until when the row may go on that has so many presses, of which `left` still count. */
  endOf({ f }: Pick<SeatState, "f">, count: number, left: number): number {
    return this.ends < 0 ? Infinity : f[this.ends + count - left]!;
  }
}

/** What the presses of this entry have in common; `null` for nothing. */
export function togetherOf(
  compiler: Compiler,
  cells: RuleCells,
  entry: { readonly withinMs: number | undefined; readonly with: readonly Source[] },
  most: number,
  row: Row,
): Together | null {
  const { withinMs, with: held } = entry;
  if (withinMs === undefined && held.length === 0) return null;
  return new Together(cells, compiler, most, withinMs, held, row);
}

/** What tells entries apart that differ in what is held. */
export function heldKey({ with: held }: { readonly with: readonly Source[] }): string {
  return held.map(({ name }) => ` with ${name}`).join("");
}

/** Whether a press counted, since all that is to be held was down. */
export function isTogether({ together }: { together: Together | null }, { after }: Change): boolean {
  return together === null || together.isHeld(after);
}

/** A press that does not count, since something is not held. */
export function notHeld({ held }: Together, name: string, { after }: Change): Because {
  const up = held.filter((signal) => after.b[signal.up] !== 1).map((signal) => signal.name);
  return because("nothing", "with", `${name} counts only while ${up.join(" and ")} is down`);
}
