/**
 * Takes raw events to the seats that they are for: keys and the mouse to all that bind them, a pad's to its owner. In: events, and who binds
 * what. Out: events in the seats' queues; what nobody binds is noted, or counted as a fault. May change: the numbers of the last names.
 */
import { isPadNumber, NO_NUMBER } from "../controls/numbers.js";
import { listOf } from "../engine/lists.js";
import { Bits, EventKind, EventField } from "../engine/queue.js";
import type { Channel } from "../engine/signals.js";
import type { Tables } from "../engine/tables.js";
import type { PadIndices } from "./padIndices.js";
import type { Hub, Member } from "./hub.js";
import type { SeatHandle } from "./seatHandle.js";
import type { SeatPads } from "./seatPads.js";
import type { RawEvent } from "./types.js";
import { isMotion, isOnPad } from "./unbound.js";
import { didYouMean } from "../controls/nearest.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";

/** The players that have bound a control, and its channel in each. */
interface Listening {
  readonly players: readonly SeatHandle[];
  readonly channels: readonly Channel[];
}

export class Feeding {
  /** The last two names and their numbers: a stick's axes alternate. */
  private recentName = "";
  private recent = NO_NUMBER;
  private olderName = "";
  private older = NO_NUMBER;
  /** Who takes a key or a mouse movement, by its number. */
  private listening: (Listening | undefined)[] = [];

  constructor(
    private readonly players: readonly SeatHandle[],
    private readonly hub: Hub,
    private readonly pads: SeatPads,
    /** For a plan without seats: the places of pads. */
    private readonly places: PadIndices | undefined,
  ) {}

  /** An event whose stamp and value are numbers by now. */
  feed(event: RawEvent, t: number, value: number): void {
    const { control } = event;
    const { scratchEvent } = this.hub.scheduler;
    scratchEvent[EventField.T] = t;
    scratchEvent[EventField.Value] = value;
    const number = this.numberOf(control);
    const pad = event.pad === undefined ? 0 : event.pad;
    const isNumber = value === value && t - t === 0;
    const isHandled =
      isNumber &&
      number !== NO_NUMBER &&
      (this.places !== undefined
        ? this.feedAlone(number, pad, this.places)
        : isPadNumber(number)
          ? this.feedPad(control, number, pad)
          : this.feedAll(number));
    if (!isHandled) this.ignore(event, isNumber, t, value);
  }

  /** The number of a control. */
  numberOf(control: string): number {
    if (control === this.recentName) return this.recent;
    return control === this.olderName ? this.older : this.lookUp(control);
  }

  private lookUp(control: string): number {
    this.olderName = this.recentName;
    this.older = this.recent;
    this.recentName = control;
    return (this.recent = this.hub.controls.numberOf(control));
  }

  /** The only player combines all pads; false if it does not bind the control. */
  private feedAlone(number: number, pad: number, places: PadIndices): boolean {
    const { engine } = this.players[0]!;
    const channel = engine.tables.channels[number];
    if (channel === undefined) return false;
    const padIndex = channel.padCount > 1 ? places.indexOf(pad) : 0;
    if (padIndex < 0) this.hub.counters.ignored++;
    else if (this.hub.scheduler.addControl(engine.number, channel, padIndex)) this.hub.counters.late++;
    return true;
  }

  /** Keyboard and mouse go to all players that have bound the control; false if none has. */
  private feedAll(number: number): boolean {
    const { players, channels } = (this.listening[number] ??= this.listeningTo(number));
    const { scheduler, counters } = this.hub;
    const { scratchEvent } = scheduler;
    const t = scratchEvent[EventField.T]!;
    for (let n = 0; n < players.length; n++) {
      scratchEvent[EventField.T] = t;
      if (scheduler.addControl(players[n]!.engine.number, channels[n]!, 0)) counters.late++;
    }
    return players.length > 0;
  }

  private listeningTo(number: number): Listening {
    const players = this.players.filter(({ engine }) => engine.tables.channels[number] !== undefined);
    return {
      players: listOf(players),
      channels: listOf(players.map(({ engine }) => engine.tables.channels[number]!)),
    };
  }

  /** A pad's control goes to the pad's seat; false if that has not bound it. */
  private feedPad(control: string, number: number, pad: number): boolean {
    const { scheduler, counters } = this.hub;
    if (this.pads.asks && this.hub.controls.isRaw(control)) {
      const value = scheduler.scratchEvent[EventField.Value]!;
      if (this.pads.isAsked(pad, value)) {
        this.pads.ask(control, pad, value);
        return true;
      }
    }
    const seat = this.pads.plugged.get(pad) ?? this.seatTaking(control, pad);
    const channel = seat === undefined ? undefined : scheduler.tables[seat]!.channels[number];
    if (channel === undefined) return false;
    if (scheduler.addControl(seat!, channel, 0)) counters.late++;
    return true;
  }

  /** The number of the seat that this event gives a free pad to. */
  private seatTaking(control: string, pad: number): number | undefined {
    if (!this.hub.controls.isRaw(control)) return undefined;
    const { scratchEvent } = this.hub.scheduler;
    const t = scratchEvent[EventField.T]!;
    const value = scratchEvent[EventField.Value]!;
    const seat = this.pads.ownerAfter(pad, value, t)?.engine.number;
    // A callback may have fed something else meanwhile.
    scratchEvent[EventField.T] = t;
    scratchEvent[EventField.Value] = value;
    return seat;
  }

  /** Counts a value that is not a number, or an unknown control, as a fault; an unbound control is not one. */
  private ignore({ control, pad = 0 }: RawEvent, isNumber: boolean, t: number, value: number): void {
    const { scheduler, unbound, counters, controls } = this.hub;
    if (!isNumber || !controls.isRaw(control)) {
      counters.ignored++;
      return;
    }
    if (isMotion(controls, control)) return;
    // It counts at its moment: by then a player may have bound it.
    const player = isOnPad(control) && this.places === undefined ? this.pads.owner(pad) : this.players[0]!;
    const padIndex = !isOnPad(control) ? 0 : player === undefined ? -1 : this.hub.padIndexOf(player, pad);
    if (padIndex < 0) {
      unbound.note(controls, control, pad, value);
      return;
    }
    scheduler.scratchEvent[EventField.T] = t;
    scheduler.scratchEvent[EventField.Value] = value;
    scheduler.addEvent(
      player!.engine.number,
      (controls.numberOf(control) << (Bits.Kind + Bits.Place)) | (padIndex << Bits.Kind) | EventKind.Control,
    );
  }

  /** @throws ReacherError unless the plan names this control itself */
  mustBeOwn(control: string): void {
    const { hub } = this;
    if (hub.controls.ownOf(control) === undefined || !hub.controls.isRaw(control))
      throw new ReacherError(
        `${shown(control)} is fed to the layer; a seat takes the plan's own controls${didYouMean(control, hub.controls.names)}`,
      );
  }

  /** An event of an own control that is fed to one seat. */
  feedSeat(player: SeatHandle, { control, t: given, value: amount }: RawEvent): void {
    const { hub } = this;
    const [t, value] = [+given, +amount];
    if (value !== value || !(t - t === 0)) {
      hub.counters.ignored++;
      return;
    }
    const channel = player.findChannel(control);
    if (channel === undefined) return;
    hub.scheduler.scratchEvent[EventField.T] = t;
    hub.scheduler.scratchEvent[EventField.Value] = value;
    if (hub.scheduler.addControl(player.engine.number, channel, 0)) hub.counters.late++;
  }

  /** A player has new tables, or there is another plan: it takes other controls. */
  forgetListening(): void {
    this.listening = [];
    this.recentName = this.olderName = "";
    this.recent = this.older = NO_NUMBER;
  }

  /** Copies waiting events of keys that this player binds only now from whoever has them. */
  share(player: Member, before: Tables): void {
    if (this.players.length === 1) return;
    const { scheduler } = this.hub;
    const { events, scratchEvent } = scheduler;
    for (const channel of player.engine.tables.bound) {
      if (before.find(channel.name) !== undefined || isPadNumber(channel.id)) continue;
      const others = this.players.filter((one) => one !== player);
      const source = others.find((other) => other.findChannel(channel.name) !== undefined) ?? others[0]!;
      for (let at = events.first(source.engine.number); at >= 0; at = events.after(at)) {
        const what = events.whatAt(at);
        if ((what & Bits.KindMask) !== EventKind.Control) continue;
        if (source.engine.tables.nameOf(what >> (Bits.Kind + Bits.Place)) !== channel.name) continue;
        scratchEvent[EventField.T] = events.timeAt(at);
        scratchEvent[EventField.Value] = events.valueAt(at);
        scheduler.addControl(player.engine.number, channel, 0);
      }
    }
  }
}
