/** What the game gets for an axis or a vector. */
import type { Device } from "../../controls/catalogue.js";
import type { SeatState } from "../state.js";
import { isLive } from "../live.js";
import { ActionReading, type ReadSeat } from "../reading.js";
import { EaseValue } from "./ease.js";
import type { Movement } from "./movement.js";
import { sectorX, sectorY } from "./sectors.js";

/** One component, or the length, at this moment. */
function partNow(s: SeatState, rule: Movement, part: EaseValue): number {
  const { driven } = rule;
  if (driven === null || !driven.isOn(s)) return handsNow(s, rule, part);
  driven.work(s);
  return driven.out[part]! + 0;
}

/** The same of the hands, as if nothing drove. */
function handsNow(s: SeatState, rule: Movement, part: EaseValue): number {
  const { ease } = rule;
  if (ease === null) return s.f[part === EaseValue.X ? rule.x : part === EaseValue.Y ? rule.y : rule.length]!;
  ease.work(s);
  return ease.out[part]! + 0;
}

/** Whether its cells are what comes out. */
function isPlain(s: SeatState, { ease, driven }: Movement): boolean {
  return ease === null && (driven === null || !driven.isOn(s));
}

function deviceOf(s: SeatState, rule: Movement): Device | (string & {}) | null {
  const { i } = s;
  const { driven } = rule;
  if (driven !== null && driven.isOn(s) && driven.isAllByGame(s, rule.x)) return null;
  return rule.devices[rule.deviceOf(s, i[rule.winner]!)] ?? null;
}

/** What an axis would be if nothing drove it. */
class AxisHands extends ActionReading {
  /** -1..1; 0 while the action is not live. */
  get value(): number {
    return handsNow(this.s, this.ruleNow() as Movement, EaseValue.X);
  }
}

/** What a vector would be if nothing drove it. */
class VectorHands extends ActionReading {
  /** -1..1, right is +1; 0 while the action is not live. */
  get x(): number {
    return handsNow(this.s, this.ruleNow() as Movement, EaseValue.X);
  }

  /** -1..1, up is +1 unless the plan's `yAxis` says "down". */
  get y(): number {
    return handsNow(this.s, this.ruleNow() as Movement, EaseValue.Y);
  }
}

/** What axes and vectors have in common. */
export abstract class MovementReading extends ActionReading {
  /** @internal */
  protected get rule(): Movement {
    return this.ruleNow() as Movement;
  }

  /** Whether hands work it now: a mode of it is on and not covered, and nothing mutes it. */
  get live(): boolean {
    return isLive(this.s, this.rule);
  }

  /** 0..1; of a vector with square diagonals up to 1.414214. */
  get length(): number {
    return partNow(this.s, this.rule, EaseValue.Length);
  }

  /** The named band of the length, `null` below the lowest. */
  get gait(): string | null {
    const { gaits } = this.rule;
    return gaits === null ? null : (gaits.names[this.s.i[gaits.gait]!] ?? null);
  }

  /** The speed that goes with it, in the pace's unit (metres per second, say); 1 where the plan names none. */
  get pace(): number {
    const { pace } = this.rule;
    return pace === null ? 1 : pace.now(this.s);
  }

  /** What moves it; `null` at rest, and while the game drives it. */
  get device(): Device | (string & {}) | null {
    return deviceOf(this.s, this.rule);
  }
}

/** A movement in one dimension. */
export class AxisReading extends MovementReading {
  /** What it would be if the game did not drive it. */
  readonly hands: { readonly value: number };

  /** @internal */
  constructor(s: ReadSeat, action: number) {
    super(s, action);
    this.hands = new AxisHands(s, action);
  }

  /** @internal */
  override moveTo(action: number): void {
    super.moveTo(action);
    (this.hands as unknown as ActionReading).moveTo(action);
  }

  /** -1..1. */
  get value(): number {
    return partNow(this.s, this.rule, EaseValue.X);
  }

  /** The end last moved to: -1 or 1. */
  get facing(): -1 | 1 {
    const facing = this.rule.facing!;
    const { i, f } = this.s;
    const sector = i[facing.sector]!;
    return (sector >= 0 ? sectorX(sector) : f[facing.x]!) < 0 ? -1 : 1;
  }

  /** Value times pace. */
  get v(): number {
    return this.value * this.pace;
  }

  toJSON(): object {
    const { value, length, facing, gait, pace, v } = this;
    return { value, length, facing, gait, pace, v };
  }
}

/** A direction of unit length; y as the plan's `yAxis` has it. */
export class FacingReading extends ActionReading {
  /** @internal */
  private get rule(): Movement {
    return this.ruleNow() as Movement;
  }

  get x(): number {
    const facing = this.rule.facing!;
    const sector = this.s.i[facing.sector]!;
    return sector >= 0 ? sectorX(sector) : this.part(facing.x);
  }

  get y(): number {
    const { up } = this.rule;
    const facing = this.rule.facing!;
    const sector = this.s.i[facing.sector]!;
    return sector >= 0 ? sectorY(sector) * up + 0 : this.part(facing.y);
  }

  /** A stick's facing is stored with the stick's length: normalized here. */
  private part(at: number): number {
    const { f } = this.s;
    const facing = this.rule.facing!;
    const x = f[facing.x]!;
    const y = f[facing.y]!;
    return f[at]! / Math.sqrt(x * x + y * y);
  }

  toJSON(): [number, number] {
    return [this.x, this.y];
  }
}

/** A direction with a length, its gait, pace and facing. */
export class VectorReading extends MovementReading {
  /** The direction last moved in. */
  readonly facing: FacingReading;
  /** What it would be if the game did not drive it. */
  readonly hands: { readonly x: number; readonly y: number };

  /** @internal */
  constructor(s: ReadSeat, action: number) {
    super(s, action);
    this.facing = new FacingReading(s, action);
    this.hands = new VectorHands(s, action);
  }

  /** @internal */
  override moveTo(action: number): void {
    super.moveTo(action);
    this.facing.moveTo(action);
    (this.hands as unknown as ActionReading).moveTo(action);
  }

  /** -1..1, right is +1. */
  get x(): number {
    return partNow(this.s, this.rule, EaseValue.X);
  }

  /** -1..1, up is +1 unless the plan's `yAxis` says "down". */
  get y(): number {
    return partNow(this.s, this.rule, EaseValue.Y);
  }

  /** Radians, counter-clockwise from right, whatever `yAxis` is; 0 at rest. For drawing: engine state never depends on it. */
  get angle(): number {
    return Math.atan2(this.y * this.rule.up + 0, this.x);
  }

  /** x times pace. */
  get vx(): number {
    const rule = this.rule;
    const { pace } = rule;
    const x = isPlain(this.s, rule) ? this.s.f[rule.x]! : this.x;
    return pace === null ? x : x * (pace.easeMs === 0 ? this.s.f[pace.to]! : pace.now(this.s));
  }

  /** y times pace. */
  get vy(): number {
    const rule = this.rule;
    const { pace } = rule;
    const y = isPlain(this.s, rule) ? this.s.f[rule.y]! : this.y;
    return pace === null ? y : y * (pace.easeMs === 0 ? this.s.f[pace.to]! : pace.now(this.s));
  }

  toJSON(): object {
    const { x, y, length, angle, gait, pace, vx, vy } = this;
    return { x, y, length, angle, facing: this.facing.toJSON(), gait, pace, vx, vy };
  }
}
