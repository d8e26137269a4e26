/**
 * The owners of pads, in a plan with seats. In: events of pads, and calls of the game. Out: seats that take a pad, lose
 * it, wait for it and get it back; listeners are notified. May change: itself, and a seat's own pad.
 */
import { Clock } from "../engine/clock.js";
import { EventField } from "../engine/queue.js";
import type { Unsubscribe, PadChange } from "./types.js";
import { callEach } from "./calling.js";
import { PadOwners } from "./padOwners.js";
import type { Hub } from "./hub.js";
import type { SeatHandle } from "./seatHandle.js";

/** The value from which an event of a free pad means that somebody has picked it up. */
const TAKEN = 0.5;

/** Instead of a lost pad's index: the seat has no pad any more. */
export const TAKEN_AWAY = -1;

export class SeatPads {
  /** The seats' numbers by connected pads: all that an event needs. */
  readonly plugged = new PadOwners<number>();
  private readonly owners = new PadOwners<SeatHandle>();
  /** Whether the game is asked who gets a free pad. */
  asks = false;
  private readonly listeners = new Set<(change: PadChange) => void>();

  constructor(
    private readonly players: readonly SeatHandle[],
    private readonly hub: Hub,
  ) {}

  owner(pad: number): SeatHandle | undefined {
    return this.owners.get(pad);
  }

  /** Whether a press is on a free pad, whose owner the game decides. */
  isAsked(pad: number, value: number): boolean {
    return this.asks && this.owners.get(pad) === undefined && !(value < TAKEN && value > -TAKEN);
  }

  /** The game is asked; the press itself is seen by nobody. */
  ask(control: string, pad: number, value: number): void {
    const { unbound, controls, counters } = this.hub;
    if (!Number.isInteger(pad) || pad < 0) {
      counters.ignored++;
      return;
    }
    unbound.note(controls, control, pad, value);
    this.notify({ seat: "", pad, what: "unassigned" });
  }

  /** The owner of this pad; a press on a free one gives it to the first seat that can use it. */
  ownerAfter(pad: number, value: number, t: number): SeatHandle | undefined {
    const owner = this.owners.get(pad);
    if (owner !== undefined) {
      if (owner.padLost) {
        owner.padLost = false;
        this.plugged.set(pad, owner.engine.number);
        this.notify({ seat: owner.name, pad, what: "back" });
      }
      return owner;
    }
    if (value < TAKEN && value > -TAKEN) return undefined;
    if (!Number.isInteger(pad) || pad < 0) {
      this.hub.counters.ignored++;
      return undefined;
    }
    // A seat that does not play has no slots either.
    const able = this.players.filter((seat) => seat.engine.tables.usesPads);
    // A seat that waits for its own pad takes another only if nobody else can; not by a press from before it was lost.
    const seat =
      able.find((handle) => handle.pad === null) ??
      able.find((handle) => handle.padLost && handle.padLostAt <= t);
    if (seat !== undefined) this.give(seat, pad, t);
    else this.notify({ seat: "", pad, what: "unassigned" });
    // A listener may have let somebody join, and given them the pad.
    return seat ?? this.owners.get(pad);
  }

  give(seat: SeatHandle, pad: number, t: number | undefined): void {
    const before = this.owners.get(pad);
    if (before !== undefined) this.free(before, t);
    this.free(seat, t);
    seat.pad = pad;
    seat.padLost = false;
    this.owners.set(pad, seat);
    this.plugged.set(pad, seat.engine.number);
    if (this.asks) this.tellSticks(seat, pad, t);
    this.hub.unbound.forget((control) => seat.engine.tables.named.has(control), pad);
    seat.notifyCommand({ seatPad: seat.name, pad }, t);
    this.notify({ seat: seat.name, pad, what: "taken" });
  }

  /** Sticks count from where they are. */
  private tellSticks(seat: SeatHandle, pad: number, t: number | undefined): void {
    const { scheduler, unbound } = this.hub;
    for (const held of unbound.held()) {
      const channel = held.pad === pad ? seat.findChannel(held.control) : undefined;
      if (channel === undefined || !channel.isAxis) continue;
      scheduler.scratchEvent[EventField.T] = t ?? Math.max(0, scheduler.clock[Clock.Now]!);
      scheduler.scratchEvent[EventField.Value] = held.value;
      scheduler.addControl(seat.engine.number, channel, 0);
    }
  }

  /** The seat loses its pad; what it held goes to rest. */
  free(seat: SeatHandle, t: number | undefined): void {
    const { pad } = seat;
    if (pad === null) return;
    // For a lost pad, too: an event stamped after the loss but fed before it may be held.
    seat.loseAt(0, TAKEN_AWAY, t);
    seat.losesPad = true;
    this.owners.set(pad, undefined);
    this.plugged.set(pad, undefined);
    seat.pad = null;
    seat.padLost = false;
    this.notify({ seat: seat.name, pad, what: "freed" });
  }

  /** A lost pad may be any of several: its seat waits for whichever comes first. */
  await(seat: SeatHandle, t: number | undefined): void {
    const { pad } = seat;
    if (pad === null || !seat.padLost) return;
    this.owners.set(pad, undefined);
    seat.pad = null;
    seat.notifyCommand({ seatPad: seat.name, pad: null }, t);
  }

  /** A pad is gone; its seat waits for it. */
  lose(pad: number, t: number | undefined): void {
    const owner = this.owners.get(pad);
    if (owner === undefined || owner.padLost) return;
    owner.padLost = true;
    owner.padLostAt = t ?? this.hub.scheduler.clock[Clock.Now]!;
    this.plugged.set(pad, undefined);
    owner.loseAt(0, pad, t);
    this.notify({ seat: owner.name, pad, what: "lost" });
  }

  listen(fn: (change: PadChange) => void): Unsubscribe {
    this.listeners.add(fn);
    return () => void this.listeners.delete(fn);
  }

  notify(change: PadChange): void {
    callEach(this.listeners, (fn) => fn(change));
  }
}
