/** Makes the engine's tables from a checked plan. In: names. Out: numbers. */
import { Head, HeadInt, MoverFloat, MoverInt, StickFloat, StickInt, SwitchFloat, SwitchInt } from "./layout.js";
import type { Control } from "../controls/catalogue.js";
import type { CheckedMovement, CheckedPlan, CheckedPress, CheckedSwitch, Word } from "../plan/checked.js";

import { compileShape } from "./shape.js";

import {
  DEVICES,
  End,
  Opposed,
  Style,
  type AnalogEndTable,
  type ChannelTable,
  type DeadlineTable,
  type EndTable,
  type MoverTable,
  type PaceTable,
  type SignalTable,
  type StickTable,
  type SwitchTable,
  type Tables,
} from "./tables.js";

/** A plan without seats takes up to this many pads at once. */
export const PADS_TOGETHER = 4;

const STYLES = { hold: Style.Hold, toggle: Style.Toggle, either: Style.Either };
const OPPOSED = { latest: Opposed.Latest, earliest: Opposed.Earliest, neutral: Opposed.Neutral };
const ENDS = { minus: End.Left, plus: End.Right, left: End.Left, right: End.Right, down: End.Down, up: End.Up };
const FACES = { right: 0, up: 2, left: 4, down: 6 };

type Growing<T> = { -readonly [K in keyof T]: T[K] extends readonly (infer E)[] ? E[] : T[K] };

/** Compiles a plan for one seat. */
export function compilePlan(plan: CheckedPlan): Tables {
  return new Compiler(plan).compile();
}

class Compiler {
  private floats = Head.Size;
  private ints = HeadInt.Size;
  private readonly channels = new Map<string, number>();
  private readonly used = new Set<string>();
  private readonly channel: Growing<ChannelTable>[] = [];
  private readonly signal: Growing<SignalTable>[] = [];
  private readonly signals = new Map<string, number>();
  private readonly stick: StickTable[] = [];
  private readonly switch: SwitchTable[] = [];
  private readonly mover: MoverTable[] = [];
  private readonly deadlines: DeadlineTable[] = [];
  private readonly facts: Map<string, number>;
  private readonly pacedBy: number[][];

  constructor(private readonly plan: CheckedPlan) {
    this.facts = new Map([...plan.flags, ...plan.actions].map(({ name }, fact) => [name, fact]));
    this.pacedBy = [...this.facts].map(() => []);
  }

  compile(): Tables {
    const { plan } = this;
    for (const action of plan.actions) {
      if (action.kind === "switch") this.addSwitch(action);
      else this.addMover(action);
    }
    const factsAt = this.takeInts(this.facts.size);
    const deadlinesAt = this.takeFloats(this.deadlines.length);
    const runningAt = this.takeInts(this.deadlines.length);
    return {
      plan,
      print: fingerprint(JSON.stringify(plan)),
      places: PADS_TOGETHER,
      channels: this.channels,
      used: this.used,
      channel: this.channel,
      signal: this.signal,
      stick: this.stick,
      switch: this.switch,
      mover: this.mover,
      facts: this.facts,
      pacedBy: this.pacedBy,
      deadlines: this.deadlines,
      firstWindow: this.deadlines.length,
      floats: this.floats,
      ints: this.ints,
      factsAt,
      deadlinesAt,
      runningAt,
    };
  }

  private addSwitch(action: CheckedSwitch): void {
    const id = this.switch.length;
    this.switch.push({
      name: action.name,
      fact: this.facts.get(action.name)!,
      style: STYLES[action.style],
      tapMs: action.tapMs,
      startsOn: action.startsOn,
      f: this.takeFloats(SwitchFloat.Size),
      i: this.takeInts(SwitchInt.Size),
    });
    for (const press of action.presses) {
      // The same control in two slots is one source: one press of it counts once.
      const { switches } = this.signal[this.signalOf(press)]!;
      if (!switches.includes(id)) switches.push(id);
    }
  }

  private addMover(action: CheckedMovement): void {
    const id = this.mover.length;
    const up = this.plan.yAxis === "up" ? 1 : -1;
    const analogEnds: AnalogEndTable[][] = [[], [], [], []];
    const sticks: StickTable[] = [];
    const f = this.takeFloats(MoverFloat.Size);
    const moverAt = this.takeInts(MoverInt.Size);
    const directions = action.directions === "free" ? 0 : action.directions;
    for (const end of action.ends) {
      const number = ENDS[end.end];
      const analog = !isDigital(end.control);
      const signal = this.signal[this.signalOf(end)]!;
      if (!signal.ends.some((other: EndTable) => other.mover === id && other.end === number)) {
        const keysAt = moverAt + MoverInt.Keys + number;
        signal.ends.push({ mover: id, end: number, moverAt, keysAt, analog });
      }
      if (!analog) continue;
      const channel = this.channel[this.channelOf(end.control.parts[0]!, end.control)]!;
      const { places } = channel;
      const source = { mover: id, end: number, f: channel.f, places, sign: end.control.sign, shape: compileShape(end.shape) };
      channel.analogEnds.push(source);
      analogEnds[number]!.push(source);
    }
    for (const { control, shape } of action.sticks) {
      const { x, y, signX, signY } = stickParts(control, action.kind, up);
      const channelX = this.channel[this.channelOf(x!, control)]!;
      const channelY = y === undefined ? undefined : this.channel[this.channelOf(y, control)]!;
      const table = compileShape(shape);
      for (let place = 0; place < channelX.places; place++) {
        const stick = this.stick.length;
        channelX.sticks.push(stick);
        channelY?.sticks.push(stick);
        sticks[sticks.length] = this.stick[stick] = {
          mover: id,
          number: sticks.length,
          directions,
          moverAt,
          rawX: channelX.f + place,
          rawY: channelY === undefined ? -1 : channelY.f + place,
          signX,
          signY,
          f: this.takeFloats(StickFloat.Size),
          i: this.takeInts(StickInt.Size),
          shape: table,
        };
      }
    }
    const isVector = action.kind === "vector";
    const fact = this.facts.get(action.name)!;
    this.mover.push({
      name: action.name,
      kind: action.kind,
      fact,
      opposed: OPPOSED[action.opposed],
      directions,
      round: action.diagonal === "round",
      up,
      faces: FACES[action.faces],
      facingFrom: action.facingFrom,
      settleMs: action.settleMs,
      settle: isVector ? this.deadlines.push({ target: id }) - 1 : -1,
      gaitNames: action.gaits.map((gait) => gait.name),
      gaitFrom: action.gaits.map((gait) => gait.from),
      // Rounded, so that 0.45 less 0.04 is 0.41 and not a little more.
      gaitKept: action.gaits.map((gait) => Math.round((gait.from - action.gaitMargin) * 1e9) / 1e9),
      pace: this.paceOf(action, id),
      easeMs: action.pace?.easeMs ?? 0,
      f,
      i: moverAt,
      sticks,
      analogEnds,
      hasAnalogEnds: analogEnds.some((sources) => sources.length > 0),
    });
  }

  private paceOf(action: CheckedMovement, mover: number): PaceTable | undefined {
    if (action.pace === undefined) return undefined;
    const rules = action.pace.rules.map((rule) => ({
      words: this.words(rule.when, this.pacedBy, mover),
      set: rule.set !== undefined,
      by: rule.set ?? rule.times!,
    }));
    return { base: action.pace.base, rules };
  }

  /** Facts asked for by `asker`, who is told when they change. */
  private words(words: readonly Word[], askers: number[][], asker: number) {
    return words.map(({ name, not }) => {
      const fact = this.facts.get(name)!;
      if (!askers[fact]!.includes(asker)) askers[fact]!.push(asker);
      return { fact, truth: not ? 0 : 1 };
    });
  }

  private signalOf({ control, press, release }: CheckedPress): number {
    const key = `${control.name} ${press} ${release}`;
    const known = this.signals.get(key);
    if (known !== undefined) return known;
    const channel = this.channel[this.channelOf(control.parts[0]!, control)]!;
    const { name, sign } = control;
    const id = this.signal.length;
    const device = DEVICES.indexOf(control.device);
    const signal = { id, sign, press, release, i: this.takeInts(1), device, control: name, switches: [], ends: [] };
    this.signal.push(signal);
    channel.signals.push(signal);
    this.signals.set(key, id);
    return id;
  }

  /** The channel of a control's part. */
  private channelOf(name: string, control: Control): number {
    this.used.add(control.name).add(name);
    const known = this.channels.get(name);
    if (known !== undefined) return known;
    const places = control.device === "pad" ? PADS_TOGETHER : 1;
    const isAxis = !isDigital(control) && control.family !== "trigger";
    const device = DEVICES.indexOf(control.device);
    const f = this.takeFloats(places);
    const least = isAxis ? -1 : 0;
    const id = this.channel.push({ name, device, isAxis, least, f, places, signals: [], sticks: [], analogEnds: [] });
    this.channels.set(name, id - 1);
    return id - 1;
  }

  private takeFloats(count: number): number {
    this.floats += count;
    return this.floats - count;
  }

  private takeInts(count: number): number {
    this.ints += count;
    return this.ints - count;
  }
}

/** Down or up, with nothing between that counts. */
function isDigital({ family }: Control): boolean {
  return family === "key" || family === "button";
}

/** Which raw axes a stick reads, and their signs: raw pads report down as +1 (W3C Gamepad, section 7). */
function stickParts(control: Control, kind: "axis" | "vector", up: number) {
  const [first, second] = control.parts;
  if (kind === "vector") return { x: first, y: second, signX: 1, signY: -up };
  const vertical = first!.endsWith("Y");
  return { x: first, y: undefined, signX: vertical ? -up : 1, signY: 1 };
}

/** A number for a text (FNV-1a, 32 bits): snapshots of another plan are told apart by it. */
function fingerprint(text: string): number {
  let hash = 0x811c9dc5 | 0;
  for (let n = 0; n < text.length; n++) hash = Math.imul(hash ^ text.charCodeAt(n), 0x01000193);
  return hash;
}
