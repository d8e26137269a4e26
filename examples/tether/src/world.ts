/**
 * Two divers on one rope. In: how they swim in one tick. May change: where they are. Computed with + - * / and sqrt alone, so that it is the same, bit by
 * bit, on every machine.
 */

/** How a diver swims: its speed each way in m/s, and whether it surges now. */
export interface Swim {
  readonly vx: number;
  readonly vy: number;
  readonly surges: boolean;
}

/** Half of the water's width and height, and the rope's length, in metres. */
export const WATER = { x: 6, y: 4 };
export const ROPE = 3.5;
/** A surge is a push in m/s, of which the water takes this share each tick. */
const PUSH = 7;
const DRAG = 0.12;

/** For each diver: x, y, and what is left of its push each way. */
const OF_EACH = 4;

export class World {
  readonly state = Float64Array.from([-1, 0, 0, 0, 1, 0, 0, 0]);

  x(diver: number): number {
    return this.state[diver * OF_EACH]!;
  }

  y(diver: number): number {
    return this.state[diver * OF_EACH + 1]!;
  }

  /** One tick of `dt` seconds; up is +y. */
  step(swims: readonly Swim[], dt: number): void {
    swims.forEach((swim, diver) => this.swim(diver * OF_EACH, swim, dt));
    this.pull();
  }

  private swim(at: number, { vx, vy, surges }: Swim, dt: number): void {
    const { state } = this;
    const length = Math.sqrt(vx * vx + vy * vy);
    for (const [way, v] of [vx, vy].entries()) {
      const push = at + 2 + way;
      state[push]! -= state[push]! * DRAG;
      if (surges && length > 0) state[push] = (v / length) * PUSH;
      const most = way === 0 ? WATER.x : WATER.y;
      const moved = state[at + way]! + (v + state[push]!) * dt;
      state[at + way] = moved > most ? most : moved < -most ? -most : moved;
    }
  }

  /** A taut rope pulls both equally. */
  private pull(): void {
    const { state } = this;
    const x = state[OF_EACH]! - state[0]!;
    const y = state[OF_EACH + 1]! - state[1]!;
    const length = Math.sqrt(x * x + y * y);
    if (length <= ROPE) return;
    const share = (length - ROPE) / length / 2;
    state[0]! += x * share;
    state[1]! += y * share;
    state[OF_EACH]! -= x * share;
    state[OF_EACH + 1]! -= y * share;
  }
}

/** A checksum of the state (FNV-1a, 32 bits). */
export function checksum(...parts: readonly Uint8Array[]): number {
  const { imul } = Math;
  let sum = 0x811c9dc5;
  for (const part of parts) for (let n = 0; n < part.length; n++) sum = imul(sum ^ part[n]!, 0x01000193);
  return sum >>> 0;
}
