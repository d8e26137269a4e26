/** Toggle: each press flips it. Either: a short press latches it, a long one only holds it. */
import { Rule } from "../cells.js";
import type { Feature } from "../compile.js";
import { Clock } from "../clock.js";
import { Cause, type SeatState } from "../state.js";
import type { Style } from "./hooks.js";
import { Latch, type Switch } from "./switch.js";

export class Toggle implements Style {
  constructor(
    private readonly latch: number,
    private readonly startsOn: boolean,
  ) {}

  isOff({ b }: SeatState): boolean {
    return b[this.latch] === Latch.Off;
  }
  turnsOn(s: SeatState): boolean {
    return this.isOff(s);
  }
  press({ b }: SeatState, needsHold: boolean): void {
    if (needsHold) b[this.latch] = b[this.latch] === Latch.Off ? Latch.Latched : Latch.Off;
  }
  release(): void {}
  fail({ b }: SeatState): void {
    b[this.latch] = Latch.Off;
  }
  cancel(): void {}
  wants({ b }: SeatState): number {
    return b[this.latch] === Latch.Off ? 0 : 1;
  }
  start({ b }: SeatState): void {
    b[this.latch] = this.startsOn ? Latch.Latched : Latch.Off;
  }
}

export class Either extends Rule implements Style {
  private readonly latch: number;
  /** Until when a release latches it. */
  private readonly tapUntil = this.cells.float("tapUntil");

  constructor(
    owner: Switch,
    private readonly startsOn: boolean,
    private readonly tapMs: number,
  ) {
    super(owner.cells);
    this.latch = owner.latch;
  }

  isOff({ b }: SeatState): boolean {
    return b[this.latch] === Latch.Off;
  }
  turnsOn({ b }: SeatState): boolean {
    return b[this.latch] !== Latch.Latched;
  }
  press(s: SeatState): void {
    const { f, b, clock } = s;
    b[this.latch] = this.turnsOn(s) ? Latch.Held : Latch.Off;
    f[this.tapUntil] = clock[Clock.Now]! + this.tapMs;
  }
  /** A lost device or changed bindings are not a release, and latch nothing. */
  release({ f, b, clock, cause }: SeatState, isAble: boolean): void {
    if (b[this.latch] !== Latch.Held) return;
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

export const toggle: Feature = {
  options: [
    {
      name: "toggle",
      appliesTo: ({ style }) => style === "toggle",
      make: (_, owner: Switch, { startsOn }) => void (owner.style = new Toggle(owner.latch, startsOn)),
    },
  ],
};
export const either: Feature = {
  options: [
    {
      name: "either",
      appliesTo: ({ style }) => style === "either",
      make: (_, owner: Switch, { startsOn, tapMs }) =>
        void (owner.style = new Either(owner, startsOn, tapMs)),
    },
  ],
};
