/**
 * The lab's bench: one input, two layers with two settings, two divers. May change: the settings, the layers made of them,
 * what the stick is measured to be.
 */
import { createInputLayer, definePlan, type InputLayer, type RawEvent } from "reacher";
import { attachBrowser } from "reacher/browser";
import { proposeZone, StickMeter, type StickMeasure, type ZoneProposal } from "reacher/tuning";

/** What is tried out. Distances are shares of the travel, 0..1; times are ms. */
export interface Settings {
  readonly inner: number;
  readonly outer: number;
  readonly gain: number;
  /** The curve's points between [0, 0] and [1, 1]. */
  readonly bends: readonly (readonly [number, number])[];
  readonly riseMs: number;
  readonly fallMs: number;
}

export const PLAIN: Settings = {
  inner: 0.12,
  outer: 0.04,
  gain: 1,
  bends: [
    [0.33, 0.33],
    [0.67, 0.67],
  ],
  riseMs: 0,
  fallMs: 0,
};

/** Metres a second at full tilt, and the length of a lane in metres. */
const PACE = 6;
export const LANE = 36;
/** The page's own stick stands beside the pads, as one more. */
const OWN_PAD = 3;

function planOf({ inner, outer, gain, bends, riseMs, fallMs }: Settings) {
  return definePlan({
    reacherPlan: 1,
    actions: {
      swim: {
        kind: "vector",
        from: {
          main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" },
          spare: { up: "ArrowUp", left: "ArrowLeft", down: "ArrowDown", right: "ArrowRight" },
          pad: "PadLeftStick",
        },
        shape: { deadZone: { inner, outer }, gain, curve: { points: [[0, 0], ...bends, [1, 1]] } },
        ease: { riseMs, fallMs },
        gaits: { drift: 0.05, cruise: 0.45, race: 0.9 },
        pace: { unit: "m/s", base: PACE },
        faces: "right",
      },
    },
  });
}

type LabLayer = ReturnType<typeof layerOf>;

function layerOf(settings: Settings) {
  return createInputLayer(planOf(settings));
}

/** One of the two: its settings, its layer, and how far its diver has come in metres. */
export interface Side {
  readonly name: "amber" | "teal";
  readonly label: string;
  settings: Settings;
  layer: LabLayer;
  metres: number;
}

export class LabBench {
  readonly sides: readonly [Side, Side];
  /** The raw stick, y up, and whose it is. */
  raw = { x: 0, y: 0 };
  private meter = new StickMeter();
  private readonly held = new Map<string, RawEvent>();
  private last = performance.now();
  private readonly began = performance.now();

  constructor() {
    const side = (name: Side["name"], label: string): Side => ({
      name,
      label,
      settings: PLAIN,
      layer: layerOf(PLAIN),
      metres: 0,
    });
    this.sides = [side("amber", "as it was"), side("teal", "as you set it")];
    // The devices speak to one listener, who tells both.
    attachBrowser({
      feed: (event: RawEvent) => this.feed(event),
      lose: (what: "focus" | "pad", ...rest: number[]) => this.lose(what, rest),
      uses: (control: string) => this.sides[0].layer.uses(control),
    } as unknown as InputLayer);
  }

  /** Moves the page's own stick; y up, each -1..1. */
  tilt(x: number, y: number): void {
    const t = performance.now();
    this.feed({ t, control: "PadLeftStickX", value: x, pad: OWN_PAD });
    this.feed({ t, control: "PadLeftStickY", value: 0 - y, pad: OWN_PAD });
  }

  /** Tries other settings on the second diver; what is held stays held. */
  set(change: Partial<Settings>): void {
    const [, side] = this.sides;
    side.settings = { ...side.settings, ...change };
    side.layer = layerOf(side.settings);
    const t = performance.now();
    for (const event of this.held.values()) side.layer.feed({ ...event, t });
  }

  /** The first diver takes over what the second has, so that the next change is seen against it. */
  keep(): void {
    const [before, after] = this.sides;
    before.settings = after.settings;
    before.layer = layerOf(before.settings);
    const t = performance.now();
    for (const event of this.held.values()) before.layer.feed({ ...event, t });
    before.metres = after.metres = 0;
  }

  frame(now: number): void {
    const seconds = Math.min(now - this.last, 100) / 1000;
    this.last = now;
    for (const side of this.sides) {
      const { swim } = side.layer.step(now);
      side.metres += swim.vx * seconds;
    }
  }

  /** What the pad's own left stick was measured to be, and the zone that suits it. */
  measure(): { measure: StickMeasure; zone: ZoneProposal } | undefined {
    this.meter.push({ t: performance.now() - this.began, control: "KeyW", value: 0, pad: 0 });
    const measure = this.meter
      .measures()
      .find(({ pad, stick }) => pad !== OWN_PAD && stick === "PadLeftStick");
    return measure && { measure, zone: proposeZone(measure) };
  }

  private feed(event: RawEvent): void {
    const { control, value, t, pad = 0 } = event;
    this.held.set(`${control} ${pad}`, event);
    for (const { layer } of this.sides) layer.feed(event);
    if (control === "PadLeftStickX") this.raw = { ...this.raw, x: value };
    if (control === "PadLeftStickY") this.raw = { ...this.raw, y: 0 - value };
    this.meter.push({ t: Math.max(0, t - this.began), control, value, pad });
  }

  private lose(what: string, rest: readonly number[]): void {
    for (const key of this.held.keys())
      if (what === "focus" || (key.startsWith("Pad") && key.endsWith(` ${rest[0]}`))) this.held.delete(key);
    this.raw = { x: 0, y: 0 };
    for (const { layer } of this.sides) layer.lose(what as "pad", ...(rest as [number]));
  }
}
