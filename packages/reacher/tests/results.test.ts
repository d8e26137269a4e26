/** Directions as they come out, and conditions that last: as sources and as words. */
import * as fc from "fast-check";
import { applyOverrides, createInputLayer, parsePlan } from "reacher";
import { checkPlan } from "reacher/check";
import { explain } from "reacher/trace";
import { WASD } from "./plans";
import { runs } from "./runs";

const SECTORS = ["right", "upRight", "up", "upLeft", "left", "downLeft", "down", "downRight"] as const;
const WAYS = { up: [0, 1], left: [-1, 0], down: [0, -1], right: [1, 0] } as const;

interface Nav {
  directions?: 4 | 8;
  diagonal?: "square";
  opposed?: "neutral";
}

/** A switch for every result of `nav`, and one for each as a word. */
function planOf(nav: Nav, yAxis: "up" | "down") {
  const names = SECTORS.filter((name) => nav.directions !== 4 || name in WAYS);
  const of = (name: string, entry: object) => [name, { kind: "switch", in: ["play"], from: { main: entry } }];
  return parsePlan({
    reacherPlan: 1,
    yAxis,
    modes: { play: { covers: "none" }, talk: { covers: "none" } },
    start: ["play", "talk"],
    actions: {
      nav: { kind: "vector", in: ["talk"], from: { main: WASD, pad: "PadLeftStick" }, ...nav },
      ...Object.fromEntries([
        ...Object.keys(WAYS).map((name) => of(`way-${name}`, { use: `nav.${name}`, result: true })),
        ...names.map((name) => of(`near-${name}`, { use: `nav.${name}`, result: "sector" })),
        of("any", { use: "nav", threshold: { press: 0.6, release: 0.3 } }),
        ...Object.keys(WAYS).map((name) => [
          `word-${name}`,
          { kind: "switch", needs: `nav.${name}`, from: { main: "Space" } },
        ]),
      ]),
    },
  });
}

/** The same by angles, one event after the other. */
class Oracle {
  private readonly up = new Map<string, boolean>();
  private readonly pressed = new Map<string, boolean>();
  private sector = -1;

  constructor(private readonly directions: 4 | 8) {}

  /** `byHand`: what rises is a press. */
  take(x: number, y: number, byHand: boolean): void {
    const length = Math.hypot(x, y);
    for (const [name, [toX, toY]] of Object.entries(WAYS))
      this.set(`way-${name}`, x * toX + y * toY, 0.5, 0.4, byHand);
    this.set("any", length, 0.6, 0.3, byHand);
    if (length < (this.sector < 0 ? 0.5 : 0.4)) this.sector = -1;
    else {
      const width = 360 / this.directions;
      const angle = (Math.atan2(y, x) * 180) / Math.PI;
      const apart = (n: number) => Math.abs(((angle - n * 45 + 540) % 360) - 180);
      const every = this.directions === 4 ? [0, 2, 4, 6] : [0, 1, 2, 3, 4, 5, 6, 7];
      if (this.sector < 0 || apart(this.sector) > width / 2 + 5)
        this.sector = every.reduce((best, n) => (apart(n) < apart(best) - 1e-9 ? n : best));
    }
    SECTORS.forEach((name, n) => this.set(`near-${name}`, n === this.sector ? 1 : 0, 0.5, 0.4, byHand));
  }

  private set(name: string, value: number, press: number, release: number, byHand: boolean): void {
    const was = this.up.get(name) === true;
    const is = value >= (was ? release : press);
    this.up.set(name, is);
    if (!is) this.pressed.set(name, false);
    else if (!was) this.pressed.set(name, byHand);
  }

  isUp(name: string): boolean {
    return this.up.get(name) === true;
  }

  isPressed(name: string): boolean {
    return this.pressed.get(name) === true;
  }
}

test("results and words of directions are what angles and lengths say, for any play", () => {
  const event = fc.oneof(
    { weight: 3, arbitrary: fc.tuple(fc.constantFrom(...Object.values(WASD)), fc.constantFrom(0, 1)) },
    {
      weight: 4,
      arbitrary: fc.tuple(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
      ),
    },
    { weight: 1, arbitrary: fc.constantFrom("mute", "unmute", "leave", "enter", "reset", "focus") },
  );
  const nav = fc.record(
    { directions: fc.constantFrom(4, 8), diagonal: fc.constant("square"), opposed: fc.constant("neutral") },
    { requiredKeys: [] },
  );
  fc.assert(
    fc.property(
      nav,
      fc.constantFrom("up", "down"),
      fc.array(event, { maxLength: 40 }),
      (nav, yAxis, play) => {
        const input = createInputLayer(planOf(nav as Nav, yAxis as "up"));
        const oracle = new Oracle((nav as Nav).directions === 4 ? 4 : 8);
        let t = 0;
        input.feed({ t, control: "Space", value: 1 });
        input.step(t);
        for (const one of play) {
          t += 10;
          const byHand = typeof one !== "string";
          if (one === "mute") input.mute("nav", "scene");
          else if (one === "unmute") input.unmute("nav", "scene");
          else if (one === "leave") input.leave("talk");
          else if (one === "enter") input.enter("talk");
          else if (one === "focus") input.lose("focus");
          else if (one === "reset") input.reset();
          else if (typeof one[0] === "string") input.feed({ t, control: one[0], value: one[1] });
          else {
            input.feed({ t, control: "PadLeftStickX", value: one[0], pad: 0 });
            input.feed({ t, control: "PadLeftStickY", value: one[1] as number, pad: 0 });
          }
          // A reset puts switches off whose results stay down, and a lost focus lets go of the key of the words.
          if (one === "reset") return;
          input.step(t);
          const reading = input.now as unknown as Record<string, { on: boolean; x: number; y: number }>;
          oracle.take(reading["nav"]!.x, reading["nav"]!.y * (yAxis === "up" ? 1 : -1), byHand);
          if (one === "focus") input.feed({ t, control: "Space", value: 1 });
          if (one === "focus") input.step(t + 1);
          for (const [name, { on }] of Object.entries(reading)) {
            if (name === "nav") continue;
            const way = name.slice(5);
            const expected = name.startsWith("word-") ? oracle.isUp(`way-${way}`) : oracle.isPressed(name);
            expect(`${t} ${name} ${on}`).toBe(`${t} ${name} ${expected}`);
          }
        }
      },
    ),
    runs(60),
  );
});

const nav = { kind: "vector", from: { main: WASD, pad: "PadLeftStick" } };
const plan = (actions: object, more: object = {}) =>
  parsePlan({ reacherPlan: 1, ...more, actions: { nav, ...actions } });
const hold = (entry: unknown, more: object = {}) => ({ kind: "switch", from: { main: entry }, ...more });

/** Plays `[t, control, value]`, and returns the moments at which each switch turned on and off. */
function played(
  made: ReturnType<typeof plan>,
  events: readonly (readonly [number, string, number])[],
  end: number,
) {
  const input = createInputLayer(made);
  const seen: string[] = [];
  for (const name of Object.keys(made.actions).filter((name) => name !== "nav"))
    for (const change of ["on", "off"] as const)
      input.on(name, change, (t) => seen.push(`${t} ${name} ${change}`));
  for (const [t, control, value] of events)
    input.feed(control.startsWith("Pad") ? { t, control, value, pad: 0 } : { t, control, value });
  input.step(end);
  return seen;
}

test.each<[string, object, (readonly [number, string, number])[], string[]]>([
  [
    "the shooter's length fires from one tilt at every angle",
    { fire: hold({ use: "nav", threshold: { press: 0.6 } }) },
    [
      [0, "PadLeftStickX", 0.5],
      [0, "PadLeftStickY", 0.5],
      [10, "PadLeftStickX", 0],
      [10, "PadLeftStickY", 0],
      [20, "PadLeftStickX", 0.66],
      [30, "PadLeftStickX", 0.5],
    ],
    ["0 fire on", "10 fire off", "20 fire on", "30 fire off"],
  ],
  [
    "a sector falls before the next rises",
    { up: hold({ use: "nav.up", result: "sector" }), both: hold("nav.upRight") },
    [
      [0, "KeyW", 1],
      [10, "KeyD", 1],
      [20, "KeyW", 0],
    ],
    ["0 up on", "10 up off", "10 both on", "20 both off"],
  ],
  [
    "double taps of a result are broken by its opposite",
    { dash: hold({ taps: 2, of: { use: "nav.right", result: true }, gapMs: 200 }) },
    [
      [0, "KeyD", 1],
      [20, "KeyD", 0],
      [40, "KeyA", 1],
      [60, "KeyA", 0],
      [80, "KeyD", 1],
      [90, "KeyD", 0],
      [120, "KeyD", 1],
    ],
    ["120 dash on"],
  ],
  [
    "a special move by sectors",
    {
      wave: hold({
        series: [
          { use: "nav.down", result: "sector" },
          "nav.downRight",
          { use: "nav.right", result: "sector" },
          "KeyJ",
        ],
        gapMs: 200,
      }),
    },
    [
      [0, "KeyS", 1],
      [50, "KeyD", 1],
      [100, "KeyS", 0],
      [150, "KeyJ", 1],
      [160, "KeyJ", 0],
    ],
    ["150 wave on", "160 wave off"],
  ],
  [
    "a chord that a result completes takes nothing, and what a chord takes it still sees",
    {
      chord: hold({ all: [{ use: "nav.up", result: true }, "KeyJ"] }),
      jump: hold("KeyW"),
      also: hold("KeyJ"),
      up: hold({ use: "nav.up", result: true }),
      pair: hold({ all: ["KeyQ", "KeyS"] }),
      low: hold({ use: "nav.down", result: true }),
    },
    [
      [0, "KeyJ", 1],
      [10, "KeyW", 1],
      [20, "KeyW", 0],
      [30, "KeyQ", 1],
      [40, "KeyS", 1],
    ],
    [
      "0 also on",
      "10 chord on",
      "10 jump on",
      "10 up on",
      "20 chord off",
      "20 jump off",
      "20 up off",
      "40 pair on",
      "40 low on",
    ],
  ],
  [
    "an entry waits for raw directions only",
    {
      tap: hold({ use: "KeyW", waits: true }),
      dash: hold({ taps: 2, of: { use: "nav.up", result: true } }),
      other: hold({ use: "KeyS", waits: true }),
      roll: hold({ taps: 2, of: "nav.down" }),
    },
    [
      [0, "KeyW", 1],
      [10, "KeyS", 1],
      [20, "KeyS", 0],
    ],
    ["0 tap on", "260 other on", "260 other off"],
  ],
  [
    "a word that lasts begins at its exact moment, before the events of it, and ends at once",
    {
      walked: hold("Space", { needs: { is: "nav", forMs: 1000 } }),
      calm: hold("Space", { needs: [{ is: "not nav", forMs: 500 }] }),
    },
    [
      [0, "Space", 1],
      [600, "KeyW", 1],
      [1600, "KeyA", 1],
      [1700, "KeyW", 0],
      [1800, "KeyA", 0],
    ],
    ["500 calm on", "600 calm off", "1600 walked on", "1800 walked off"],
  ],
])("%s", (_, actions, events, expected) => {
  expect(played(plan(actions), events, 2000)).toEqual(expected);
});

test("a beginning anew is not seen by words, and a reset counts from its moment", () => {
  const input = createInputLayer(
    plan({
      hop: hold(["KeyQ", "KeyE"], { anew: true }),
      long: hold("Space", { needs: { is: "hop", forMs: 300 } }),
    }),
  );
  const at = (t: number) => (input.step(t), (input.now as never as { long: { on: boolean } }).long.on);
  input.feed({ t: 0, control: "Space", value: 1 });
  input.feed({ t: 0, control: "KeyQ", value: 1 });
  input.feed({ t: 200, control: "KeyE", value: 1 });
  expect([at(299), at(300)]).toEqual([false, true]);
  const flagged = createInputLayer(
    plan({ rest: hold("Space", { beginsIf: { is: "calm", forMs: 300 } }) }, { flags: { calm: true } }),
  );
  flagged.step(1000);
  flagged.reset();
  const press = (t: number) => {
    flagged.feed({ t, control: "Space", value: 1 });
    flagged.feed({ t: t + 1, control: "Space", value: 0 });
    return (flagged.step(t + 1) as never as { rest: { turnedOn: boolean } }).rest.turnedOn;
  };
  expect([press(1299), press(1302)]).toEqual([false, true]);
});

test.each<[unknown, RegExp]>([
  ["nav.upleft", /"upleft" is no direction: up, left, down or right; did you mean upLeft\?/],
  [{ use: "KeyQ", result: true }, /main.result: KeyQ is a control; result is for directions/],
  [{ use: "nav", result: "sector" }, /nav is no direction; take one of it/],
  [
    { use: "nav.up", threshold: { press: 0.7 } },
    /main.threshold: a direction is pressed where its controls are; with result/,
  ],
  [{ flick: { use: "nav.up", result: true } }, /main.flick: a flick measures the stick itself/],
  [{ taps: 2, of: "nav", brokenBy: "opposite" }, /nav has no opposite/],
  ["jump", /"jump" is neither a vector nor an axis/],
  [{ all: ["nav.up", { use: "nav.up", result: true }] }, /names a control twice/],
])("%j is told", (entry, message) => {
  expect(
    checkPlan({ reacherPlan: 1, actions: { nav, jump: hold("KeyJ"), one: hold(entry) } })
      .findings.map(({ place, message }) => `${place}: ${message}`)
      .join("\n"),
  ).toMatch(message);
});

test("with 4 directions there is no diagonal, and a word in its own needs is a circle however long", () => {
  const four = { ...nav, directions: 4 };
  const told = (actions: object) =>
    checkPlan({ reacherPlan: 1, actions: { nav: four, ...actions } }).findings.map(({ id }) => id);
  expect(told({ one: hold("nav.upLeft") })).toContain("unknown-source");
  expect(told({ one: hold("KeyJ", { needs: { is: "one", forMs: 10 } }) })).toContain("needs-circle");
  expect(told({ one: hold("KeyJ", { beginsIf: { is: "not one", forMs: 10 } }) })).not.toContain(
    "needs-circle",
  );
});

test("a rebound entry leaves its result behind and keeps its gesture", () => {
  const own = plan({
    dash: hold({ taps: 2, of: { use: "nav.up", result: true }, gapMs: 200 }),
    up: hold({ use: "nav.up", result: true, waits: true }),
  });
  const { plan: changed, faults } = applyOverrides(own, {
    reacherOverrides: 1,
    controls: { "dash.main": "KeyQ", "up.main": "KeyE" },
  });
  expect(faults).toEqual([]);
  expect(changed.actions["dash"]).toMatchObject({ from: { main: { taps: 2, of: "KeyQ", gapMs: 200 } } });
  expect(changed.actions["up"]).toMatchObject({ from: { main: { use: "KeyE", waits: true } } });
  expect(changed.actions["up"]).not.toHaveProperty("from.main.result");
});

test("a result that comes back without a press is not told as one", () => {
  const made = plan({ up: hold({ use: "nav.up", result: true }) });
  const reasons = explain(made, [
    { t: 0, mute: "nav", reason: "scene" },
    { t: 10, control: "KeyW", value: 1 },
    { t: 20, unmute: "nav", reason: "scene" },
    { t: 30, control: "KeyW", value: 0 },
    { t: 40, control: "KeyW", value: 1 },
    { t: 50, mute: "nav", reason: "scene" },
  ] as never);
  expect(reasons.filter(({ action }) => action === "up").map(({ at, rule }) => `${at} ${rule}`)).toEqual([
    "40 pressed",
    "50 muted",
  ]);
});
