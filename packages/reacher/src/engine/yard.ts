/** Room for the buffers of many seats, side by side, in the order in which they ask. May change: how much of it is taken. */
export class Yard {
  private readonly bytes: Uint8Array;
  private taken = 0;

  constructor(size: number) {
    this.bytes = new Uint8Array(size);
  }

  /** A place with these bytes in it; the bytes themselves where there is no room left. */
  place(bytes: Uint8Array): Uint8Array {
    const from = this.taken;
    if (from + bytes.length > this.bytes.length) return bytes;
    this.taken = from + bytes.length;
    const place = this.bytes.subarray(from, this.taken);
    place.set(bytes);
    return place;
  }
}
