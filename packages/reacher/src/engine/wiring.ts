/** Resolves the names of controls and directions to channels and signals, and connects what reads them. */
import type { Control } from "../controls/catalogue.js";
import type { Controls } from "../controls/ownControls.js";
import type { ResultSource, Source } from "../plan/checked.js";
import { FURTHEST_SPOT } from "../plan/language/saneRanges.js";
import { Cells, type RuleCells } from "./cells.js";
import { listOf } from "./lists.js";
import { Channel, Signal, type Listener, type StickReader } from "./signals.js";
import type { SeatState } from "./state.js";
import { DEVICES } from "./tables.js";

/** More pixels than any mouse moves in one event. */
const FURTHEST = 1e9;

/** From this value on a control counts as used, for prompts: sticks at rest are never quite still. */
const USED = 0.5;

/** The pointer's two values at one moment are one event, apart from any pad's. */
const POINTER_GROUP = -1;

/** A stick that presses a direction by one of its ends. */
export interface GivingStick {
  readonly stick: {
    readonly controls: readonly number[];
    tiltTo(s: Pick<SeatState, "f">, end: number): number;
  };
  readonly end: number;
}

/** The channels and signals of a plan while its rules are made. */
export abstract class Wiring {
  readonly cells: Cells;
  readonly channels: (Channel | undefined)[] = [];
  readonly bound: Channel[] = listOf();
  readonly named = new Map<string, Set<number>>();
  readonly signals: Signal[] = listOf();
  private readonly bySource = new Map<string, Signal>();
  /** Directions, with the signals of the controls that press them, and the sticks. */
  private readonly directionSources = new Map<
    Signal,
    { readonly signals: Set<Signal>; readonly sticks: GivingStick[] }
  >();
  /** How to make the signal of a movement's direction. */
  private readonly directions = new Map<string, (end: string, signal: Signal) => void>();
  /** By the engine's numbers. */
  readonly devices: readonly (string | null)[];
  protected readonly head: RuleCells;
  readonly lastDevice: number;

  /** `padCount`: how many pads are kept apart. A plan without seats takes any pad and combines them. `like`: where cells lie. */
  constructor(
    readonly padCount: number,
    private readonly controls: Controls,
    like: Cells | null,
  ) {
    this.cells = new Cells(like);
    this.head = this.cells.rule("seat");
    this.lastDevice = this.head.int("lastDevice");
    this.devices = [...DEVICES, ...controls.devices];
  }

  /** Registers the directions of a movement. */
  addDirections(action: string, use: (end: string, signal: Signal) => void): void {
    this.directions.set(action, use);
  }

  /** The signal of a control or of a direction. */
  signal(source: Source): Signal {
    const key = this.keyOfSource(source);
    const known = this.bySource.get(key);
    if (known !== undefined) return known;
    const cells = this.cells.rule(`signal ${key}`);
    const id = this.signals.length;
    let signal: Signal;
    if ("control" in source) {
      const { control, press, release } = source;
      const channel = this.channel(control.parts[0]!, control);
      signal = new Signal(cells, id, source.name, channel, control.sign, press, release);
      channel.signals.push(signal);
    } else if ("result" in source) {
      signal = new Signal(cells, id, source.name, null, 1, source.press, source.release, true);
      this.makeResult(source, signal);
    } else {
      signal = new Signal(cells, id, source.name, null, 1, 0, 0);
      this.directions.get(source.action)!(source.end, signal);
    }
    this.signals.push(signal);
    this.bySource.set(key, signal);
    return signal;
  }

  private keyOfSource(source: Source): string {
    if (!("control" in source) && !("result" in source)) return source.name;
    const { name, press, release } = source;
    return `${"control" in source ? this.keyOf(name) : `${name} ${source.result}`} ${press} ${release}`;
  }

  /** A direction as it comes out: what raises its signal. */
  protected abstract makeResult(source: ResultSource, signal: Signal): void;

  /** A control presses an end of a movement: notified in the same event, so that the direction is pressed in it. */
  addEnd(signal: Signal, end: Listener): void {
    signal.ends.push(end);
  }

  /** This control presses a direction, as a key or by tilt. */
  addDirectionSource(direction: Signal, by: Signal | GivingStick): void {
    let own = this.directionSources.get(direction);
    if (own === undefined) this.directionSources.set(direction, (own = { signals: new Set(), sticks: [] }));
    if (by instanceof Signal) own.signals.add(by);
    else own.sticks.push(by);
  }

  /** Registers a reader of raw values: called once per pad, in order. */
  readBy(reader: StickReader, controls: readonly number[]): void {
    for (const control of controls) this.channels[control]!.sticks.push(reader);
  }

  /** The sticks that a direction is pressed by, and to which of their ends. */
  sticksOf(direction: Signal): readonly GivingStick[] {
    return this.directionSources.get(direction)?.sticks ?? [];
  }

  /** The signals of the controls that a direction is pressed by. */
  signalsBehind(direction: Signal): ReadonlySet<Signal> | undefined {
    return this.directionSources.get(direction)?.signals;
  }

  /** The controls of a signal, by number. */
  controlsOf(signal: Signal): readonly number[] {
    if (signal.channel !== null) return [signal.channel.id];
    const { signals = [], sticks = [] } = this.directionSources.get(signal) ?? {};
    const tilted = new Set(sticks.flatMap(({ stick }) => stick.controls));
    return [...[...signals].map(({ channel }) => channel!.id), ...tilted];
  }

  find(control: string): Channel | undefined {
    return this.channels[this.controls.numberOf(control)];
  }

  nameOf(control: number): string {
    return this.controls.nameOf(control);
  }

  /** An own control of another kind is another control. */
  private keyOf(name: string): string {
    const own = this.controls.ownOf(name);
    return own === undefined ? name : `${own.kind} ${name}`;
  }

  /** The channel of a control's part. */
  channel(name: string, control: Control): Channel {
    const id = this.controls.numberOf(name);
    for (const known of new Set([name, control.name]))
      this.named.set(known, (this.named.get(known) ?? new Set()).add(id));
    const known = this.channels[id];
    if (known !== undefined) return known;
    const { family, device } = control;
    const isMouse = family === "motion";
    const isPoint = family === "pointer";
    const isAxis = !isDigital(control) && family !== "trigger" && !isMouse;
    const least = isMouse ? -FURTHEST : isPoint ? -FURTHEST_SPOT : isAxis ? -1 : 0;
    const padCount = device === "pad" ? this.padCount : 1;
    const channel = new Channel(
      this.cells.rule(`channel ${this.keyOf(name)}`),
      name,
      id,
      this.devices.indexOf(device),
      isDigital(control),
      isAxis,
      isMouse,
      least,
      isMouse ? FURTHEST : isPoint ? FURTHEST_SPOT : 1,
      padCount,
      this.lastDevice,
      isPoint ? Infinity : USED,
    );
    if (isPoint) channel.group = POINTER_GROUP;
    const own = this.controls.ownOf(name);
    if (own !== undefined) {
      channel.group = 1 + this.controls.own.indexOf(own);
      channel.keepsFocus = own.keepsFocus;
    }
    while (this.channels.length < id) this.channels.push(undefined);
    this.channels[id] = channel;
    this.bound.push(channel);
    return channel;
  }
}

/** Down or up, with nothing between that counts. */
export function isDigital({ family }: Control): boolean {
  return family === "key" || family === "button";
}

/** Whether nothing else reads this axis. */
export function isOnlyStick({ signals, movements, filter, sticks, other }: Channel): boolean {
  return signals.length + movements.length === 0 && filter === null && sameList(sticks, other!.sticks);
}

function sameList(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a.length === b.length && a.every((item, n) => item === b[n]);
}
