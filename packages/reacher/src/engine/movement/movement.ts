/**
 * From keys and sticks to a direction with a length. In: ends that are down, sticks that have moved. Out: x, y and length, the
 * condition "it moves", and what follows from them: facing, gait and pace, each a rule in a file of its own.
 *
 * The order is: opposite directions, number of directions, diagonal; sticks shaped one by one; then keys and sticks
 * together: the longest wins, or they are added.
 */
import type { CheckedMovement } from "../../plan/checked.js";
import { Rule, type Keyed, type RuleCells } from "../cells.js";
import { Condition } from "../conditions.js";
import type { Signal } from "../signals.js";
import { Cause, type SeatState } from "../state.js";
import { Live, type Action, type MovementRule, type Component } from "../tables.js";
import type { Amounts } from "./amounts.js";
import { EaseValue as EasePart, type Ease, type Eased } from "./ease.js";
import { component, End, endBits, endsOf, HORIZONTAL, keyVectors, oneMore, VERTICAL } from "./ends.js";
import type { Facing } from "./facing.js";
import type { Gaits } from "./gaits.js";
import { Opposites } from "./opposites.js";
import type { Pace } from "./pace.js";
import type { Pointer } from "./pointer.js";
import type { Results } from "./results.js";
import type { Drivable, DrivenMovement } from "./driven.js";
import type { Way } from "../meanings.js";
import { MovingCondition } from "./moves.js";
import { exactSector } from "./sectors.js";
import type { Timers } from "../timers.js";
import type { SpeedGaits } from "./speedGaits.js";
import type { Stick, StickOwner } from "./stick.js";

const NOBODY = -1;

/** Room for a sum: x, y and length. */
const SUM = new Float64Array(3);

/** Adds two movements; the sum is at most 1 long. */
function add(one: Float64Array, at: number, other: Float64Array, otherAt: number): void {
  const x = one[at]! + other[otherAt]!;
  const y = one[at + 1]! + other[otherAt + 1]!;
  const length = Math.sqrt(x * x + y * y);
  const scale = length > 1 ? length : 1;
  SUM[0] = x / scale;
  SUM[1] = y / scale;
  SUM[2] = length > 1 ? 1 : length;
}

/** The sources of a movement; its sticks follow. */
export const enum MovementSource {
  Keys,
  Sticks,
}

export class Movement extends Rule implements MovementRule, Action, Eased, Drivable, StickOwner {
  readonly name: string;
  readonly kind: "axis" | "vector";
  readonly in: readonly string[];
  readonly condition: Condition;
  readonly parts: Component[] = [];
  readonly sticks: Stick[] = [];
  pointer: Pointer | null = null;
  amounts: Amounts | null = null;
  ease: Ease | null = null;
  facing: Facing | null = null;
  gaits: Gaits | null = null;
  /** The same, if they are bands of a speed. */
  speeds: SpeedGaits | null = null;
  pace: Pace | null = null;
  /** Its number among the rules with a pace; -1 if it has none. */
  pacedId = -1;
  driven: DrivenMovement | null = null;
  /** What of it counts as pressed as it comes out, if anything asks. */
  results: Results | null = null;
  private readonly moving: MovingCondition;
  /** The directions as signals, by end, if anything listens. */
  readonly directionSignals: (Signal | null)[] = [null, null, null, null];
  hasDirections = false;

  readonly directions: number;
  readonly isRound: boolean;
  readonly sums: boolean;
  readonly opposites: Opposites;
  /** x, y and length for each set of ends. */
  private readonly vectors: Float64Array;

  /** How many keys, and how many keys and sticks, hold each end: eight bits per end. */
  readonly keys = this.cells.count("keys");
  readonly sources = this.cells.count("sources");
  readonly keyDevice = this.cells.int("keyDevice");
  /** The source of the movement, as an index in `givers`, or -1. */
  readonly winner: number;
  private readonly sourcesByNumber: Keyed[] = [{ key: "keys" }];
  /** How many sticks are away from rest, and which one if it is one. */
  private readonly away = this.cells.count("away");
  private readonly awayStick = this.cells.int("awayStick");
  /** The movement by the hands, before ease: as if nothing drove. */
  readonly x = this.cells.float("x");
  readonly y = this.cells.float("y");
  readonly length = this.cells.float("length");
  /** The movement by keys alone, by keys and amounts, and by sticks alone: x, y, length; -1 if unused. */
  keysX = -1;
  private heldX = -1;
  sticksX = -1;

  constructor(
    cells: RuleCells,
    readonly id: number,
    readonly number: number,
    action: CheckedMovement,
    readonly up: number,
    /** By the engine's numbers. */
    readonly devices: readonly (string | null)[],
    readonly liveAt: number,
    timers: Timers,
  ) {
    super(cells);
    this.name = action.name;
    this.kind = action.kind;
    this.in = action.in;
    this.directions = action.directions === "free" ? 0 : action.directions;
    this.opposites = new Opposites(cells, action);
    this.isRound = action.diagonal === "round";
    this.sums = action.combine === "sum";
    this.vectors = keyVectors(this.isRound, up);
    this.condition = new Condition(cells, action.name);
    this.moving = new MovingCondition(this.condition, liveAt, action.lingerMs, timers);
    this.winner = cells.place("winner", this.sourcesByNumber);
  }

  /** From now on the movement by keys, and by sticks together, is stored. */
  keepParts(): void {
    if (this.keysX < 0) this.keysX = this.cells.float("keysX", 0, 3);
    if (this.heldX < 0) this.heldX = this.amounts === null ? this.keysX : this.cells.float("heldX", 0, 3);
    if (this.sticksX < 0) this.sticksX = this.cells.float("sticksX", 0, 3);
  }

  addStick(stick: Stick): void {
    this.sticks.push(stick);
    this.sourcesByNumber.push(stick);
    this.parts.push(stick);
  }

  /** The number of the next source. */
  get nextSource(): number {
    return this.sourcesByNumber.length;
  }

  addPointer(pointer: Pointer): void {
    this.pointer = pointer;
    this.sourcesByNumber.push(pointer);
    this.parts.push(pointer);
  }

  /** Computes the movement from keys and sticks. Each candidate is three floats in a row: x, y and length. */
  update(s: SeatState): void {
    const { f, i } = s;
    const { keysX } = this;
    const points = this.pointer !== null && this.pointer.counts(s) && s.b[this.liveAt] === Live.Yes;
    // While the pointer counts, keys and sticks do not.
    const isLive = !points && s.b[this.liveAt] === Live.Yes;
    const keys = isLive ? i[this.keys]! : 0;
    const away = isLive ? i[this.away]! : 0;
    let from = this.vectors;
    let at = keys === 0 ? 0 : this.opposites.settle(s, endsOf(keys)) * 3;
    if (keysX >= 0) {
      this.writeKeys(s, isLive, keys, at);
      from = f;
      at = this.heldX;
    }
    let winner: number = from[at + 2]! > 0 ? MovementSource.Keys : NOBODY;
    if (this.sticksX >= 0) this.writeSticks(s, away);
    if (points) {
      const { x, number } = this.pointer!;
      if (this.sticksX >= 0) f.copyWithin(this.sticksX, x, x + 3);
      from = f;
      at = x;
      winner = f[x + 2]! > 0 ? number : NOBODY;
    } else if (this.sums && away > 0) {
      if (f[this.sticksX + 2]! > from[at + 2]!) winner = MovementSource.Sticks;
      add(from, at, f, this.sticksX);
      from = SUM;
      at = 0;
    } else if (away > 0) {
      const number = away === 1 ? i[this.awayStick]! : this.longest(s);
      const { x, length } = this.sticks[number]!;
      const own = number + MovementSource.Sticks;
      if (f[length]! > from[at + 2]! || (f[length] === from[at + 2] && own === i[this.winner])) {
        from = f;
        at = x;
        winner = own;
      }
    }
    this.moveTo(s, winner, from, at);
  }

  /** Moves as these three floats say, if the game adds nothing to it. */
  private moveTo(s: SeatState, winner: number, from: Float64Array, at: number): void {
    const { f, i } = s;
    const { ease, driven } = this;
    const x = from[at]!;
    const y = from[at + 1]!;
    const length = from[at + 2]!;
    i[this.winner] = winner;
    let isSame = f[this.x] === x && f[this.y] === y;
    f[this.x] = x;
    f[this.y] = y;
    f[this.length] = length;
    if (this.results !== null) this.results.update(s);
    let out = this.x;
    let isFree = winner > MovementSource.Keys && this.directions === 0;
    if (driven !== null && driven.isOn(s)) {
      isSame = !driven.differs(s, f, this.x, true);
      out = driven.x;
      isFree ||= driven.isByGame(s, this.x);
    } else if (driven !== null && driven.wasOn(s)) isSame = !driven.differs(s, f, this.x, false);
    const moves = f[out + 2]! > 0;
    if (moves && this.moving.lingers)
      this.moving.movedBy(s, out !== this.x && driven!.isAllByGame(s, this.x) ? 0 : this.deviceOf(s, winner));
    if (isSame && ease === null) return;
    if (ease === null) this.moving.set(s, moves ? 1 : 0);
    else if (!this.setOut(s, ease, moves) && isSame) return;
    const { facing } = this;
    if (facing !== null) {
      const turns = moves && (winner === MovementSource.Keys || facing.isReached(f[out + 2]!));
      facing.follow(s, out, isFree, isFree || !turns ? -1 : exactSector(f[out]!, f[out + 1]! * this.up));
    }
    if (this.gaits !== null) {
      this.updateGait(s);
      if (ease !== null) ease.waitForNext(s);
    }
    s.noteMoved(this.id);
  }

  /** The number of the device behind a source; 0 for none. */
  deviceOf({ i }: Pick<SeatState, "i">, source: number): number {
    if (this.pointer !== null && source === this.pointer.number) return this.pointer.device;
    if (source >= MovementSource.Sticks) return this.sticks[source - MovementSource.Sticks]!.device;
    return source === MovementSource.Keys ? i[this.keyDevice]! : 0;
  }

  /** Gaits of a length are updated here, those of a speed with the pace. */
  updateGait(s: SeatState): void {
    const { gaits, ease } = this;
    if (this.speeds !== null) s.markPace(this.pacedId);
    else if (gaits === null) return;
    else if (this.driven !== null && this.driven.isOn(s)) this.driven.updateGait(s, gaits);
    else if (ease === null) gaits.update(s, s.f, this.length, false);
    else ease.updateGait(s, gaits);
  }

  /** Whether keys and sticks count now. */
  heedsDevices(s: SeatState): boolean {
    return s.b[this.liveAt] === Live.Yes;
  }

  /** The game drives it for a reason, or with NaN for `x` lets it go. */
  drive(s: SeatState, reason: number, way: Way, x: number, y: number): void {
    this.driven!.drive(s, reason, way, x, y);
    s.markMovement(this.id);
  }

  blendNext(s: SeatState, ms: number): void {
    this.driven!.blendNext(s, ms);
  }

  nextBlend(s: Pick<SeatState, "f">): number {
    return this.driven!.nextBlend(s);
  }

  drivenBy(s: Pick<SeatState, "i">): number {
    return this.driven === null ? 0 : this.driven.reasons(s);
  }

  /** What the game gave fades, and has come to a gait or to its end. */
  faded(s: SeatState): void {
    this.updateGait(s);
    s.noteMoved(this.id);
  }

  /** Starts a ramp to where the keys are now; false if nothing ramps and nothing has changed. */
  private setOut(s: SeatState, ease: Ease, moves: boolean): boolean {
    const sets = ease.setOut(s);
    const isOn = ease.isOn(s);
    this.moving.set(s, moves || (isOn && !this.isAlone(s)) ? 1 : 0);
    return sets || isOn;
  }

  /** The ramp has progressed. */
  rampMoved(s: SeatState): void {
    const { ease, driven } = this;
    const isDriven = driven !== null && driven.isOn(s);
    if (isDriven) driven.combine(s, ease!.out, 0);
    const length = (isDriven ? driven.out : ease!.out)[EasePart.Length];
    if (!ease!.isOn(s) && length === 0) this.moving.set(s, 0);
    s.noteMoved(this.id);
  }

  /** Whether the game drives it and the hands do not count. */
  private isAlone(s: SeatState): boolean {
    return this.driven !== null && this.driven.isOn(s) && this.driven.isAlone(s);
  }

  /** Writes the movement by keys and amounts into the cells. `at`: the keys' entry in the table. */
  private writeKeys(s: SeatState, isLive: boolean, keys: number, at: number): void {
    const { f } = s;
    const { amounts, keysX, vectors } = this;
    if (amounts !== null) at = this.writeAmounts(s, amounts, isLive, endsOf(keys), at);
    f[keysX] = vectors[at]!;
    f[keysX + 1] = vectors[at + 1]!;
    f[keysX + 2] = vectors[at + 2]!;
  }

  /** Writes keys and amounts together into the cells. Returns the entry in the table of the keys that count. */
  private writeAmounts(s: SeatState, amounts: Amounts, isLive: boolean, ends: number, at: number): number {
    const { f } = s;
    const { heldX } = this;
    if (!isLive) {
      amounts.drop(s, HORIZONTAL | VERTICAL);
      f.fill(0, heldX, heldX + 3);
      return at;
    }
    let settled = this.opposites.settleOpposite(s, ends);
    amounts.measure(s);
    f[heldX] = component(settled, End.Left, End.Right);
    f[heldX + 1] = component(settled, End.Down, End.Up);
    amounts.mix(s, f, heldX, ends, true);
    amounts.mix(s, f, heldX + 1, ends, false);
    let x = f[heldX]!;
    let y = this.kind === "axis" ? 0 : f[heldX + 1]!;
    if (x !== 0 && y !== 0 && this.directions === 4) {
      const isAcross = this.opposites.isAcross(s, x > 0 ? End.Right : End.Left, y > 0 ? End.Up : End.Down);
      const lost = isAcross ? VERTICAL : HORIZONTAL;
      settled &= ~lost;
      amounts.drop(s, lost);
      if (isAcross) y = 0;
      else x = 0;
    }
    let length = Math.sqrt(x * x + y * y);
    if (length > 1 && this.isRound) {
      x /= length;
      y /= length;
      length = 1;
    }
    f[heldX] = x;
    f[heldX + 1] = y * this.up + 0;
    f[heldX + 2] = length;
    return settled * 3;
  }

  /** Writes the movement by sticks together into the cells: the longest, or their sum. */
  private writeSticks(s: SeatState, away: number): void {
    const { f } = s;
    const { sticksX, sticks } = this;
    f.fill(0, sticksX, sticksX + 3);
    for (let n = 0; away > 0 && n < sticks.length; n++) {
      const stick = sticks[n]!;
      const length = f[stick.length]!;
      if (length === 0) continue;
      if (this.sums) {
        const x = f[sticksX]! + f[stick.x]!;
        const y = f[sticksX + 1]! + f[stick.y]!;
        f[sticksX] = x;
        f[sticksX + 1] = y;
        f[sticksX + 2] = Math.sqrt(x * x + y * y);
      } else if (length > f[sticksX + 2]!) {
        f[sticksX] = f[stick.x]!;
        f[sticksX + 1] = f[stick.y]!;
        f[sticksX + 2] = length;
      }
    }
  }

  /** Of several sticks, the one tilted furthest; on a tie the present one. */
  private longest({ f, i }: SeatState): number {
    const { sticks } = this;
    let best = 0;
    for (let n = 1; n < sticks.length; n++) {
      const one = f[sticks[n]!.length]!;
      const most = f[sticks[best]!.length]!;
      if (one > most || (one === most && n + MovementSource.Sticks === i[this.winner])) best = n;
    }
    return best;
  }

  /** A stick of it has moved. */
  stickMoved(s: SeatState, number: number, wasAway: boolean, isAway: boolean): void {
    const { i } = s;
    if (isAway && !wasAway) this.useHands(s);
    if (isAway !== wasAway) {
      i[this.away]! += isAway ? 1 : -1;
      if (i[this.away] === 1) i[this.awayStick] = isAway ? number : this.longest(s);
    }
    s.markMovement(this.id);
  }

  /** A key is pressed or a stick tilted: the pointer waits for its next move. */
  useHands(s: SeatState): void {
    if (this.pointer !== null && s.b[this.liveAt] === Live.Yes) this.pointer.yield(s);
  }

  /** One more key or stick holds an end, or one fewer: the first one presses the direction, the last one releases it. */
  addSource(s: SeatState, end: End, control: number): void {
    const { i } = s;
    const was = i[this.sources]!;
    const direction = this.directionSignals[end]!;
    i[this.sources] = was + oneMore(end);
    if (direction === null || (was & endBits(end)) !== 0) return;
    i[direction.pressedBy] = control;
    direction.rise(s);
  }

  dropSource(s: SeatState, end: End): void {
    const { i } = s;
    const direction = this.directionSignals[end]!;
    const is = i[this.sources]! - oneMore(end);
    i[this.sources] = is;
    if (direction !== null && (is & endBits(end)) === 0) direction.fall(s);
  }

  updatePace(s: SeatState): void {
    // At the start there is no ramp.
    if (this.pace !== null && this.pace.update(s, s.cause === Cause.Reset)) s.noteMoved(this.id);
    if (this.speeds !== null && this.speeds.follow(s)) s.noteMoved(this.id);
  }

  lose(s: SeatState, device: number): void {
    if (this.pointer !== null) this.pointer.lose(s, device);
    this.moving.lose(s, device);
  }

  renumber(s: SeatState, deviceOf: (device: number) => number): void {
    s.i[this.keyDevice] = deviceOf(s.i[this.keyDevice]!);
    this.moving.renumber(s, deviceOf);
  }

  liveChanged(s: SeatState): void {
    // Lingering ends, except for a muted movement that the game drives.
    if (s.b[this.liveAt] !== Live.Yes) this.moving.end(s);
    if (s.b[this.liveAt] === Live.Hidden && this.driven !== null) this.driven.endFade(s);
    s.markMovement(this.id);
  }

  /** Resets it to rest; what is held moves it again at once. */
  reset(s: SeatState): void {
    const { f, i } = s;
    f[this.x] = f[this.y] = f[this.length] = 0;
    i[this.winner] = NOBODY;
    if (this.ease !== null) this.ease.reset(s);
    if (this.facing !== null) this.facing.reset(s);
    if (this.gaits !== null) this.gaits.reset(s);
    if (this.driven !== null) this.driven.reset(s);
    this.moving.set(s, 0);
    s.markMovement(this.id);
    if (this.pacedId >= 0) s.markPace(this.pacedId);
  }

  /** After its keys were recounted: its sticks, and which of its directions are down. */
  recount(s: SeatState): void {
    const { i, b, f } = s;
    this.sticks.forEach((stick) => {
      for (let end = 0; end < 4; end++)
        if ((stick.endsDown(s) & (1 << end)) !== 0) i[this.sources]! += oneMore(end);
      if (f[stick.length]! > 0) i[this.away]!++;
    });
    if (i[this.away] === 1) i[this.awayStick] = this.longest(s);
    this.directionSignals.forEach((direction, end) => {
      if (direction !== null) b[direction.up] = (i[this.sources]! & endBits(end)) === 0 ? 0 : 1;
    });
    // Its bands may have changed.
    this.updateGait(s);
  }
}
