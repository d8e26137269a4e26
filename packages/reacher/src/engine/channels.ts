/** Raw values as they stand in the state. Pure but for reading it. */

/** Several pads that drive one seat are OR-ed: the strongest of their values counts. */
export function strongest(f: Float64Array, at: number, places: number, sign: number): number {
  let value = f[at]! * sign;
  for (let n = 1; n < places; n++) {
    const other = f[at + n]! * sign;
    if (other > value) value = other;
  }
  return value;
}
