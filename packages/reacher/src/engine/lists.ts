/** Short lists of integers that leave no garbage as they grow and shrink. */

/** Numbers in order of arrival. */
export class NumberList {
  items = new Int32Array(16);
  count = 0;

  add(number: number): void {
    if (this.count === this.items.length) {
      const wider = new Int32Array(this.count * 2);
      wider.set(this.items);
      this.items = wider;
    }
    this.items[this.count++] = number;
  }
}

/** Marked numbers without duplicates, lowest first: one bit each. */
export class DirtyList {
  private readonly words: Int32Array;
  /** No word before this one has a bit. */
  private lowest = 0;
  count = 0;

  constructor(private readonly size: number) {
    this.words = new Int32Array((size + 31) >> 5);
  }

  mark(id: number): void {
    const { words } = this;
    const at = id >> 5;
    const word = words[at]!;
    const bit = 1 << (id & 31);
    if ((word & bit) !== 0) return;
    words[at] = word | bit;
    this.count++;
    if (at < this.lowest) this.lowest = at;
  }

  markAll(): void {
    for (let id = 0; id < this.size; id++) this.mark(id);
  }

  /** Removes and returns the lowest; only where there is one. */
  pop(): number {
    const { words } = this;
    let at = this.lowest;
    while (words[at] === 0) at++;
    const word = words[at]!;
    this.lowest = at;
    this.count--;
    words[at] = word & (word - 1);
    return (at << 5) | (31 - Math.clz32(word & -word));
  }

  clear(): void {
    this.words.fill(0);
    this.count = this.lowest = 0;
  }
}

/**
 * An empty list that V8 treats as a list of objects from the start: a plain `[]` begins as a list of small integers,
 * and code that meets both kinds runs slower.
 */
export function listOf<T>(items: Iterable<T> = []): T[] {
  const list: (T | null)[] = [null];
  list.pop();
  for (const item of items) list.push(item);
  return list as T[];
}
