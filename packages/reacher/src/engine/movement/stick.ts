/**
 * A stick, or the one control of an axis, shaped on its own: dead zone, then curve. Tilted far enough it also presses the
 * directions of its movement: after invert, before dead zone and ease.
 */
import { PRESS_FROM, RELEASE_BELOW } from "../../controls/thresholds.js";
import { Rule, type RuleCells } from "../cells.js";
import type { Channel } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Component, Updatable } from "../tables.js";
import { End } from "./ends.js";
import { keepSector, NO_SECTOR, sectorX, sectorY } from "./sectors.js";
import { bendTravel, type ShapeTable } from "./shape.js";

/** The owner of a stick: a movement or a turn. */
export interface StickOwner {
  /** 4 or 8 if it snaps to so many directions, otherwise 0. */
  readonly directions: number;
  /** +1 where up is +1, -1 where up is -1. */
  readonly up: number;
  /** Called when it has moved: whether it was away from rest, and whether it is now. */
  stickMoved(s: SeatState, number: number, wasAway: boolean, isAway: boolean): void;
  /** Directions that a tilt presses, if anything listens to one. */
  readonly hasDirections: boolean;
  addSource(s: SeatState, end: End, control: number): void;
  dropSource(s: SeatState, end: End): void;
}

export class Stick extends Rule implements Component, Updatable {
  readonly controls: readonly number[];
  /** The number of its device. */
  readonly device: number;
  private readonly ends = this.cells.byte("ends");
  private readonly sector = this.cells.int("sector", NO_SECTOR);
  /** Shaped: x, y and length. */
  /** These three lie in a row: a movement takes them as one. */
  readonly x = this.cells.float("x");
  readonly y = this.cells.float("y");
  readonly length = this.cells.float("length");
  private readonly rawX: number;
  private readonly rawY: number;

  constructor(
    cells: RuleCells,
    private readonly owner: StickOwner,
    readonly hiddenAt: number,
    readonly id: number,
    /** Its index among its owner's sticks. */
    private readonly number: number,
    x: Channel,
    /** Absent for an axis. */
    y: Channel | undefined,
    /** Which of several pads it is on. */
    padIndex: number,
    private readonly signX: number,
    private readonly signY: number,
    private readonly shape: ShapeTable,
  ) {
    super(cells);
    this.device = x.device;
    this.controls = y === undefined ? [x.id] : [x.id, y.id];
    this.rawX = x.value + padIndex;
    this.rawY = y === undefined ? -1 : y.value + padIndex;
  }

  update(s: SeatState): void {
    const { f, b } = s;
    const { shape, owner, length } = this;
    if (owner.hasDirections) this.updateEnds(s);
    const before = f[length]!;
    let x = f[this.rawX]! * this.signX;
    let y = this.rawY < 0 ? 0 : f[this.rawY]! * this.signY;
    let raw = 0;
    f[length] = 0;
    if (this.hiddenAt < 0 || b[this.hiddenAt] === 0) {
      const { inner, scale } = shape;
      if (shape.isCross) {
        x = x > inner ? Math.min(1, (x - inner) * scale) : x < -inner ? Math.max(-1, (x + inner) * scale) : 0;
        y = y > inner ? Math.min(1, (y - inner) * scale) : y < -inner ? Math.max(-1, (y + inner) * scale) : 0;
        raw = Math.sqrt(x * x + y * y);
        f[length] = raw;
      } else {
        raw = Math.sqrt(x * x + y * y);
        if (raw > inner) f[length] = (raw - inner) * scale;
      }
      if (f[length]! > 0) bendTravel(shape, f, length);
    }
    if (f[length] === 0) {
      if (before === 0) return;
      x = y = 0;
      s.i[this.sector] = NO_SECTOR;
    } else if (owner.directions === 0) {
      const factor = f[length]! / raw;
      x = x * factor + 0;
      y = y * factor + 0;
    } else {
      const sector = keepSector(s.i[this.sector]!, owner.directions, x, y, raw);
      s.i[this.sector] = sector;
      x = sectorX(sector) * f[length]! + 0;
      y = sectorY(sector) * f[length]! + 0;
    }
    f[this.x] = x;
    f[this.y] = y;
    owner.stickMoved(s, this.number, before > 0, f[length]! > 0);
  }

  private updateEnds(s: SeatState): void {
    const { owner } = this;
    const was = s.b[this.ends]!;
    const is = this.tilted(s, was);
    if (is === was) return;
    s.b[this.ends] = is;
    // Releases first: a stick that jumps across is released on one side before it is pressed on the other.
    for (let end = 0; end < 4; end++) if ((was & ~is & (1 << end)) !== 0) owner.dropSource(s, end);
    for (let end = 0; end < 4; end++)
      if ((is & ~was & (1 << end)) !== 0) owner.addSource(s, end, this.controls[0]!);
  }

  /** The ends that it is tilted to, one bit each. */
  private tilted({ f }: SeatState, was: number): number {
    const x = f[this.rawX]! * this.signX;
    const y = this.rawY < 0 ? 0 : f[this.rawY]! * this.signY * this.owner.up;
    let is = 0;
    if (x >= from(was, End.Right)) is = 1 << End.Right;
    else if (-x >= from(was, End.Left)) is = 1 << End.Left;
    if (y >= from(was, End.Up)) is |= 1 << End.Up;
    else if (-y >= from(was, End.Down)) is |= 1 << End.Down;
    return is;
  }

  /** How far it is tilted to an end, -1..1: after invert, before dead zone and curve. */
  tiltTo({ f }: Pick<SeatState, "f">, end: End): number {
    const isAcross = end === End.Left || end === End.Right;
    const x = f[this.rawX]! * this.signX;
    const y = this.rawY < 0 ? 0 : f[this.rawY]! * this.signY * this.owner.up;
    const tilt = isAcross ? x : y;
    return end === End.Left || end === End.Down ? -tilt : tilt;
  }

  hide(s: SeatState): void {
    s.markStick(this.id);
  }

  /** After a change of tables: a tilt that presses a direction only now does not count as a press. */
  recount(s: SeatState): void {
    const { owner } = this;
    s.b[this.ends] = owner.hasDirections ? this.tilted(s, s.b[this.ends]!) : 0;
  }

  /** The ends that it presses now, one bit each. */
  endsDown({ b }: SeatState): number {
    return b[this.ends]!;
  }
}

/** The threshold from which an end counts as pressed; lower for one that is pressed already (hysteresis). */
function from(ends: number, end: End): number {
  return (ends & (1 << end)) === 0 ? PRESS_FROM : RELEASE_BELOW;
}
