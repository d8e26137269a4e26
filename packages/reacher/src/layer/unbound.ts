/** Values of unbound controls: capturing a key needs to know what is held. May change: itself. */
import { findControl } from "../controls/catalogue.js";
import type { Held } from "./types.js";

/** A higher pad index is not taken as a pad. */
const MOST_PADS = 64;

export function isOnPad(control: string): boolean {
  return findControl(control)?.device === "pad";
}

/** Amounts are never held. */
export function isMotion(control: string): boolean {
  return findControl(control)?.family === "motion";
}

export class Unbound {
  private readonly places = new Map<string, { control: string; pad: number; value: number }[]>();

  /** Stores a control's value; its entry is made once. */
  note(control: string, pad = 0, value: number): void {
    if (value !== value || isMotion(control) || !(pad >= 0 && pad < MOST_PADS)) return;
    let places = this.places.get(control);
    if (places === undefined) this.places.set(control, (places = []));
    const known = places.find((place) => place.pad === pad);
    if (known === undefined) places.push({ control, pad, value });
    else known.value = value;
  }

  /** A lost pad's controls go to rest. */
  rest(pad: number): void {
    for (const places of this.places.values())
      for (const place of places) if (place.pad === pad && isOnPad(place.control)) place.value = 0;
  }

  /** Drops controls that are bound from now on: the seats track them. A pad's controls belong to one seat alone. */
  forget(isBound: (control: string) => boolean, pad?: number): void {
    for (const [control, places] of this.places) {
      if (!isBound(control)) continue;
      const isShared = pad === undefined || !isOnPad(control);
      const left = isShared ? [] : places.filter((place) => place.pad !== pad);
      if (left.length === 0) this.places.delete(control);
      else this.places.set(control, left);
    }
  }

  /** The value of a control. */
  valueOf(control: string, pad = 0): number {
    return this.places.get(control)?.find((one) => one.pad === pad)?.value ?? 0;
  }

  /** The pads on which this control is away from rest. */
  padsWith(control: string): number[] {
    return (this.places.get(control) ?? []).flatMap(({ pad, value }) => (value === 0 ? [] : pad));
  }

  clear(): void {
    this.places.clear();
  }

  /** All controls away from rest. */
  held(): Held[] {
    return [...this.places.values()].flat().filter(({ value }) => value !== 0);
  }
}
