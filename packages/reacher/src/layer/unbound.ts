/** Values of controls that nobody has bound: whoever waits for a key to be caught asks what is held. May change: itself. */
import type { Held } from "./types.js";

/** More pads than these are no pads. */
const MOST_PADS = 64;

export class Unbound {
  private readonly places = new Map<string, { control: string; pad: number; value: number }[]>();

  /** Keeps what a control is at; its place is made once. */
  note(control: string, pad = 0, value: number): void {
    // The mouse moves by amounts: it is never held.
    if (value !== value || control.startsWith("MouseMove") || !(pad >= 0 && pad < MOST_PADS)) return;
    let places = this.places.get(control);
    if (places === undefined) this.places.set(control, (places = []));
    const known = places.find((one) => one.pad === pad);
    if (known === undefined) places.push({ control, pad, value });
    else known.value = value;
  }

  /** A lost pad holds nothing any more. */
  rest(pad: number): void {
    for (const places of this.places.values())
      for (const one of places) if (one.pad === pad && one.control.startsWith("Pad")) one.value = 0;
  }

  /** These controls are bound from now on: the seats know of them. A pad's are one seat's alone. */
  forget(isBound: (control: string) => boolean, pad?: number): void {
    for (const [control, places] of this.places) {
      if (!isBound(control)) continue;
      const left = places.filter((one) => pad !== undefined && one.pad !== pad);
      if (left.length === 0) this.places.delete(control);
      else this.places.set(control, left);
    }
  }

  /** What a control is at. */
  valueOf(control: string, pad = 0): number {
    return this.places.get(control)?.find((one) => one.pad === pad)?.value ?? 0;
  }

  clear(): void {
    this.places.clear();
  }

  /** What is away from rest. */
  held(): Held[] {
    return [...this.places.values()].flat().filter(({ value }) => value !== 0);
  }
}
