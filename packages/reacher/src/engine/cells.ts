/**
 * Allocates cells in a seat's buffer. A rule takes its cells by name where it is declared; there is no other list of the
 * state. May change: itself, while a plan is compiled.
 *
 * The buffer has three views: `f` (floats: moments and amounts), `i` (ints) and `b` (bytes: flags and small counts).
 */

/** A rule with a key can be found again in other tables. */
export interface Keyed {
  readonly key: string;
}

/** Bytes per cell; each width has a view of its own. */
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
  /** Its index in its view. */
  readonly at: number;
  readonly width: Width;
  readonly count: number;
  readonly start: number;
  /** Not carried over to other tables, which recount it. */
  readonly isCount: boolean;
  /** It holds an index into this list, which may differ in other tables. */
  readonly refers: readonly Keyed[] | undefined;
}

/**
 * Finds cells by their rule's key and their name. Two tables mostly have the same cells in the same order: then nothing has
 * to be looked up. May change: its position.
 */
export class CellFinder {
  private next = 0;
  private references: Map<string, number> | undefined;

  constructor(private readonly all: readonly Cell[]) {}

  find(rule: string, name: string): Cell | undefined {
    const here = this.all[this.next++];
    if (here !== undefined && here.name === name && here.rule === rule) return here;
    this.references ??= new Map(this.all.map((cell, n) => [`${cell.rule} ${cell.name}`, n]));
    const place = this.references.get(`${rule} ${name}`);
    // From there on the order may be the same again.
    this.next = place === undefined ? this.next - 1 : place + 1;
    return place === undefined ? undefined : this.all[place];
  }
}

export class Cells {
  readonly all: Cell[] = [];
  private readonly others: CellFinder | null;
  private size: number;
  /** A free int slot between two floats, or -1; and the bytes left in the int that bytes were last packed into. */
  private freeInt = -1;
  private freeBytes = 0;
  private lastByte = 0;
  private readonly rules = new Map<string, number>();
  private first: Uint8Array | undefined;
  /** Whether each of them has its place among those that it is to lie like. */
  areAsThere = true;

  /** `like`: cells lie where they lie there, of the same plan with all its slots. What is not there comes after it. */
  constructor(like: Cells | null = null) {
    this.others = like && new CellFinder(like.all);
    this.size = like === null ? 0 : like.size;
  }

  /** The cells of one rule. Rules that share a key are numbered in order. */
  rule(key: string): RuleCells {
    const before = this.rules.get(key) ?? 0;
    this.rules.set(key, before + 1);
    return new RuleCells(this, before === 0 ? key : `${key} #${before}`);
  }

  reserve(
    rule: string,
    name: string,
    width: Width,
    start: number,
    count: number,
    isCount: boolean,
    refers: readonly Keyed[] | undefined,
  ): number {
    const other = this.others?.find(rule, name);
    const isThere = other !== undefined && other.width === width && other.count >= count;
    if (!isThere && this.others !== null) this.areAsThere = false;
    const at = isThere ? other.at : this.place(width, count);
    this.all.push({ rule, name, at, width, count, start, isCount, refers });
    return at;
  }

  /** Cells of one width are contiguous; gaps left by float alignment are filled. */
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

  /** A new buffer, every cell at its initial value. */
  allocate(): Uint8Array {
    this.first ??= this.filled();
    return this.first.slice();
  }

  private filled(): Uint8Array {
    const buffer = new ArrayBuffer(Math.ceil(this.size / 8) * 8);
    const views = { 1: new Uint8Array(buffer), 4: new Int32Array(buffer), 8: new Float64Array(buffer) };
    // A new buffer is zeroed, which is the initial value of most cells.
    for (const { at, count, start, width } of this.all)
      if (start !== 0) views[width].fill(start, at, at + count);
    return views[1];
  }
}

/** Base of all rules: takes its cells where it declares its fields. */
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

  /** A byte: a flag, or a count below 256. */
  byte(name: string, start = 0): number {
    return this.add(name, Width.Byte, start);
  }

  /** A byte that counts what is down elsewhere: other tables recount it. */
  tally(name: string): number {
    return this.add(name, Width.Byte, 0, 1, true);
  }

  int(name: string, start = 0, count = 1): number {
    return this.add(name, Width.Int, start, count);
  }

  float(name: string, start = 0, count = 1): number {
    return this.add(name, Width.Float, start, count);
  }

  /** An int that counts what is down elsewhere: other tables recount it. */
  count(name: string, count = 1): number {
    return this.add(name, Width.Int, 0, count, true);
  }

  /** An index into a list of rules, or -1. */
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
    return this.cells.reserve(this.key, name, width, start, count, isCount, refers);
  }
}
