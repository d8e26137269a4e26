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

/** A queue of marked numbers without duplicates, lowest first. A binary heap; it rarely holds more than two. */
export class DirtyList {
  private readonly items: Int32Array;
  private readonly marked: Uint8Array;
  count = 0;

  constructor(size: number) {
    this.items = new Int32Array(size);
    this.marked = new Uint8Array(size);
  }

  mark(id: number): void {
    const { items, marked } = this;
    if (marked[id] === 1) return;
    marked[id] = 1;
    if (this.count++ === 0) items[0] = id;
    else this.rise(id, this.count - 1);
  }

  /** Adds one at the end and sifts it up. */
  private rise(id: number, last: number): void {
    const { items } = this;
    let at = last;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (items[parent]! < id) break;
      items[at] = items[parent]!;
      at = parent;
    }
    items[at] = id;
  }

  markAll(): void {
    for (let id = 0; id < this.items.length; id++) this.mark(id);
  }

  /** Removes and returns the lowest. */
  take(): number {
    const { items } = this;
    const id = items[0]!;
    this.marked[id] = 0;
    const count = --this.count;
    if (count > 0) this.sink(items[count]!, count);
    return id;
  }

  /** Moves the last to the front and sifts it down. */
  private sink(last: number, count: number): void {
    const { items } = this;
    let at = 0;
    for (;;) {
      let child = at * 2 + 1;
      if (child >= count) break;
      if (child + 1 < count && items[child + 1]! < items[child]!) child++;
      if (items[child]! > last) break;
      items[at] = items[child]!;
      at = child;
    }
    items[at] = last;
  }

  clear(): void {
    if (this.count === 0) return;
    this.marked.fill(0);
    this.count = 0;
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
