/** What all gestures share: the switch that they press when they fire, and whether they may see presses now. */
import { Rule, type RuleCells } from "../cells.js";
import type { Listener, Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Claimed, ClaimingGesture } from "../compile.js";
import type { Switch } from "../switches/switch.js";
import { Live, type PressConsumer, type SourceRule } from "../tables.js";

export abstract class Gesture extends Rule implements Listener, SourceRule, ClaimingGesture {
  readonly fired = this.cells.byte("fired");
  firedIn = -1;
  private eventNumber = -1;
  readonly controls: readonly number[];
  private readonly liveAt: number;
  consumer: PressConsumer | null = null;
  readonly consumesPress: boolean = false;
  readonly claims: Claimed[] = [];

  constructor(
    cells: RuleCells,
    readonly owner: Switch,
    readonly signals: readonly Signal[],
    readonly hiddenAt: number,
  ) {
    super(cells);
    this.liveAt = owner.liveAt;
    this.controls = signals.flatMap(({ channel }) => (channel === null ? [] : [channel.id]));
  }

  abstract press(s: SeatState, signal: Signal): void;
  abstract release(s: SeatState, signal: Signal): void;
  /** Forgets what was counted so far. */
  protected abstract clear(s: SeatState): void;
  abstract claimEnd(s: SeatState, signal: Signal, newer: number): number;
  abstract lapse(s: SeatState, signal: Signal, newer: number): void;
  /** Whether what fired it is still down. */
  protected abstract isHeld(s: SeatState): boolean;
  /** How many of its presses count so far. */
  pending(_: SeatState): number {
    return 0;
  }
  /** Until when it may go on, of so many presses. */
  windowEnd(_: SeatState, _pending: number): number {
    return -Infinity;
  }
  keepEvent(eventNumber: number): void {
    if (this.firedIn >= 0) return;
    this.firedIn = this.cells.int("firedIn", -1);
    this.eventNumber = eventNumber;
  }
  isDown({ b }: SeatState): boolean {
    return b[this.fired] === 1;
  }

  /** After a change of tables: drops what no longer holds of what it has counted. */
  protected review(_: SeatState): void {}

  protected sees(s: SeatState, signal: Signal): boolean {
    const { hiddenAt, consumer } = this;
    if (s.b[this.liveAt] !== Live.Yes || (hiddenAt >= 0 && s.b[hiddenAt] === 1)) return false;
    return consumer === null || !consumer.isConsumed(s, signal, this.owner);
  }

  /** Fires: presses its own switch, and no other. */
  protected raise(s: SeatState, signal: Signal): void {
    this.claim(s, signal);
    if (this.firedIn >= 0) s.i[this.firedIn] = s.i[this.eventNumber]!;
    if (s.b[this.fired] === 1) return;
    s.b[this.fired] = 1;
    this.owner.press(s, signal, this);
  }

  protected lower(s: SeatState): void {
    if (s.b[this.fired] === 0) return;
    s.b[this.fired] = 0;
    this.owner.release(s, this);
  }

  protected claim(s: SeatState, by: Signal): void {
    const { claims } = this;
    for (let n = 0; n < claims.length; n++) claims[n]!.claim(s, this.claimed(claims[n]!.signal, by));
  }

  /** How many waiting presses of a signal it takes as it fires by this one. */
  protected claimed(_signal: Signal, _by: Signal): number {
    return 1;
  }

  /** Gives up its claim. */
  protected dropClaim(s: SeatState): void {
    if (this.claims.length > 0) s.reviewWaiting();
  }

  forget(s: SeatState): void {
    this.clear(s);
    this.dropClaim(s);
    this.lower(s);
  }

  hide(s: SeatState): void {
    this.forget(s);
  }

  recount(s: SeatState): void {
    const { b } = s;
    if (this.signals.some((signal) => signal.hasLostItsKey(s))) this.clear(s);
    else this.review(s);
    if (b[this.fired] === 1 && !this.isHeld(s)) b[this.fired] = 0;
    if (b[this.fired] === 1) b[this.owner.down]!++;
  }
}
