/** Movements of the mouse, and a plan's own amounts, are no states: each is added to the turns that it drives, and never held. */
import type { Filter } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Component } from "../tables.js";
import type { Turn } from "./turn.js";

/** The mouse as part of one turn. */
export class MousePart implements Component {
  constructor(
    readonly hiddenAt: number,
    readonly controls: readonly number[],
  ) {}

  hide(): void {}
}

/** A turn that one axis of the mouse drives, and by how much. */
interface Use {
  readonly turn: Turn;
  readonly way: number;
  readonly perPixel: number;
  readonly hiddenAt: number;
}

/** The filter before the channel of one axis. */
export class MouseMotion implements Filter {
  private readonly uses: Use[] = [];

  constructor(
    private readonly device: number,
    private readonly lastDevice: number,
  ) {}

  add(use: Use): void {
    this.uses.push(use);
  }

  holdsBack(s: SeatState, _place: number, slot: number): boolean {
    if (s.slots[slot] !== 0) s.i[this.lastDevice] = this.device;
    for (const { turn, way, perPixel, hiddenAt } of this.uses)
      if (hiddenAt < 0 || s.b[hiddenAt] === 0) turn.addPixels(s, slot, way, perPixel);
    return true;
  }

  rest(): void {}
}
