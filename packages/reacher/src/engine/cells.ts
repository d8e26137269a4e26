/**
 * Hands out places in a seat's buffer. A rule takes its cells where it is declared, by name; there is no other list of the
 * state. May change: itself, while a plan is compiled.
 *
 * The buffer has three views: `f` (floats: moments and amounts), `i` (ints) and `b` (bytes: flags and small counts).
 */

/** Whoever has a key can be found again in other tables. */
export interface Keyed {
  readonly key: string;
}

/** How many bytes a cell takes; each kind stands in a view of its own. */
export const enum Width {
  Byte = 1,
  Int = 4,
  Float = 8,
}

export interface Cell {
  /** The key of the rule that owns it. */
  readonly rule: string;
  /** Its own name within the rule. */
  readonly name: string;
  /** Its place in its view. */
  readonly at: number;
  readonly width: Width;
  readonly count: number;
  readonly start: number;
  /** Other tables do not keep it: they count it anew. */
  readonly isCount: boolean;
  /** It holds a place in this list, which may be another place in other tables. */
  readonly refers: readonly Keyed[] | undefined;
}

export class Cells {
  readonly all: Cell[] = [];
  private size = 0;
  /** An int between two floats, or -1; and the bytes that are left of the last int that bytes were put into. */
  private freeInt = -1;
  private freeBytes = 0;
  private lastByte = 0;
  private readonly rules = new Map<string, number>();
  private first: Uint8Array | undefined;

  /** The cells of one rule. Of several with one key each has its number, in order. */
  rule(key: string): RuleCells {
    const before = this.rules.get(key) ?? 0;
    this.rules.set(key, before + 1);
    return new RuleCells(this, before === 0 ? key : `${key} #${before}`);
  }

  take(
    rule: string,
    name: string,
    width: Width,
    start: number,
    count: number,
    isCount: boolean,
    refers: readonly Keyed[] | undefined,
  ): number {
    const at = this.place(width, count);
    this.all.push({ rule, name, at, width, count, start, isCount, refers });
    return at;
  }

  /** Cells of one width stand in a row; holes that floats leave are filled. */
  private place(width: Width, count: number): number {
    if (width === Width.Float) {
      if (this.size % 8 !== 0) {
        this.freeInt = this.size / 4;
        this.size += 4;
      }
      this.size += 8 * count;
      return this.size / 8 - count;
    }
    if (width === Width.Int) {
      const hole = this.freeInt;
      if (count === 1 && hole >= 0) {
        this.freeInt = -1;
        return hole;
      }
      this.size += 4 * count;
      return this.size / 4 - count;
    }
    if (this.freeBytes === 0) {
      this.lastByte = this.place(Width.Int, 1) * 4;
      this.freeBytes = 4;
    }
    this.freeBytes--;
    return this.lastByte++;
  }

  /** A buffer in which every cell has its start. */
  allocate(): ArrayBuffer {
    this.first ??= this.filled();
    return this.first.slice().buffer as ArrayBuffer;
  }

  private filled(): Uint8Array {
    const buffer = new ArrayBuffer(Math.ceil(this.size / 8) * 8);
    const views = { 1: new Uint8Array(buffer), 4: new Int32Array(buffer), 8: new Float64Array(buffer) };
    // A new buffer is zero already, as most cells begin.
    for (const { at, count, start, width } of this.all)
      if (start !== 0) views[width].fill(start, at, at + count);
    return views[1];
  }
}

/** Whoever owns cells takes them where it declares its fields. */
export abstract class Rule implements Keyed {
  constructor(readonly cells: RuleCells) {}

  get key(): string {
    return this.cells.key;
  }
}

export class RuleCells implements Keyed {
  constructor(
    private readonly cells: Cells,
    readonly key: string,
  ) {}

  /** A byte: yes or no, or a count below 256. */
  byte(name: string, start = 0): number {
    return this.add(name, Width.Byte, start);
  }

  /** A byte that counts what is down elsewhere: other tables count it anew. */
  tally(name: string): number {
    return this.add(name, Width.Byte, 0, 1, true);
  }

  int(name: string, start = 0, count = 1): number {
    return this.add(name, Width.Int, start, count);
  }

  float(name: string, start = 0, count = 1): number {
    return this.add(name, Width.Float, start, count);
  }

  /** An int that counts what is down elsewhere: other tables count it anew. */
  count(name: string, count = 1): number {
    return this.add(name, Width.Int, 0, count, true);
  }

  /** A place in a list of rules, or -1. */
  place(name: string, refers: readonly Keyed[]): number {
    return this.add(name, Width.Int, -1, 1, false, refers);
  }

  private add(
    name: string,
    width: Width,
    start: number,
    count = 1,
    isCount = false,
    refers?: readonly Keyed[],
  ): number {
    return this.cells.take(this.key, name, width, start, count, isCount, refers);
  }
}
