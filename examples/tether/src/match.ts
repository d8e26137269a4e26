/** Two sides, and a line each way. In: time, and the players' events. May change: all of it. */
import type { PackedEvent } from "reacher/trace";
import { Line, type LineSettings } from "./line";
import { SEATS, type Seat } from "./plan";
import { Side, TICK_MS, type Message } from "./side";

export class Match {
  readonly sides: Readonly<Record<Seat, Side>>;
  readonly lines: Readonly<Record<Seat, Line<Message>>>;
  /** Packed bytes sent, and messages. */
  readonly sent = { bytes: 0, messages: 0 };
  /** The last tick that both have by the events of both, and whether their checksums were ever unequal at one. */
  compared = 0;
  unequalAt: number | undefined;
  private readonly waiting: Readonly<Record<Seat, PackedEvent[]>> = { amber: [], teal: [] };

  constructor(
    readonly settings: LineSettings,
    onSurge?: (side: Seat, diver: Seat) => void,
    chance?: () => number,
    layers: Partial<Record<Seat, Side["layer"]>> = {},
  ) {
    const side = (seat: Seat) => new Side(seat, (diver) => onSurge?.(seat, diver), layers[seat]);
    this.sides = { amber: side("amber"), teal: side("teal") };
    this.lines = { amber: new Line(settings, chance), teal: new Line(settings, chance) };
  }

  /** A player's event; its moment counts within the tick that its side plays next. */
  feed(seat: Seat, event: PackedEvent): void {
    this.waiting[seat].push(event);
  }

  /** Advances both sides to the moment `now`, in ms from the start. */
  advance(now: number): void {
    for (const seat of SEATS) {
      const side = this.sides[seat];
      for (const message of this.lines[seat].take(now)) side.receive(message);
      const other = seat === "amber" ? "teal" : "amber";
      while ((side.tick + 1) * TICK_MS <= now) {
        const message = side.advance(this.takeUntil(seat, (side.tick + 1) * TICK_MS));
        if (message === undefined) break;
        this.sent.messages++;
        for (const { length } of message.ticks) this.sent.bytes += length;
        this.lines[other].send(now, message);
      }
    }
    this.compare();
  }

  /** The events up to a moment: they wait while their side does. */
  private takeUntil(seat: Seat, t: number): PackedEvent[] {
    const waiting = this.waiting[seat];
    const n = waiting.findIndex((event) => event.t > t);
    return waiting.splice(0, n < 0 ? waiting.length : n);
  }

  private compare(): void {
    const { amber, teal } = this.sides;
    // The state after a tick is kept as the state before the next.
    const both = Math.min(amber.confirmed, teal.confirmed, amber.tick - 1, teal.tick - 1);
    while (this.compared < both) {
      const tick = ++this.compared;
      if (amber.sumAt(tick) !== teal.sumAt(tick)) this.unequalAt ??= tick;
    }
  }
}
