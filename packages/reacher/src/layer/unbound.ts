/** Values of unbound controls: capturing a key needs to know what is held. May change: itself. */
import { findControl } from "../controls/catalogue.js";
import { FOCUS_LOST } from "../engine/meanings.js";
import type { Controls } from "../controls/ownControls.js";
import type { Held } from "./types.js";

/** A higher pad index is not taken as a pad. */
const MOST_PADS = 64;

export function isOnPad(control: string): boolean {
  return findControl(control)?.device === "pad";
}

/** Amounts are never held, nor is the pointer's place. */
export function isMotion(controls: Controls, control: string): boolean {
  const family = controls.find(control)?.family;
  return family === "motion" || family === "pointer";
}

export class Unbound {
  private readonly byControl = new Map<string, { control: string; pad: number; value: number }[]>();

  /** Stores a control's value; its entry is made once. */
  note(controls: Controls, control: string, pad = 0, value: number): void {
    if (value !== value || isMotion(controls, control) || !(pad >= 0 && pad < MOST_PADS)) return;
    let held = this.byControl.get(control);
    if (held === undefined) this.byControl.set(control, (held = []));
    const known = held.find((one) => one.pad === pad);
    if (known === undefined) held.push({ control, pad, value });
    else known.value = value;
  }

  /** The focus, a pad or a device of own controls is lost, as rules number them. */
  lose(controls: Controls, devices: readonly (string | null)[], what: number, pad: number): void {
    if (what >= 0) {
      this.rest(pad);
      return;
    }
    for (const control of this.byControl.keys()) {
      const own = controls.ownOf(control);
      const isLost =
        what === FOCUS_LOST ? own?.keepsFocus !== true : own !== undefined && devices[-what] === own.device;
      if (isLost) this.byControl.delete(control);
    }
  }

  /** A lost pad's controls go to rest. */
  rest(pad: number): void {
    for (const held of this.byControl.values())
      for (const one of held) if (one.pad === pad && isOnPad(one.control)) one.value = 0;
  }

  /** Drops controls that are bound from now on: the seats track them. A pad's controls belong to one seat alone. */
  forget(isBound: (control: string) => boolean, pad?: number): void {
    for (const [control, held] of this.byControl) {
      if (!isBound(control)) continue;
      const isShared = pad === undefined || !isOnPad(control);
      const left = isShared ? [] : held.filter((one) => one.pad !== pad);
      if (left.length === 0) this.byControl.delete(control);
      else this.byControl.set(control, left);
    }
  }

  /** The value of a control. */
  valueOf(control: string, pad = 0): number {
    return this.byControl.get(control)?.find((one) => one.pad === pad)?.value ?? 0;
  }

  /** The pads on which this control is away from rest. */
  padsWith(control: string): number[] {
    return (this.byControl.get(control) ?? []).flatMap(({ pad, value }) => (value === 0 ? [] : pad));
  }

  /** All controls that it knows, and those away from rest. */
  all(): Held[] {
    return [...this.byControl.values()].flat();
  }
  held(): Held[] {
    return this.all().filter(({ value }) => value !== 0);
  }
}
