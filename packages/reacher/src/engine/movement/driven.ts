/**
 * The game drives an axis or a vector itself, for up to four reasons at once. In: values by reason, with how each meets the hands; and what
 * the hands give. Out: the movement that comes of both, and a fade from what it was before a drive began, changed its way or let go.
 *
 * The hands' movement stays in its own cells, as if nothing drove.
 */
import { Rule, type RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { SeatState } from "../state.js";
import { Live } from "../tables.js";
import type { Timed, Timer, Timers } from "../timers.js";
import { EaseValue, when, type Ease } from "./ease.js";
import type { Gaits } from "./gaits.js";
import { DriveCell, MOST_DRIVES, Way } from "../meanings.js";

/** What counts, besides what is added. */
const HANDS = -1;

/** The movement, as what drives it sees it. */
export interface Drivable {
  readonly id: number;
  readonly liveAt: number;
  /** The hands' x, y and length before ease (floats, in a row). */
  readonly x: number;
  readonly ease: Ease | null;
  readonly gaits: Gaits | null;
  /** The game's value is, or was, what comes out. */
  faded(s: SeatState): void;
}

export class DrivenMovement extends Rule implements Timed {
  /** The movement by hands and game, by `EaseValue`. Valid only until it is next computed. */
  readonly out = new Float64Array(3);
  /** In the order in which they began; 0 for an empty slot. */
  readonly drives = this.cells.int("drives", 0, MOST_DRIVES);
  readonly values = this.cells.float("driveValues", 0, MOST_DRIVES * 3);
  /** What hands before ease and the game give together: x, y and length. The length is NaN while nothing drives, x where it is to be looked at anew. */
  readonly x = this.cells.float("drivenX", NaN, 3);
  /** How long the next drive blends; what is faded out, since when, and for how long (0: nothing is). */
  private readonly blendMs = this.cells.float("blendMs");
  private readonly fade = this.cells.float("fade", 0, 2);
  private readonly fadeSince = this.cells.float("fadeSince");
  private readonly fadeMs = this.cells.float("fadeMs");
  private readonly timer: Timer;

  constructor(
    cells: RuleCells,
    private readonly movement: Drivable,
    private readonly timers: Timers,
    number: number,
  ) {
    super(cells);
    this.timer = timers.due(cells, "fades", this, number);
  }

  /** The next drive of it blends over this many ms. */
  blendNext({ f }: SeatState, ms: number): void {
    f[this.blendMs] = ms;
  }

  /** How long the next drive blends, in ms. */
  nextBlend({ f }: Pick<SeatState, "f">): number {
    return f[this.blendMs]!;
  }

  /** NaN for `x` lets the reason go. Clamped to a length of 1. */
  drive(s: SeatState, reason: number, way: Way, x: number, y: number): void {
    const { f, i } = s;
    const { drives, values, out, fade } = this;
    const ms = f[this.blendMs]!;
    f[this.blendMs] = 0;
    const count = this.count(s);
    let n = 0;
    while (n < count && (i[drives + n]! & DriveCell.ReasonMask) !== reason + 1) n++;
    const letsGo = x !== x;
    if (letsGo ? n === count : n === MOST_DRIVES) return;
    const isSame = n < count && !letsGo && i[drives + n]! >> DriveCell.Way === way;
    const blends = ms > 0 && !isSame && s.b[this.movement.liveAt] !== Live.Hidden;
    if (blends) {
      this.work(s);
      f[fade] = out[EaseValue.X]!;
      f[fade + 1] = out[EaseValue.Y]!;
    }
    if (letsGo) {
      i.copyWithin(drives + n, drives + n + 1, drives + count);
      f.copyWithin(values + n * 3, values + (n + 1) * 3, values + count * 3);
      i[drives + count - 1] = 0;
    } else {
      let length = Math.sqrt(x * x + y * y);
      i[drives + n] = (reason + 1) | (way << DriveCell.Way);
      f[values + n * 3] = (length > 1 ? x / length : x) + 0;
      f[values + n * 3 + 1] = (length > 1 ? y / length : y) + 0;
      if (length > 1) length = 1;
      f[values + n * 3 + 2] = length;
    }
    if (!blends) {
      if (!this.isOn(s)) this.timers.clear(s, this.timer);
      return;
    }
    f[this.x] = NaN;
    f[this.fadeMs] = 0;
    this.work(s);
    f[fade] = f[fade]! - out[EaseValue.X]!;
    f[fade + 1] = f[fade + 1]! - out[EaseValue.Y]!;
    f[this.fadeMs] = ms;
    f[this.fadeSince] = s.clock[Clock.Now]!;
    this.timers.set(s, this.timer, ms);
  }

  private count({ i }: Pick<SeatState, "i">): number {
    const { drives } = this;
    let count = 0;
    while (count < MOST_DRIVES && i[drives + count] !== 0) count++;
    return count;
  }

  /** Whether anything drives it or fades, which is rare: else the hands' movement is all. */
  isOn({ i, f }: Pick<SeatState, "i" | "f">): boolean {
    return i[this.drives] !== 0 || f[this.fadeMs] !== 0;
  }

  /** Where the value lies that counts, besides what is added; `HANDS` for what hands give of this length. */
  private base({ i, f, b }: SeatState, length: number): number {
    const { drives, values } = this;
    if (i[drives] === 0 || b[this.movement.liveAt] === Live.Hidden) return HANDS;
    let longest = HANDS;
    let alone = HANDS;
    for (let n = 0; n < MOST_DRIVES && i[drives + n] !== 0; n++) {
      const way = i[drives + n]! >> DriveCell.Way;
      if (way === Way.Alone) alone = values + n * 3;
      else if (way === Way.Longest) longest = values + n * 3;
    }
    if (alone !== HANDS) return alone;
    return longest !== HANDS && f[longest + 2]! > length ? longest : HANDS;
  }

  /** Whether the hands do not count. */
  isAlone({ i, b }: SeatState): boolean {
    if (b[this.movement.liveAt] === Live.Hidden) return false;
    for (let n = 0; n < MOST_DRIVES; n++) if (i[this.drives + n]! >> DriveCell.Way === Way.Alone) return true;
    return false;
  }

  /** Whether anything is added to what the hands give. */
  private adds({ i, b }: SeatState): boolean {
    if (b[this.movement.liveAt] === Live.Hidden) return false;
    for (let n = 0; n < MOST_DRIVES; n++) if (i[this.drives + n]! >> DriveCell.Way === Way.Add) return true;
    return false;
  }

  /** Whether what comes out is the game's, wholly or in part, and not just what these hands give. */
  isByGame(s: SeatState, at: number): boolean {
    return this.base(s, s.f[at + 2]!) !== HANDS || this.adds(s);
  }

  /** Whether the hands have no part in what comes out. */
  isAllByGame(s: SeatState, at: number): boolean {
    return this.base(s, s.f[at + 2]!) !== HANDS || (s.f[at + 2] === 0 && this.adds(s));
  }

  /** Combines what the hands give, at this place of an array, with the game's drives, into `out`. */
  combine(s: SeatState, hands: Float64Array, at: number): void {
    const { f, i, b } = s;
    const { out, drives, values } = this;
    const base = this.base(s, hands[at + 2]!);
    const from = base === HANDS ? hands : f;
    if (base !== HANDS) at = base;
    out[EaseValue.X] = from[at]!;
    out[EaseValue.Y] = from[at + 1]!;
    out[EaseValue.Length] = from[at + 2]!;
    if (b[this.movement.liveAt] === Live.Hidden) return;
    let adds = false;
    for (let n = 0; n < MOST_DRIVES && i[drives + n] !== 0; n++) {
      if (i[drives + n]! >> DriveCell.Way !== Way.Add) continue;
      adds = true;
      out[EaseValue.X]! += f[values + n * 3]!;
      out[EaseValue.Y]! += f[values + n * 3 + 1]!;
    }
    if (adds) this.cut();
  }

  /** Whether it drove or faded when last looked at. */
  wasOn({ f }: SeatState): boolean {
    return f[this.x + 2] === f[this.x + 2];
  }

  /** Combines both before ease; true if another movement comes of it than before. */
  differs(s: SeatState, hands: Float64Array, at: number, isOn: boolean): boolean {
    const { f } = s;
    const { out, x } = this;
    this.combine(s, hands, at);
    const differs = f[x] !== out[0] || f[x + 1] !== out[1];
    f[x] = out[0]!;
    f[x + 1] = out[1]!;
    f[x + 2] = isOn ? out[2]! : NaN;
    return differs;
  }

  /** The length of what is in `out`, at most 1. */
  private cut(): void {
    const { out } = this;
    const x = out[EaseValue.X]!;
    const y = out[EaseValue.Y]!;
    const length = Math.sqrt(x * x + y * y);
    const scale = length > 1 ? length : 1;
    out[EaseValue.X] = x / scale + 0;
    out[EaseValue.Y] = y / scale + 0;
    out[EaseValue.Length] = length > 1 ? 1 : length;
  }

  /** Computes what comes out now, into `out`: eased hands, the game, and what fades. */
  work(s: SeatState): void {
    const { f } = s;
    const { out, movement, fade } = this;
    const { ease } = movement;
    if (ease === null) this.combine(s, f, movement.x);
    else {
      ease.work(s);
      this.combine(s, ease.out, 0);
    }
    const left = this.fadeLeft(s);
    if (left === 0) return;
    out[EaseValue.X]! += f[fade]! * left;
    out[EaseValue.Y]! += f[fade + 1]! * left;
    this.cut();
  }

  /** How much of the fade is left, 0..1. */
  private fadeLeft({ f, clock }: SeatState): number {
    const ms = f[this.fadeMs]!;
    if (ms === 0) return 0;
    const left = 1 - (clock[Clock.Now]! - f[this.fadeSince]!) / ms;
    return left > 0 ? left : 0;
  }

  /** Updates the gait, and sees to it that it is updated when it next may change. */
  updateGait(s: SeatState, gaits: Gaits): void {
    this.work(s);
    gaits.update(s, this.out, EaseValue.Length, true);
    this.waitForNext(s);
  }

  /**
   * Sets the timer for the end of the fade, and for the gait that it reaches. While something else ramps as well, the gait is looked at in
   * every whole millisecond.
   */
  waitForNext(s: SeatState): void {
    const { f, clock } = s;
    const { movement, timers, timer, out, fade } = this;
    const { gaits, ease } = movement;
    const now = clock[Clock.Now]!;
    const fadeMs = f[this.fadeMs]!;
    let next = fadeMs === 0 ? Infinity : f[this.fadeSince]! + fadeMs - now;
    if (gaits !== null) {
      const scale = gaits.scale(s);
      const eases = ease !== null && ease.isOn(s) && !this.isAlone(s);
      if (fadeMs === 0 ? eases && this.adds(s) : eases || scale === 0)
        next = Math.min(next, Math.floor(now) + 1 - now);
      else if (fadeMs !== 0) {
        if (ease === null) this.combine(s, f, movement.x);
        else {
          ease.work(s);
          this.combine(s, ease.out, 0);
        }
        const left = this.fadeLeft(s);
        const x = out[EaseValue.X]! + f[fade]! * left;
        const y = out[EaseValue.Y]! + f[fade + 1]! * left;
        const dx = -f[fade]! / fadeMs;
        const dy = -f[fade + 1]! / fadeMs;
        const speed = dx * dx + dy * dy;
        const half = x * dx + y * dy;
        next = Math.min(
          next,
          when(gaits.limit(s, 1, scale), 1, x, y, speed, half),
          when(gaits.limit(s, -1, scale), -1, x, y, speed, half),
        );
      }
    }
    if (next < Infinity) timers.set(s, timer, Math.max(0, next));
    else timers.clear(s, timer);
  }

  /** The fade is over, or has reached a gait. */
  due(s: SeatState): void {
    const { f } = s;
    if (f[this.fadeMs] !== 0 && f[this.fadeSince]! + f[this.fadeMs]! <= s.clock[Clock.Now]!)
      f[this.fadeMs] = 0;
    this.movement.faded(s);
  }

  /** Nothing fades any more. */
  endFade(s: SeatState): void {
    s.f[this.fadeMs] = 0;
    this.timers.clear(s, this.timer);
  }

  /** The reasons that drive it, one bit each. */
  reasons({ i }: Pick<SeatState, "i">): number {
    let bits = 0;
    for (let n = 0; n < MOST_DRIVES && i[this.drives + n] !== 0; n++)
      bits |= 1 << ((i[this.drives + n]! & DriveCell.ReasonMask) - 1);
    return bits;
  }

  reset(s: SeatState): void {
    s.i.fill(0, this.drives, this.drives + MOST_DRIVES);
    s.f[this.blendMs] = 0;
    this.endFade(s);
  }
}
