/**
 * The pointer as a direction: from a spot to where it is. In: its place, and the spot. Out: x, y and length. It counts from a move by hand until a key of
 * the movement is pressed or a stick leaves its rest. It presses no direction: where it is says nothing of what is pressed.
 */
import { Rule, type RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { Channel } from "../signals.js";
import type { Spot } from "../situations/spots.js";
import { Cause, type SeatState } from "../state.js";
import type { Component, Updatable } from "../tables.js";
import { keepSector, NO_SECTOR, sectorX, sectorY } from "./sectors.js";
import { bendTravel, type ShapeTable } from "./shape.js";

/** How far it goes within a second until it is what the player uses: some 8 pixels on a screen. */
const USED = 1 / 64;
const USED_MS = 1000;

/** The movement that it points. */
export interface PointerOwner {
  readonly id: number;
  /** 4 or 8 if it snaps to so many directions, otherwise 0. */
  readonly directions: number;
}

export class Pointer extends Rule implements Component, Updatable {
  readonly device: number;
  readonly controls: readonly number[];
  readonly counting = this.cells.byte("counts");
  /** Its place when it was looked at last: x and y. */
  private readonly seen = this.cells.float("seen", 0, 2);
  /** When the present second began, and how far it has gone since. */
  private readonly travel = this.cells.float("travel", 0, 2);
  private readonly sector = this.cells.int("sector", NO_SECTOR);
  /** These three lie in a row: a movement takes them as one. */
  readonly x = this.cells.float("x");
  readonly y = this.cells.float("y");
  readonly length = this.cells.float("length");

  constructor(
    cells: RuleCells,
    private readonly movement: PointerOwner,
    /** Its number among the movement's sources. */
    readonly number: number,
    readonly hiddenAt: number,
    readonly id: number,
    private readonly rawX: Channel,
    private readonly rawY: Channel,
    private readonly around: Spot | null,
    private readonly fullFrom: number,
    private readonly shape: ShapeTable,
    private readonly turnsX: number,
    private readonly turnsY: number,
    private readonly lastDevice: number,
  ) {
    super(cells);
    this.device = rawX.device;
    this.controls = [rawX.id, rawY.id];
    around?.pointers.push(this);
  }

  counts({ b }: Pick<SeatState, "b">): boolean {
    return b[this.counting] === 1 && (this.hiddenAt < 0 || b[this.hiddenAt] === 0);
  }

  /** Something else is used. */
  yield(s: SeatState): void {
    s.b[this.counting] = 0;
  }

  lose(s: SeatState, device: number): void {
    if (device >= 0 && device !== this.device) return;
    this.yield(s);
    s.markMovement(this.movement.id);
  }

  update(s: SeatState): void {
    const { f } = s;
    const { seen } = this;
    const x = f[this.rawX.value]!;
    const y = f[this.rawY.value]!;
    if (x !== f[seen] || y !== f[seen + 1]) {
      if (s.cause === Cause.Hands) this.move(s);
      this.look(s);
    }
    this.measure(s);
    s.markMovement(this.movement.id);
  }

  /** It is where it is without a move by hand: the page has another size. */
  place(s: SeatState, x: number, y: number): void {
    s.f[this.rawX.value] = x;
    s.f[this.rawY.value] = y;
    this.look(s);
    s.markStick(this.id);
  }

  private look({ f }: SeatState): void {
    f[this.seen] = f[this.rawX.value]!;
    f[this.seen + 1] = f[this.rawY.value]!;
  }

  /** It was moved by hand. */
  private move(s: SeatState): void {
    const { f, clock } = s;
    const { seen, travel } = this;
    s.b[this.counting] = 1;
    if (clock[Clock.Now]! - f[travel]! > USED_MS) {
      f[travel] = clock[Clock.Now]!;
      f[travel + 1] = 0;
    }
    const x = f[this.rawX.value]! - f[seen]!;
    const y = f[this.rawY.value]! - f[seen + 1]!;
    f[travel + 1]! += Math.sqrt(x * x + y * y);
    if (f[travel + 1]! >= USED) s.i[this.lastDevice] = this.device;
  }

  private measure({ f, i }: SeatState): void {
    const { around, shape, length, movement } = this;
    let x = (f[this.rawX.value]! - (around === null ? 0 : f[around.x]!)) * this.turnsX;
    let y = (f[this.rawY.value]! - (around === null ? 0 : f[around.y]!)) * this.turnsY;
    const distance = Math.sqrt(x * x + y * y);
    const reach = distance >= this.fullFrom ? 1 : distance / this.fullFrom;
    f[length] = reach > shape.inner ? (reach - shape.inner) * shape.scale : 0;
    if (f[length]! > 0) bendTravel(shape, f, length);
    if (f[length] === 0) {
      f[this.x] = f[this.y] = 0;
      i[this.sector] = NO_SECTOR;
      return;
    }
    if (movement.directions === 0) {
      x /= distance;
      y /= distance;
    } else {
      const sector = keepSector(i[this.sector]!, movement.directions, x, y, distance);
      i[this.sector] = sector;
      x = sectorX(sector);
      y = sectorY(sector);
    }
    f[this.x] = x * f[length]! + 0;
    f[this.y] = y * f[length]! + 0;
  }

  hide(s: SeatState): void {
    s.markMovement(this.movement.id);
  }
}
