/** Short lists of whole numbers that grow without leaving anything behind for the collector. */

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

/** Numbers that wait to be looked at, each once. There are rarely more than two of them, so that a look is quicker than a mark. */
export class MarkedList {
  readonly items: Int32Array;
  count = 0;

  constructor(size: number) {
    this.items = new Int32Array(size);
  }

  mark(id: number): void {
    const { items, count } = this;
    for (let n = 0; n < count; n++) if (items[n] === id) return;
    items[count] = id;
    this.count = count + 1;
  }

  clear(): void {
    this.count = 0;
  }

  takeAt(at: number): number {
    const id = this.items[at]!;
    this.items[at] = this.items[--this.count]!;
    return id;
  }

  sort(): void {
    for (let n = 1; n < this.count; n++) {
      const id = this.items[n]!;
      let at = n;
      while (at > 0 && this.items[at - 1]! > id) {
        this.items[at] = this.items[at - 1]!;
        at--;
      }
      this.items[at] = id;
    }
  }
}

/**
 * A list of objects. All of them are lists of objects to the machine, empty ones too: an empty `[]` is one of whole numbers,
 * and code that meets both kinds is slower for both.
 */
export function listOf<T>(items: Iterable<T> = []): T[] {
  const list: (T | null)[] = [null];
  list.pop();
  for (const item of items) list.push(item);
  return list as T[];
}
