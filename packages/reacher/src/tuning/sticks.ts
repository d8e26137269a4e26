/**
 * How a pad's sticks are: where they rest, how much they tremble and drift, how far they reach. In: entries of traces, in
 * order. Out: a measure of each stick, and the dead zone that suits it. Memory does not grow with the traces.
 *
 * A stick rests where it stays within `STILL` for `REST_MS`, not far from the centre. Positions are as hands see them: y up.
 */
import { findControl } from "../controls/catalogue.js";
import { mustBeList, mustBeNumber, mustBeObject } from "../plan/arguments.js";
import type { TraceEntry } from "../trace/entry.js";

/** A stick that stays this near to one place, 0..1 of its travel, is still ... */
const STILL = 0.04;
/** ... and rests there if it does so for this long, in ms, and no further than this from the centre. */
const REST_MS = 400;
const REST_WITHIN = 0.25;
const PIECE_MS = 2000;
/** A drift slower than this, in travel a minute, is none that could be told from noise. */
const LEAST_DRIFT = 0.005;
/** Directions that the rim is looked at in, and how many of them tell a round from a square. */
const WAYS = 36;
const ENOUGH_WAYS = 27;
/** Nearer than this to the centre it says nothing of the rim. */
const RIM = 0.6;
/** Cells each way of the picture of where the stick was. */
const CLOUD = 41;
/** What a proposed zone leaves beyond what was seen. */
const SLACK = 0.02;
const GRAIN = 100;

/** Measures of one stick. Distances are shares of the travel, 0..1. */
export interface StickMeasure {
  readonly stick: string;
  readonly pad: number;
  /** How long it was seen, and how long of that it rested, in ms. */
  readonly ms: number;
  readonly restMs: number;
  readonly samples: number;
  /** Where it rested in the mean, at first and at last; absent where it never rested. */
  readonly rest?: {
    readonly mean: Place;
    readonly first: Place;
    readonly last: Place;
    /** How far it strayed from where it rested, at most. */
    readonly noise: number;
    /** How far from the centre it rested, nearly always (99 % of the time). */
    readonly within: number;
    /** How its resting place moves, in travel a minute; absent where it does not, or where that cannot be told. */
    readonly drift?: Place & { readonly perMinute: number };
  };
  /** The furthest tilt by direction, counter-clockwise from right in steps of 10 degrees; 0 where it never went. */
  readonly reach: readonly number[];
  /** The shortest reach as a share of the longest; absent where too little of the rim was seen. */
  readonly roundness?: number;
  /** Time spent in each cell, in ms: a square of rows from the top, from -1 to 1. */
  readonly cloud: Float64Array;
}

/** A tilt, -1..1 each way, y up. */
export interface Place {
  readonly x: number;
  readonly y: number;
}

/** A dead zone that suits a stick, and why. */
export interface ZoneProposal {
  readonly inner: number;
  readonly innerReason: string;
  readonly outer: number;
  readonly outerReason: string;
}

/** Collects measures of sticks. May change: these. */
export class StickMeter {
  private readonly sticks = new Map<string, Gathered>();
  private offset = 0;
  private last = 0;

  push(entry: TraceEntry): void {
    mustBeObject(entry, "entry of a trace");
    mustBeNumber(entry.t, "time of an entry");
    const t = this.offset + entry.t;
    this.last = t;
    if ("lost" in entry) {
      for (const stick of this.sticks.values()) stick.pause(t);
      return;
    }
    if (!("control" in entry)) return;
    const control = findControl(entry.control);
    if (control?.family !== "axis" || !/Stick[XY]$/.test(control.name)) return;
    const name = control.name.slice(0, -1);
    const key = `${name} ${entry.pad}`;
    let stick = this.sticks.get(key);
    if (stick === undefined) this.sticks.set(key, (stick = new Gathered(name, entry.pad, t)));
    stick.move(t, control.name.endsWith("X") ? "x" : "y", Math.max(-1, Math.min(1, entry.value)));
  }

  /** Ends a trace; the next one is taken as played later. */
  endTrace(): void {
    for (const stick of this.sticks.values()) stick.pause(this.last);
    this.offset = this.last;
  }

  /** What was seen so far, by stick. */
  measures(): StickMeasure[] {
    return [...this.sticks.values()].map((stick) => stick.measure(this.last));
  }
}

/** Weighted sums of resting places over time, for their mean and the line through them. May change: the sums. */
class Line {
  w = 0;
  private t = 0;
  private tt = 0;
  private v = 0;
  private tv = 0;

  add(weight: number, t: number, value: number): void {
    this.w += weight;
    this.t += weight * t;
    this.tt += weight * t * t;
    this.v += weight * value;
    this.tv += weight * t * value;
  }

  get mean(): number {
    return this.v / this.w;
  }

  /** How much it rises in a unit of time. */
  get slope(): number {
    const spread = this.w * this.tt - this.t * this.t;
    return spread > 1e-9 * this.w * this.tt ? (this.w * this.tv - this.t * this.v) / spread : 0;
  }

  at(t: number): number {
    return this.mean + this.slope * (t - this.t / this.w);
  }
}

/** Collects measures of one stick. May change: these. */
class Gathered {
  private x = 0;
  private y = 0;
  private t: number;
  private paused = false;
  private samples = 0;
  private ms = 0;
  private restMs = 0;
  private readonly reach = new Float64Array(WAYS);
  private readonly cloud = new Float64Array(CLOUD * CLOUD);
  private readonly restX = new Line();
  private readonly restY = new Line();
  private readonly distances = new Float64Array(Math.ceil(REST_WITHIN * GRAIN) + 1);
  private noise = 0;
  private firstRest = Infinity;
  private lastRest = 0;
  /** Where it is still: since when, its mean so far, and how far it strayed. */
  private still = { since: 0, x: 0, y: 0, ms: 0, stray: 0 };

  constructor(
    private readonly stick: string,
    private readonly pad: number,
    t: number,
  ) {
    this.t = t;
    this.still.since = t;
  }

  move(t: number, way: "x" | "y", raw: number): void {
    // Both axes come at one moment: a place counts from when it has lasted.
    if (t > this.t || this.paused) this.spend(t);
    this.samples++;
    if (way === "x") this.x = raw;
    else this.y = 0 - raw;
  }

  /** Ends what is known until the stick moves again. */
  pause(t: number): void {
    this.spend(t);
    this.endStill();
    this.paused = true;
    this.x = this.y = 0;
  }

  /** The stick was where it is from the last moment to this one. */
  private spend(t: number): void {
    const ms = this.paused ? 0 : t - this.t;
    const { x, y, still } = this;
    this.t = t;
    if (this.paused) {
      this.paused = false;
      this.still = { since: t, x, y, ms: 0, stray: 0 };
      return;
    }
    if (ms <= 0) return;
    this.ms += ms;
    const column = Math.round(((x + 1) / 2) * (CLOUD - 1));
    const row = Math.round(((1 - y) / 2) * (CLOUD - 1));
    this.cloud[row * CLOUD + column]! += ms;
    const length = Math.sqrt(x * x + y * y);
    if (length >= RIM) {
      const way = Math.round((Math.atan2(y, x) / (2 * Math.PI)) * WAYS + WAYS) % WAYS;
      this.reach[way] = Math.max(this.reach[way]!, length);
    }
    const stray = Math.sqrt((x - still.x) ** 2 + (y - still.y) ** 2);
    if (still.ms > 0 && stray > STILL) this.endStill();
    const now = this.still;
    if (now.ms === 0) this.still = { since: t - ms, x, y, ms, stray: 0 };
    else {
      now.ms += ms;
      now.x += ((x - now.x) * ms) / now.ms;
      now.y += ((y - now.y) * ms) / now.ms;
      now.stray = Math.max(now.stray, stray);
      // A long rest is counted in pieces, so that measures taken meanwhile include it.
      if (now.ms > PIECE_MS) this.endStill();
    }
  }

  private endStill(): void {
    const { since, x, y, ms, stray } = this.still;
    this.still = { since: this.t, x: 0, y: 0, ms: 0, stray: 0 };
    const distance = Math.sqrt(x * x + y * y);
    if (ms < REST_MS || distance > REST_WITHIN) return;
    const at = since + ms / 2;
    this.restMs += ms;
    this.restX.add(ms, at, x);
    this.restY.add(ms, at, y);
    this.noise = Math.max(this.noise, stray);
    this.distances[Math.min(this.distances.length - 1, Math.ceil((distance + stray) * GRAIN))]! += ms;
    this.firstRest = Math.min(this.firstRest, at);
    this.lastRest = Math.max(this.lastRest, at);
  }

  measure(now: number): StickMeasure {
    if (!this.paused) this.spend(now);
    const { stick, pad, ms, restMs, samples, cloud } = this;
    const reach = [...this.reach];
    const seen = reach.filter((length) => length > 0);
    return {
      stick,
      pad,
      ms,
      restMs,
      samples,
      reach,
      cloud,
      ...(restMs > 0 ? { rest: this.rest() } : {}),
      ...(seen.length >= ENOUGH_WAYS ? { roundness: Math.min(...seen) / Math.max(...seen) } : {}),
    };
  }

  private rest(): NonNullable<StickMeasure["rest"]> {
    const { restX, restY, firstRest, lastRest } = this;
    const place = (t: number): Place => ({ x: restX.at(t), y: restY.at(t) });
    const x = restX.slope * 60_000;
    const y = restY.slope * 60_000;
    const perMinute = Math.sqrt(x * x + y * y);
    const moved = (perMinute * (lastRest - firstRest)) / 60_000;
    const drifts = perMinute >= LEAST_DRIFT && moved > this.noise;
    return {
      mean: { x: restX.mean, y: restY.mean },
      first: place(firstRest),
      last: place(lastRest),
      noise: this.noise,
      within: this.within(),
      ...(drifts ? { drift: { x, y, perMinute } } : {}),
    };
  }

  private within(): number {
    let left = this.restMs * 0.99;
    for (let n = 0; n < this.distances.length; n++) {
      left -= this.distances[n]!;
      if (left <= 0) return n / GRAIN;
    }
    return REST_WITHIN;
  }
}

/** The dead zone that hides what was seen at rest and reaches what was seen at the rim. */
export function proposeZone(measure: StickMeasure): ZoneProposal {
  mustBeObject(measure, "measure of a stick; StickMeter gives some");
  const { rest, reach, roundness } = measure;
  mustBeList(reach, "reaches; StickMeter gives measures of sticks");
  const seen = reach.filter((length) => length > 0);
  const shortest = Math.min(1, ...seen);
  const inner = rest === undefined ? 0.12 : Math.max(0.05, upTo(rest.within + SLACK));
  const outer = seen.length < 4 ? 0.04 : Math.min(0.3, Math.max(0.02, upTo(1 - shortest + SLACK)));
  return {
    inner,
    innerReason:
      rest === undefined
        ? "it was never seen at rest; this suits most sticks"
        : `at rest it stays within ${places(rest.within)} of the centre` +
          (rest.drift === undefined ? "" : ", drift included"),
    outer,
    outerReason:
      seen.length < 4
        ? "the rim was hardly seen; this suits most sticks"
        : `its shortest reach is ${places(shortest)}` +
          (roundness === undefined ? `, of ${seen.length} of ${WAYS} directions seen` : ""),
  };
}

function upTo(value: number): number {
  return Math.ceil(Math.round(value * 1e6) / 1e4) / 100;
}

function places(value: number): string {
  return String(Math.round(value * 100) / 100);
}
