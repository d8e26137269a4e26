/** What a layer says and does of its first seat, so that a game for one player needs no other. In: calls. Out: the seat's own. */
import type { Device } from "../controls/catalogue.js";
import type { Reading } from "../engine/readings.js";
import type { EndedBy } from "../engine/switches/reading.js";
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import type { Plan } from "../plan/types.js";
import type { Moment } from "../plan/arguments.js";
import type { Driving } from "./driving.js";
import type { SeatHandle } from "./seatHandle.js";
import type { DriveOptions, FlagOptions, Unsubscribe, SwitchChange } from "./types.js";

export abstract class FirstSeat {
  protected abstract readonly first: SeatHandle;

  get name(): string {
    return this.first.name;
  }
  get plan(): Plan {
    return this.first.plan;
  }
  get own(): Plan {
    return this.first.own;
  }
  get slots(): readonly string[] {
    return this.first.slots;
  }
  get now(): Reading {
    return this.first.now;
  }
  get lastDevice(): Device | (string & {}) | null {
    return this.first.lastDevice;
  }
  get pad(): number | null {
    return this.first.pad;
  }
  get padLost(): boolean {
    return this.first.padLost;
  }
  get modes(): readonly string[] {
    return this.first.modes;
  }
  get flags(): Readonly<Record<string, boolean>> {
    return this.first.flags;
  }
  get mutes(): Readonly<Record<string, readonly string[]>> {
    return this.first.mutes;
  }

  live(action: string): boolean {
    return this.first.live(action);
  }
  copy(): Reading {
    return this.first.copy();
  }
  number(name: string): number {
    return this.first.number(name);
  }
  setFlag(flag: string, on: boolean, options?: number | FlagOptions): void {
    this.first.setFlag(flag, on, options);
  }
  setNumber(name: string, value: number, t?: Moment): void {
    this.first.setNumber(name, value, t);
  }
  setSpot(name: string, x: number, y: number, t?: Moment): void {
    this.first.setSpot(name, x, y, t);
  }
  setSwitch(action: string, on: boolean, t?: Moment): void {
    this.first.setSwitch(action, on, t);
  }
  setOverrides(overrides: Overrides | null): readonly OverrideFault[] {
    return this.first.setOverrides(overrides);
  }
  reset(t?: Moment): void {
    this.first.reset(t);
  }
  on(action: string, change: SwitchChange, fn: (t: number, endedBy: EndedBy) => void): Unsubscribe {
    return this.first.on(action, change, fn);
  }
  enter(mode: string, t?: Moment): void {
    this.first.enter(mode, t);
  }
  leave(mode: string, t?: Moment): void {
    this.first.leave(mode, t);
  }
  mute(action: string, reason: string, t?: Moment): void {
    this.first.mute(action, reason, t);
  }
  unmute(action: string, reason?: string, t?: Moment): void {
    this.first.unmute(action, reason, t);
  }
  drive(action: string, given: Driving, reason: string, options?: number | DriveOptions): void {
    this.first.drive(action, given, reason, options);
  }
  take(action: string): boolean {
    return this.first.take(action);
  }
}
