/**
 * Plans and plays of any shape, by a seed: other names, several vectors, axes and turns, entries that name one another, seats. They go where
 * the plans of randomPlans.ts, which share a skeleton, do not.
 */
import { parsePlan, type InputLayer, type Plan } from "reacher";

/** Repeatable chance. */
export class Chance {
  constructor(private state: number) {}

  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  }
  below(n: number): number {
    return Math.floor(this.next() * n);
  }
  pick<One>(list: readonly One[]): One {
    return list[this.below(list.length)]!;
  }
  may(share: number): boolean {
    return this.next() < share;
  }
  /** One to `most` of them, in any order. */
  some<One>(list: readonly One[], most: number): One[] {
    const left = [...list];
    return Array.from({ length: 1 + this.below(Math.min(most, list.length)) }, () =>
      left.splice(this.below(left.length), 1),
    ).flat();
  }
}

const KEYS = "KeyW KeyA KeyS KeyD KeyQ Space ShiftLeft KeyX Digit1 ArrowUp ArrowLeft".split(" ");
const PAD = "PadSouth PadEast PadLeftBumper PadRightTrigger PadDpadUp PadDpadLeft PadDpadDown".split(" ");
const REST =
  "MouseMain WheelUp Fire Pedal PadLeftTrigger PadLeftStickUp PadLeftStickLeft ThumbUp ThumbLeft".split(" ");
const MS = [0, 1, 5, 20, 40, 80, 100, 150, 250, 400];
const SPACES = ["up", "left", "down", "right"];
const CONTROLS = {
  Fire: "button",
  Pedal: "trigger",
  Lever: "axis",
  Thumb: { kind: "stick", device: "touch" },
  Tilt: { kind: "amount", device: "sensor" },
};

type Fields = Record<string, unknown>;

/** Makes one plan. May change: what it has made so far. */
class Maker {
  readonly actions: Record<string, Fields> = {};
  readonly modes: string[];
  readonly slots: string[];
  readonly flags: string[];
  readonly numbers: string[];
  readonly spots: string[];

  constructor(private readonly chance: Chance) {
    const few = (names: string[], share: number) =>
      chance.may(share) ? chance.some(names, names.length) : [];
    this.modes = few(["dive", "menu", "talk"], 0.5);
    this.slots = ["main", "spare", "pad"].slice(0, 1 + chance.below(3));
    this.flags = few(["hasAir", "wet", "armed"], 0.6);
    this.numbers = few(["fast", "slow"], 0.6);
    this.spots = few(["figure", "home"], 0.4);
  }

  plan(): Plan {
    const { chance } = this;
    const names = chance.some("jump walk dash look aim fire climb lean crouch".split(" "), 7);
    const kinds = names.map((name) => ({
      name,
      kind: chance.pick("switch switch switch switch axis vector vector turn".split(" ")) as "switch",
    }));
    // Movements first: switches may name them.
    for (const isSwitch of [false, true])
      for (const { name, kind } of kinds)
        if ((kind === "switch") === isSwitch) this.add(name, { kind, ...this[kind](), ...this.situated() });
    if (this.slots.length > 1 && chance.may(0.3))
      this.seats = { amber: { slots: this.some() }, teal: { slots: this.some() } };
    return this.whole();
  }

  private seats: Fields | undefined;

  private whole(actions: Fields = this.actions): Plan {
    const { modes, flags, numbers, spots, seats } = this;
    const each = (names: string[], value: (name: string, n: number) => unknown) =>
      names.length === 0 ? undefined : Object.fromEntries(names.map((name, n) => [name, value(name, n)]));
    return JSON.parse(
      JSON.stringify({
        reacherPlan: 1,
        controls: CONTROLS,
        slots: each(this.slots, () => ({})),
        modes: each(modes, (name) => ({ covers: { dive: "same", menu: "all" }[name] })),
        flags: each(flags, (_, n) => ({ start: n === 0, lingerMs: n * 40 })),
        numbers: each(numbers, (_, n) => 2.4 * n + 1),
        spots: each(spots, (_, n) => [n, -0.5]),
        seats,
        actions,
      }),
    ) as Plan;
  }

  /** Adds an action that the plan may have; of what it may not have, another try. */
  private add(name: string, action: Fields): void {
    try {
      parsePlan(this.whole({ ...this.actions, [name]: action }));
      this.actions[name] = action;
    } catch {
      if (this.chance.may(0.8)) {
        const kind = action["kind"] as "switch";
        this.add(name, { kind, ...this[kind](), ...this.situated() });
      }
    }
  }

  private some = () => this.chance.some(this.slots, this.slots.length);
  private list = (make: () => unknown, most: number) =>
    this.chance.may(0.7) ? make() : Array.from({ length: 1 + this.chance.below(most) }, make);
  private from = (make: () => unknown, most = 3) => ({
    from: Object.fromEntries(this.some().map((slot) => [slot, this.list(make, most)])),
  });
  /** Each field with its share, a tenth to all. */
  private maybe(fields: Readonly<Record<string, readonly [share: number, make: () => unknown]>>): Fields {
    return Object.fromEntries(
      Object.entries(fields).flatMap(([name, [share, make]]) =>
        this.chance.may(share) ? [[name, make()]] : [],
      ),
    );
  }
  private ms = () => this.chance.pick(MS);
  private yes = () => true;
  private of =
    (...values: unknown[]) =>
    () =>
      this.chance.pick(values);
  private situated = () =>
    this.maybe({
      in: [this.modes.length > 0 ? 0.4 : 0, () => this.chance.some(this.modes, 2)],
      required: [0.1, this.yes],
    });

  private namesOf(...kinds: string[]): string[] {
    return Object.keys(this.actions).filter((name) => kinds.includes(this.actions[name]!["kind"] as string));
  }
  private addresses(): string[] {
    const ways = [...SPACES, "upLeft", "downRight"];
    return [
      ...this.namesOf("vector").flatMap((name) => [name, ...ways.map((way) => `${name}.${way}`)]),
      ...this.namesOf("axis").flatMap((name) => [name, `${name}.minus`, `${name}.plus`]),
      ...this.namesOf("switch"),
    ];
  }
  private control = (): string => {
    const { chance } = this;
    const moves = this.addresses().filter((one) => one.includes("."));
    return chance.pick(chance.pick([KEYS, KEYS, KEYS, PAD, REST, moves.length > 0 ? moves : KEYS]));
  };
  private used = () =>
    this.chance.may(0.8)
      ? this.control()
      : {
          use: this.control(),
          ...this.maybe({ threshold: [0.5, this.of({ press: 0.7, release: 0.2 }, { press: 0.45 })] }),
          ...this.maybe({ result: [0.3, this.of(true, "sector")] }),
        };
  private word = () => {
    const { chance } = this;
    const names = [...this.flags, ...this.addresses()];
    const name = `${chance.may(0.4) ? "not " : ""}${names.length > 0 ? chance.pick(names) : "jump"}`;
    return chance.may(0.25) ? { is: name, forMs: chance.pick(MS.slice(1)) } : name;
  };
  private words = () => this.list(this.word, 3);
  private number = () =>
    this.numbers.length > 0 && this.chance.may(0.5)
      ? this.chance.pick(this.numbers)
      : this.chance.pick([1, 2, 0.5, 0, -1, 4.8]);

  private entry = (): unknown => {
    const { ms } = this;
    const each = this.namesOf("vector", "axis").map((name) => `${name}.each`);
    const members = () => Array.from({ length: 2 + this.chance.below(2) }, this.used);
    const flicked = ["PadLeftStickUp", "ThumbUp", ...this.namesOf("vector").map((name) => `${name}.up`)];
    const withs = { with: [0.2, () => this.list(this.used, 2)] as const };
    return this.chance.pick([
      this.control,
      this.control,
      () => ({ use: this.control(), ...this.maybe({ waits: [0.6, this.yes] }) }),
      () => ({
        taps: 2 + this.chance.below(2),
        of: each.length > 0 && this.chance.may(0.5) ? this.chance.pick(each) : this.used(),
        ...this.maybe({ gapMs: [0.8, ms], eachMs: [0.3, ms], withinMs: [0.2, ms], ...withs }),
        ...this.maybe({ brokenBy: [0.4, this.of("opposite", "any", "none")] }),
      }),
      () => ({ short: this.used(), ...this.maybe({ beforeMs: [0.6, ms] }) }),
      () => ({ long: this.used(), ...this.maybe({ afterMs: [0.6, ms] }) }),
      () => ({ all: members(), ...this.maybe({ spreadMs: [0.5, ms] }) }),
      () => ({ series: members(), ...this.maybe({ gapMs: [0.8, ms], withinMs: [0.3, ms], ...withs }) }),
      () => ({ flick: this.chance.pick(flicked), ...this.maybe({ withinMs: [0.6, ms] }) }),
    ])();
  };

  private shape = () =>
    this.maybe({
      deadZone: [0.6, this.of({ inner: 0.1 }, { kind: "cross", inner: 0.3 }, { inner: 0, outer: 0.3 })],
      curve: [0.5, this.of({ power: 0.5 }, { power: 2.2 }, { points: [[0, 0], [0.2, 0.7], [1, 1]] })], // prettier-ignore
      gain: [0.3, this.of(0.2, 2, 0)],
    });
  private key = () =>
    this.chance.may(0.8)
      ? this.control()
      : { use: this.control(), ...this.maybe({ shape: [0.4, this.shape] }) };
  private stick = (names: string[]) => {
    const use = this.chance.pick(names);
    const isPointer = use === "MousePoint";
    return {
      use,
      ...this.maybe({
        shape: [0.6, this.shape],
        around: [isPointer && this.spots.length > 0 ? 0.5 : 0, () => this.chance.pick(this.spots)],
        fullFrom: [isPointer ? 0.5 : 0, this.of(0.2, 1)],
      }),
    };
  };
  private keyed = (ends: string[]) => Object.fromEntries(ends.map((end) => [end, this.key()]));
  private movement = () =>
    this.maybe({
      opposed: [0.4, this.of("latest", "earliest", "neutral")],
      shape: [0.5, this.shape],
      ease: [0.3, () => this.maybe({ riseMs: [0.8, this.ms], fallMs: [0.8, this.ms], turn: [0.4, this.of("through")] })], // prettier-ignore
      combine: [0.4, this.of("longest", "sum")],
      facingFrom: [0.3, this.of(0, 0.3, 0.9)],
      gaits: [0.35, this.of({ walk: 0.05, run: 0.6 }, { crawl: 0.1, walk: 0.4, run: 0.95 })],
      gaitsBy: [0.15, this.of("length", "speed")],
      gaitMargin: [0.15, this.of(0, 0.05, 0.2)],
      lingerMs: [0.25, this.ms],
      pace: [0.4, () => ({ base: this.number(), rules: Array.from({ length: this.chance.below(3) }, this.rule), ...this.maybe({ easeMs: [0.4, this.ms] }) })], // prettier-ignore
    });
  private rule = () => ({
    when: this.words(),
    ...(this.chance.may(0.5) ? { set: this.number() } : { times: this.number() }),
  });

  readonly switch = () => {
    const { ms, yes } = this;
    const style = this.chance.pick(["hold", "hold", "toggle", "either"]);
    const isHold = style === "hold";
    const needs = this.maybe({ needs: [0.4, this.words] });
    return {
      ...this.from(this.entry),
      style,
      ...needs,
      ...this.maybe({
        startsOn: [0.15, yes],
        resume: [0.3, this.of(true, false)],
        anew: [style === "either" ? 0 : 0.2, yes],
        tapMs: [style === "either" ? 0.5 : 0, ms],
        oneOf: [0.25, this.of("stance", "hand")],
        repeat: [0.25, this.of({ everyMs: 50 }, { everyMs: 100, afterMs: 40 }, { everyMs: 20, apartMs: 5 })],
        cooldownMs: [0.25, ms],
        beginsIf: [0.3, this.words],
        spends: [this.flags.length > 0 ? 0.2 : 0, () => this.list(() => this.chance.pick(this.flags), 2)],
        bufferMs: [0.25, ms],
        carry: [isHold ? 0.2 : 0, yes],
        comesBack: [0.15, this.of(true, false)],
      }),
    };
  };
  readonly axis = () => ({
    ...this.from(
      () =>
        this.chance.may(0.6)
          ? this.keyed(["minus", "plus"])
          : this.stick(["PadLeftStickX", "PadRightStickY", "Lever", "Pedal", "MousePointX", "ThumbX"]),
      2,
    ),
    ...this.movement(),
  });
  readonly vector = () => ({
    ...this.from(() => {
      if (this.chance.may(0.3)) return { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" };
      if (this.chance.may(0.3)) return this.keyed(this.chance.some(SPACES, 4));
      return this.stick(["PadLeftStick", "PadRightStick", "Thumb", "MousePoint", "PadDpad"]);
    }, 2),
    ...this.movement(),
    ...this.maybe({
      directions: [0.3, this.of("free", 8, 4)],
      diagonal: [0.3, this.of("round", "square")],
      faces: [0.3, this.of(...SPACES)],
      settleMs: [0.3, this.ms],
    }),
  });
  readonly turn = () => ({
    ...this.from(
      this.of(
        { use: "MouseMove", perPixel: 0.1 },
        { use: "Tilt", perUnit: 90 },
        { use: "PadRightStick", perSecond: 90, shape: { invert: "y" } },
        { use: "Thumb", perSecond: -30 },
      ),
      2,
    ),
    ...this.maybe({ shape: [0.3, this.shape], pace: [0.3, () => ({ rules: [{ when: this.words(), times: this.number() }] })] }), // prettier-ignore
  });
}

/** A plan that may be played. */
export function anyPlan(seed: number): Plan {
  return new Maker(new Chance(seed)).plan();
}

/** What a hand or the game does at a moment. */
export interface Act {
  readonly t: number;
  readonly tell: (input: InputLayer) => void;
}

/** The controls that a plan may hear, and some that it may not. */
function controlsOf(plan: Plan): string[] {
  const text = JSON.stringify(plan.actions);
  const named = [...new Set([...KEYS, ...PAD, ...REST, "Lever", "Tilt"])].filter((name) => text.includes(`"${name}`)); // prettier-ignore
  const pairs = ["PadLeftStick", "PadRightStick", "Thumb", "MousePoint", "MouseMove", "Tilt"];
  const axes = pairs.filter((name) => text.includes(`"${name}`)).flatMap((name) => [`${name}X`, `${name}Y`]);
  return [...named.filter((name) => !/Stick|Thumb|Tilt/.test(name)), ...axes, "KeyY", "PadCenter", "Fire"];
}

/** Something that the game calls: at this moment, or at once. */
function command(plan: Plan, chance: Chance, at?: number): Act["tell"] {
  const is = chance.may(0.5);
  const named = (fields: object | undefined) => Object.keys(fields ?? {});
  const resets = chance.may(0.2);
  const [name, { kind }] = chance.pick(Object.entries(plan.actions));
  const reason = chance.pick(["cut", "wind"]);
  const flag = chance.pick(named(plan.flags));
  const mode = chance.pick(named(plan.modes));
  const number = chance.pick(named(plan.numbers));
  const spot = chance.pick(named(plan.spots));
  const driving = { switch: is, axis: chance.pick([-1, 0.5, 3]), vector: [0.3, -1], turn: null }[kind];
  const how = kind === "switch" ? {} : { how: chance.pick(["add", "alone"] as const), blendMs: 50 };
  return chance.pick<Act["tell"]>([
    (input) => flag !== undefined && input.setFlag(flag, is, at),
    (input) => number !== undefined && input.setNumber(number, is ? 5 : -2, at),
    (input) => spot !== undefined && input.setSpot(spot, is ? 1 : -0.5, 0.5, at),
    (input) => mode !== undefined && (is ? input.enter(mode, at) : input.leave(mode, at)),
    (input) => (is ? input.mute(name, reason, at) : input.unmute(name, reason, at)),
    (input) => kind === "switch" && input.setSwitch(name, is, at),
    (input) => kind === "switch" && void input.take(name),
    (input) => kind !== "turn" && input.drive(name, (is ? driving : null) as never, reason, { t: at, ...how } as never), // prettier-ignore
    (input) => (is ? input.lose("focus", at) : input.lose("pad", 0, at)),
    (input) => resets && input.reset(),
  ]);
}

/** What callbacks call, one after the other. */
export function anyCommands(plan: Plan, seed: number, length: number): Act["tell"][] {
  const chance = new Chance(seed);
  return Object.keys(plan.actions).length === 0 ? [] : Array.from({ length }, () => command(plan, chance));
}

/** A play of this plan: so many acts, with steps between. */
export function anyPlay(plan: Plan, seed: number, length: number): Act[] {
  const chance = new Chance(seed);
  const controls = controlsOf(plan);
  const down = new Map<string, number>();
  const { length: actions } = Object.keys(plan.actions);
  let t = 0;
  const hand = (): Act["tell"] => {
    const control = chance.pick(controls);
    const value = /[XY]$|Trigger|Pedal|Lever/.test(control.replace(/^Key.*/, ""))
      ? chance.pick([0, 0, 0.1, 0.3, 0.55, 0.8, 1, -1, -0.3, -0.7])
      : 1 - (down.get(control) ?? 0);
    down.set(control, value);
    const event = { t, control, value, ...(control.startsWith("Pad") && { pad: chance.below(2) }) };
    return (input) => input.feed(event);
  };
  return Array.from({ length }, () => {
    t += chance.pick([0, 0, 1, 5, 10, 20, 40, 80, 100, 200, 400]);
    const kind = chance.next();
    const until = t;
    const tell = kind < 0.65 ? hand() : kind < 0.85 && actions > 0 ? command(plan, chance, chance.may(0.5) ? t : undefined) : (input: InputLayer) => void input.step(until); // prettier-ignore
    return { t, tell };
  });
}
