/** Toggle: each press flips it. Either: a short press latches it, a long one only holds it. */
import type { CheckedSwitch } from "../../plan/checked.js";
import type { Feature } from "../compile.js";
import { Clock } from "../clock.js";
import { Cause, type SeatState } from "../state.js";
import type { Style } from "./hooks.js";
import { KINDS, StyleKind } from "./styleKind.js";
import { Latch, type Switch } from "./switch.js";

/** A toggle is never held: it is latched, or off. */
export class Latched implements Style {
  private readonly latch: number;
  private readonly tapUntil: number;
  private readonly kind: StyleKind;
  private readonly startsOn: boolean;
  private readonly tapMs: number;

  constructor({ latch, tapUntil }: Switch, { style, startsOn, tapMs }: CheckedSwitch) {
    this.latch = latch;
    this.tapUntil = tapUntil;
    this.kind = KINDS[style];
    this.startsOn = startsOn;
    this.tapMs = tapMs;
  }

  isOff({ b }: SeatState): boolean {
    return b[this.latch] === Latch.Off;
  }
  turnsOn({ b }: SeatState): boolean {
    return b[this.latch] !== Latch.Latched;
  }
  press(s: SeatState, needsHold: boolean): void {
    const { f, b, clock } = s;
    if (this.kind === StyleKind.Toggle) {
      if (needsHold) b[this.latch] = this.turnsOn(s) ? Latch.Latched : Latch.Off;
      return;
    }
    b[this.latch] = this.turnsOn(s) ? Latch.Held : Latch.Off;
    f[this.tapUntil] = clock[Clock.Now]! + this.tapMs;
  }
  /** A lost device or changed bindings are not a release, and latch nothing. */
  release({ f, b, clock, cause }: SeatState, isAble: boolean): void {
    if (this.kind === StyleKind.Toggle || b[this.latch] !== Latch.Held) return;
    const isTap = clock[Clock.Now]! <= f[this.tapUntil]!;
    b[this.latch] = isAble && isTap && cause === Cause.Hands ? Latch.Latched : Latch.Off;
  }
  fail({ b }: SeatState): void {
    if (b[this.latch] === Latch.Latched) b[this.latch] = Latch.Off;
  }
  cancel({ b }: SeatState): void {
    if (b[this.latch] === Latch.Held) b[this.latch] = Latch.Off;
  }
  wants({ b }: SeatState, up: number): number {
    return b[this.latch] === Latch.Latched || (b[this.latch] === Latch.Held && up === 1) ? 1 : 0;
  }
  start({ b }: SeatState): void {
    b[this.latch] = this.startsOn ? Latch.Latched : Latch.Off;
  }
}

export const styles: Feature = {
  options: [
    {
      name: "style",
      appliesTo: ({ style }) => style !== "hold",
      make: (_, owner: Switch, action) => void (owner.style = new Latched(owner, action)),
    },
  ],
};
