/** The owners of pads. May change: itself. */

/** Pads below this index are in an array, for fast access. */
const LISTED = 65536;

export class PadOwners<T> {
  private readonly list: (T | undefined)[] = [];
  private readonly others = new Map<number, T>();

  get(pad: number): T | undefined {
    return pad >= 0 && pad < this.list.length ? this.list[pad] : this.others.get(pad);
  }

  /** `undefined` frees the pad. */
  set(pad: number, owner: T | undefined): void {
    if (pad < LISTED) {
      while (this.list.length <= pad) this.list.push(undefined);
      this.list[pad] = owner;
    } else if (owner === undefined) this.others.delete(pad);
    else this.others.set(pad, owner);
  }
}
