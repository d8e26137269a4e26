/** Code made for a plan is held against the rules that it was made of: everything that a game reads, is told and keeps. */
import * as fc from "fast-check";
import { createInputLayer, type InputLayer, type Overrides, type Plan } from "reacher";
import { record, type Recorder } from "reacher/trace";
import { CALLS, callsNamedIn, type Call } from "../packages/reacher/src/built/calls";
import { anyCommands, anyPlan, anyPlay } from "../packages/reacher/tests/anyPlans";
import { events, SWITCHES } from "../packages/reacher/tests/randomEvents";
import { plans } from "../packages/reacher/tests/randomPlans";
import { runs } from "../packages/reacher/tests/runs";
import { builtPlanOf, bundledLibrary, shown, type Library } from "./support/made";

let library: Library;
beforeAll(() => void (library = bundledLibrary()));

const ALL = Object.keys(CALLS) as Call[];
const LEAN = ALL.filter((call) => !["whole", "rules", "later"].includes(CALLS[call]));
const GROWING = [...LEAN, "setOverrides", "bringKeys"] as const;
const OPENING = ALL.filter((call) => !["setPlan", "setOverrides", "bringKeys"].includes(call));
const FIXED_SEATS = OPENING.filter((call) => call !== "openSeats");
const SEATS = { seats: { amber: { slots: ["main", "pad"] }, teal: { slots: ["spare", "pad"] } } };

/** Other seats play. */
function openSome(input: InputLayer, n: number): void {
  const ways = [["amber", "teal"], ["amber"], ["teal", "amber"], ["teal"]];
  input.openSeats(ways[n % ways.length]!, { pads: n % 3 === 0 ? "ask" : "give" });
}

/** Calls that change or hear something, of which a game may make none. */
const CHANGING = [
  "drive",
  "mute",
  "unmute",
  "setFlag",
  "setNumber",
  "setSpot",
  "enter",
  "leave",
  "setSwitch",
  "take",
  "reset",
  "on",
  "held",
  "onPress",
] as const;

/** A layer of which these calls do nothing. */
const without = (input: InputLayer, left: readonly string[]): InputLayer =>
  new Proxy(input, {
    get: (of, name) => {
      if (left.includes(name as string)) return () => undefined;
      const value: unknown = Reflect.get(of, name);
      return typeof value === "function" ? (value.bind(of) as unknown) : value;
    },
  });

/** Makes layers of a plan's made code. */
function maker(given: Plan, calls?: readonly Call[]): () => InputLayer {
  const { text, plan } = builtPlanOf(library, given, { rebinding: false, ...(calls && { calls }) });
  // Every plan can be made; the code of two seats, or of a plan of everything, may be longer than the rules.
  if (!text.includes("these are shorter")) expect(text).toContain("madePlan(");
  return () => library.createInputLayer(plan);
}

/** What a game sees after each step. */
function seen(input: InputLayer, told: readonly string[], hears = true) {
  const { late, skipped } = input.counters;
  const actions = Object.keys(input.now);
  return {
    now: input.seats.map((name) => shown(input.seat(name) as never)),
    told: [...told],
    state: [...input.snapshot()].join(),
    asked: [
      late,
      skipped,
      input.lastDevice,
      input.modes,
      input.flags,
      input.mutes,
      actions.map((name) => input.live(name)),
      hears && input.held(),
    ],
    uses: ["KeyW", "PadSouth", "PadLeftStick", "MousePoint", "Thumb"].map((control) => input.uses(control)),
  };
}

function listen(input: InputLayer, hears = true, opens = false): string[] {
  const told: string[] = [];
  if (hears) input.onPress(({ t, control, pad }) => told.push(`${control} ${pad} ${t}`));
  for (const name of SWITCHES)
    for (const change of ["on", "off", "pulse", "grant"] as const)
      input.on(name, change, (t, by?: unknown) => {
        told.push(`${name} ${change} ${t} ${String(by)}`);
        // A callback that commands, as games do.
        if (change === "on" && told.length % 5 === 0) input.setSwitch("tuck", told.length % 2 === 0);
        if (change === "off" && told.length % 7 === 0) input.reset(t);
        if (opens && told.length % 9 === 0) openSome(input, told.length);
      });
  return told;
}

/** Controls that no random plan binds: they are held all the same, and a pad has its place by them. */
function feedUnbound(input: InputLayer, t: number, n: number): void {
  input.feed({ t, control: "KeyY", value: n % 3 === 0 ? 1 : 0 });
  input.feed({ t, control: "PadCenter", value: n % 4 === 0 ? 1 : 0, pad: n % 2 });
}

/** A snapshot, and who played then. */
const keep = (input: InputLayer) => ({ bytes: input.snapshot(), playing: playing(input).join() });
type Kept = ReturnType<typeof keep>;

const playing = (input: InputLayer) => input.seats.filter((name) => input.seat(name).slots.length > 0);

/** It is of the seats that played. */
function goBack(input: InputLayer, kept: Kept): void {
  if (playing(input).join() !== kept.playing) input.openSeats(kept.playing.split(","));
  input.restore(kept.bytes);
}

const play = fc.record({
  plan: plans,
  list: events,
  /** After which events it steps; where a snapshot is taken, and where it is put back. */
  steps: fc.array(fc.boolean(), { minLength: 1, maxLength: 8 }),
  kept: fc.nat({ max: 60 }),
  back: fc.nat({ max: 60 }),
  takes: fc.boolean(),
  left: fc.subarray([...CHANGING]),
});

test.each([
  ["the whole layer", undefined, {}],
  ["a lean layer", LEAN, {}],
  ["two seats", FIXED_SEATS, SEATS],
  ["seats that open and close", OPENING, SEATS],
] as const)(
  "made code plays as its rules do: %s",
  (_, calls, seats) => {
    fc.assert(
      fc.property(play, ({ plan: given, list, steps, kept, back, takes, left: chosen }) => {
        const plan = JSON.parse(JSON.stringify({ ...given, ...seats })) as Plan;
        const left = calls === LEAN ? chosen : [];
        const all = calls?.filter((call) => !left.includes(call as never));
        const layers = [createInputLayer(plan), maker(plan, all)()].map((input) => without(input, left));
        const told = layers.map((input) => listen(input, true, calls === OPENING));
        let copies: Kept[] = [];
        const both = () => layers.map((input, n) => seen(input, told[n]!));
        for (const [n, { t, tell }] of list.entries()) {
          for (const input of layers) {
            tell(input);
            feedUnbound(input, t, n);
          }
          if (calls === OPENING && n % 7 === back % 7) for (const input of layers) openSome(input, n + kept);
          if (n === kept) copies = layers.map(keep);
          // Each goes on from the other's snapshot: they are the same bytes.
          if (n === back && copies.length > 0) layers.forEach((input, at) => goBack(input, copies[1 - at]!));
          if (!steps[n % steps.length]) continue;
          for (const input of layers) input.step(t);
          if (takes) for (const name of SWITCHES) expect(layers[1]!.take(name)).toBe(layers[0]!.take(name));
          const [rules, made] = both();
          expect(made).toEqual(rules);
        }
        for (const input of layers) input.step(5000);
        const [rules, made] = both();
        expect(made).toEqual(rules);
      }),
      { ...runs(3), endOnFailure: true },
    );
  },
  600_000,
);

test.each([
  ["", ALL.filter((call) => !["setPlan", "bringKeys"].includes(call))],
  ["; of one whose keys come later", ["setOverrides", "bringKeys", "snapshot", "restore", ...CHANGING]],
])(
  "a recording of made code is that of its rules, from whenever it begins%s",
  async (_, named) => {
    const calls = [...named, ...callsNamedIn('import { record } from "reacher/trace";')];

    const begins = fc.nat({ max: 30 });
    const most = fc.constantFrom(20_000, 9);
    await fc.assert(
      fc.asyncProperty(
        play,
        begins,
        most,
        async ({ plan: given, list, steps, kept, back, takes }, first, most) => {
          const opens = takes && calls.includes("openSeats");
          const plan = JSON.parse(JSON.stringify({ ...given, ...(opens && SEATS) })) as Plan;
          const built = builtPlanOf(library, plan, { rebinding: calls.includes("bringKeys"), calls });
          const layers = [createInputLayer(plan), library.createInputLayer(built.plan)] as const;
          const recorders: Recorder[] = [];
          const styles = calls.includes("bringKeys") ? openIn(plan) : [];
          let copies: Kept[] = [];
          for (const [n, { t, tell }] of list.entries()) {
            if (n === first) recorders.push(record(layers[0], { most }), library.record(layers[1], { most }));
            for (const input of layers) tell(input);
            if (opens && n % 7 === back % 7) for (const input of layers) openSome(input, n + kept);
            if (n === kept) copies = layers.map(keep);
            if (n === kept + 2 && copies.length > 0)
              layers.forEach((input, at) => goBack(input, copies[at]!));
            if (n % 9 === first % 9 && styles.length > 0) {
              const [address, valueOf] = styles[n % styles.length]!;
              const overrides = { reacherOverrides: 1, settings: { [address]: valueOf(n) } } as const;
              for (const input of layers) input.setOverrides(overrides);
              copies = [];
            }
            if (n === back && calls.includes("bringKeys"))
              for (const input of layers) await input.bringKeys();
            if (!steps[n % steps.length] || n < first) continue;
            for (const input of layers) input.step(t);
            const [rules, made] = recorders.map((one) => [
              one.text(),
              one.text({ lastMs: 90 }),
              one.report("so"),
            ]);
            expect(made).toEqual(rules);
          }
        },
      ),
      { ...runs(4), endOnFailure: true },
    );
  },
  600_000,
);

test("a recorder says which call a game was built without", () => {
  const hop = { kind: "switch", from: { main: "Space" } };
  const { plan } = builtPlanOf(library, { reacherPlan: 1, actions: { hop } } as unknown as Plan, {
    calls: [],
  });
  expect(() => library.record(library.createInputLayer(plan))).toThrow("this game was built without watch");
});

/** What callbacks of any plan hear; each commands something, unless `acts` has done so after so many of them. */
function hearAny(input: InputLayer, plan: Plan, seed: number, acts = (_: number) => false): string[] {
  const heard: string[] = [];
  const commands = anyCommands(plan, seed, seed % 3 === 0 ? 30 : 0);
  for (const [name, { kind }] of Object.entries(plan.actions))
    for (const change of kind === "switch" ? (["on", "off", "pulse", "grant"] as const) : [])
      input.on(name, change, (t, by?: unknown) => {
        heard.push(`${name} ${change} ${t} ${String(by)}`);
        if (!acts(heard.length)) commands.shift()?.(input);
      });
  return heard;
}

test("made code plays as its rules do: plans of any shape", () => {
  const built = fc.constantFrom(LEAN, FIXED_SEATS, OPENING);
  fc.assert(
    fc.property(fc.nat({ max: 1e6 }), fc.nat({ max: 100 }), built, (seed, kept, calls) => {
      const plan = anyPlan(seed);
      const layers = [createInputLayer(plan), maker(plan, calls)()];
      const told = layers.map((input) => hearAny(input, plan, seed));
      let copies: Kept[] = [];
      for (const [n, { tell }] of anyPlay(plan, seed, 100).entries()) {
        for (const input of layers) tell(input);
        if (calls === OPENING && layers[0]!.seats.length > 1 && n % 13 === 5)
          for (const input of layers)
            input.openSeats(
              input.seats.filter((_, at) => at === n % input.seats.length || (seed >> at) % 2 === n % 2),
            );
        if (n === kept) copies = layers.map(keep);
        if (n === kept + 9) layers.forEach((input, at) => goBack(input, copies[1 - at]!));
        if (n % 6 > 0) continue;
        const [rules, made] = layers.map((input, n) => seen(input, told[n]!));
        expect(made).toEqual(rules);
      }
    }),
    { ...runs(12), endOnFailure: true },
  );
}, 600_000);

/** Other keys for some of a plan's entries, and a style. */
const overridesOf = (plan: Plan, [at, key, style]: readonly [number, string, string]): Overrides => {
  const places = Object.entries(plan.actions).flatMap(([name, { from = {} }]) =>
    Object.entries(from).flatMap(([slot, entry]) =>
      typeof entry === "object" && entry !== null && "up" in entry
        ? [`${name}.${slot}.up`]
        : `${name}.${slot}`,
    ),
  );
  const settings = { [`${SWITCHES[at % SWITCHES.length]!}.style`]: style };
  return { reacherOverrides: 1, controls: { [places[at % places.length]!]: key }, settings };
};

test.each([
  ["a whole layer", ALL],
  ["a lean layer", GROWING.filter((call) => CALLS[call] !== "hearing")],
  ["a lean layer that hears all controls", GROWING],
])(
  "players' keys come while a game plays on its made code, and nothing else is seen of it: %s",
  async (_, first) => {
    const changes = fc.tuple(
      fc.nat(),
      fc.constantFrom("KeyJ", "KeyK", "PadNorth"),
      fc.constantFrom("hold", "toggle"),
    );
    await fc.assert(
      fc.asyncProperty(
        play,
        changes,
        fc.boolean(),
        async ({ plan: given, list, steps, kept, back }, change, seated) => {
          const plan = JSON.parse(JSON.stringify({ ...given, ...(seated && SEATS) })) as Plan;
          // The first part of the game is a whole layer, or a lean one that becomes whole.
          const calls = first.filter((call) => call !== "setPlan");
          const opens = seated && calls.includes("openSeats");
          const built = builtPlanOf(library, plan, { calls });
          const layers = [createInputLayer(plan), library.createInputLayer(built.plan)] as const;
          const hears = first.includes("held");
          const told = layers.map((input) => listen(input, hears, opens));
          const hands = layers.map(({ now }) => now);
          const overrides = overridesOf(plan, change);
          let early: Kept[] = [];
          let copies: Kept[] = [];
          const mayWait = built.text.includes("madePlan(");
          for (const [n, { t, tell }] of list.entries()) {
            for (const input of layers) {
              tell(input);
              feedUnbound(input, t, n);
              if (opens && n % 7 === back % 7) openSome(input, n + kept);
            }
            // A rollback before the change-over drops what no step has handled, as one past it does.
            if (n === kept >> 1) early = layers.map(keep);
            if (n === (kept >> 1) + 2 && n < kept) layers.forEach((input, at) => goBack(input, early[at]!));
            if (n === kept) copies = layers.map(keep);
            if (n === Math.min(kept, list.length - 1)) {
              if (mayWait) {
                expect(() => layers[1].setOverrides(overrides)).toThrow("await input.bringKeys() before");
              }
              for (const input of layers) expect(input.setOverrides({ reacherOverrides: 1 })).toEqual([]);
              await Promise.all(layers.map((input) => input.bringKeys()));
            }
            // A rollback past the change-over, each from the other's bytes.
            if (n === kept + 3 && n < kept + back)
              layers.forEach((input, at) => goBack(input, copies[1 - at]!));
            if (n === kept + back)
              expect(layers[1].setOverrides(overrides)).toEqual(layers[0].setOverrides(overrides));
            if (!steps[n % steps.length]) continue;
            for (const input of layers) input.step(t);
            const [rules, made] = layers.map((input, n) => seen(input, told[n]!, hears));
            expect(made).toEqual(rules);
            if (n >= kept) expect(layers[1].held()).toEqual(layers[0].held());
          }
          // What a game has in hand stays what it reads.
          layers.forEach(({ now }, n) => expect(now).toBe(hands[n]));
          expect(shown(layers[1])).toBe(shown(layers[0]));
        },
      ),
      { ...runs(3), endOnFailure: true },
    );
  },
  600_000,
);

const FEEL = {
  gapMs: [100, 400],
  afterMs: [150, 500],
  tapMs: [100, 400],
  everyMs: [20, 200],
  "deadZone.inner": [0, 0.4],
  "deadZone.outer": [0, 0.3],
  gain: [0.3, 2],
  perPixel: [0.05, 0.4],
  perSecond: [60, 300],
  invert: true,
  style: ["hold", "toggle", "either"],
} as const;
const STYLES = [FEEL.style, ["hold", "toggle"], ["toggle", "either"]] as const;

/** Some styles, one of which the plan gives it. */
const stylesFor = ({ style = "hold" }: { readonly style?: string }, n: number) =>
  STYLES.find((all, at) => at >= n % 3 && (all as readonly string[]).includes(style)) ?? FEEL.style;

/** A plan whose every setting a player may change. */
function withFeel({ actions, ...plan }: Plan): Plan {
  const all = Object.entries(actions).map(([name, action], n) => [
    name,
    { ...action, player: { ...FEEL, style: stylesFor(action as object, n) } },
  ]);
  const player = { ...plan.player, bounceMs: [1, 60] };
  return { ...plan, player, actions: Object.fromEntries(all) } as unknown as Plan;
}

/** An option that goes not with every style. */
const isTied = (action: object) => /"anew":true/.test(JSON.stringify(action));

/** The settings that fit such a plan and stay open, each with its values by a share of 100. */
function openIn(plan: Plan): readonly (readonly [address: string, (share: number) => unknown])[] {
  const input = createInputLayer(plan);
  const fits = (address: string, value: unknown) =>
    input
      .setOverrides({ reacherOverrides: 1, settings: { [address]: value } })
      .every(({ what }) => what !== "rejected");
  const found = Object.entries(plan.actions).flatMap(([name, action]) =>
    Object.entries<(typeof FEEL)[keyof typeof FEEL] | readonly string[]>({
      ...FEEL,
      ...(action.player as object),
    }).flatMap(([field, range]) =>
      ["", "main.", "pad."].flatMap((slot) => {
        const valueOf = (share: number): unknown => {
          if (range === true) return ["none", "x", "y", "both"][share % 4];
          const [least, most] = range;
          return typeof least === "string"
            ? range[share % range.length]
            : least + (share / 100) * ((most as number) - least);
        };
        const address = `${name}.${slot}${field}`;
        return (field === "style" && isTied(action)) || !fits(address, valueOf(50))
          ? []
          : [[address, valueOf] as const];
      }),
    ),
  );
  if ((plan.bounceMs ?? 0) > 0 && plan.player?.bounceMs !== undefined)
    found.push(["bounceMs", (share) => Math.max(1, share - 40)]);
  const isToggled = found.some(([address]) => address.endsWith(".style"));
  return isToggled && fits("holds", "toggle") && !Object.values(plan.actions).some(isTied)
    ? [...found, ["holds", (share) => (share % 2 === 0 ? "toggle" : "hold")]]
    : found;
}

test("a player's settings change made code as they change its rules, and need nothing loaded", async () => {
  const kinds = [ALL, GROWING, GROWING.filter((call) => CALLS[call] !== "hearing")];
  const changes = fc.array(fc.array(fc.tuple(fc.nat(), fc.nat(110)), { maxLength: 6 }), { minLength: 1 });
  await fc.assert(
    fc.asyncProperty(
      fc.nat({ max: 1e6 }),
      fc.nat({ max: 100 }),
      fc.constantFrom(...kinds),
      changes,
      async (seed, kept, kind, chosen) => {
        const plan = withFeel(anyPlan(seed));
        const calls = kind.filter((call) => call !== "setPlan");
        const built = builtPlanOf(library, plan, { calls });
        const layers = [createInputLayer(plan), library.createInputLayer(built.plan)] as const;
        const open = openIn(plan);
        let copies: Kept[] = [];
        const set = (input: InputLayer, n: number) => {
          copies = [];
          const some = open.length > 0 ? chosen[n % chosen.length]! : [];
          const settings = some.map(([at, share]) => {
            const [address, valueOf] = open[at % open.length]!;
            return [address, valueOf(share)];
          });
          const overrides = { reacherOverrides: 1, settings: Object.fromEntries(settings) } as const;
          void input.bringKeys(overrides);
          return input
            .seat(input.seats[n % input.seats.length]!)
            .setOverrides(n % 7 === 3 ? null : overrides);
        };
        const told = layers.map((input) =>
          hearAny(input, plan, seed, (count) => count % 5 === 0 && (set(input, count), true)),
        );
        for (const [n, { tell }] of anyPlay(plan, seed, 100).entries()) {
          for (const input of layers) tell(input);
          if (n % 8 === kept % 8) expect(set(layers[1], n)).toEqual(set(layers[0], n));
          if (calls.includes("openSeats") && layers[0].seats.length > 1 && n % 13 === 5)
            for (const input of layers) input.openSeats(input.seats.filter((_, at) => (n + at) % 3 > 0));
          if (n === kept) copies = layers.map(keep);
          if (n === kept + 2 && copies.length > 0)
            layers.forEach((input, at) => goBack(input, copies[1 - at]!));
          if (n === kept + 20 && kept % 2 === 0) await Promise.all(layers.map((input) => input.bringKeys()));
          if (n % 3 > 0) continue;
          const [rules, made] = layers.map((input, n) => seen(input, told[n]!, calls.includes("held")));
          expect(made).toEqual(rules);
        }
      },
    ),
    { ...runs(6), endOnFailure: true },
  );
}, 600_000);

test("what does not fit among settings is told without the rules, and what needs them says so", async () => {
  const kick = { kind: "switch", from: { main: "Space" }, player: { style: ["hold", "toggle", "either"] } };
  const hop = { kind: "switch", anew: true, from: { main: "KeyH" } };
  const look = {
    kind: "turn",
    from: { main: { use: "MouseMove", perPixel: 0.1 } },
    player: { gain: [0.5, 2], invert: true },
  };
  const plan = { reacherPlan: 1, name: "reef", actions: { kick, hop, look } } as unknown as Plan;
  const { plan: built, text } = builtPlanOf(library, plan, { calls: ["setOverrides", "bringKeys", "on"] });
  expect(text).toContain("madePlan(");
  const layers = [createInputLayer(plan), library.createInputLayer(built)];
  const given: readonly Omit<Overrides, "reacherOverrides">[] = [
    { settings: { "look.gain": 9, "look.main.gain": "much", "look.invert": "z", "kick.style": 7 } },
    { settings: { "kick.style": "toggle", holds: "no" } },
    { plan: "kelp", settings: { "look.gain": 1 } },
    { settings: {} },
  ];
  for (const one of given) {
    const overrides = { reacherOverrides: 1, ...one } as const;
    const [rules, made] = layers.map((input) => input.setOverrides(overrides));
    expect(made).toEqual(rules);
  }
  const needy: readonly Omit<Overrides, "reacherOverrides">[] = [
    { controls: { "kick.main": "KeyJ" } },
    { settings: { "hop.style": "toggle" } },
    { settings: { "kick.styel": "hold" } },
    { settings: { swapSticks: true } },
  ];
  const [, made] = layers;
  for (const one of needy)
    expect(() => made!.setOverrides({ reacherOverrides: 1, ...one })).toThrow("await input.bringKeys()");
  expect(() => made!.setOverrides({ settings: {} } as never)).toThrow("reacherOverrides is missing");
  const toggled = { reacherOverrides: 1, settings: { "kick.style": "toggle" } } as const;
  for (const input of layers) {
    await input.bringKeys(toggled);
    input.setOverrides(toggled);
    input.feed({ t: 1, control: "Space", value: 1 });
    input.feed({ t: 2, control: "Space", value: 0 });
    input.step(3);
    expect((input.now["kick"] as unknown as { on: boolean }).on).toBe(true);
  }
  // Nothing was loaded for that; then it is, and goes on with the player's settings.
  expect(() => made!.setOverrides({ reacherOverrides: 1, ...needy[0] })).toThrow("bringKeys");
  await made!.bringKeys({ reacherOverrides: 1, ...needy[0] });
  made!.step(4);
  expect((made!.now["kick"] as unknown as { on: boolean }).on).toBe(true);
  expect(made!.setOverrides({ reacherOverrides: 1, ...needy[0] })).toEqual([]);
});

test("a switch of any style has code, whatever styles a player may choose, and they stay open", () => {
  const all = ["hold", "toggle", "either"];
  for (const style of all)
    for (const allowed of [["hold", "toggle"], ["toggle", "either"], all]) {
      if (!allowed.includes(style)) continue;
      const kick = { kind: "switch", style, from: { main: "Space" }, player: { style: allowed } };
      const plan = { reacherPlan: 1, actions: { kick } } as unknown as Plan;
      const { text } = builtPlanOf(library, plan, { calls: ["setOverrides", "bringKeys", "on"] });
      expect([style, allowed, text]).toEqual([style, allowed, expect.stringContaining("madePlan(")]);
      expect(text).toMatch(/settings\(.*kick\.style/s);
    }
});

test("a recording begins with what a player's toggle is, and follows another style", () => {
  const kick = { kind: "switch", from: { main: "Space" } };
  const plan = { reacherPlan: 1, actions: { kick } } as unknown as Plan;
  const calls = ["setOverrides", "bringKeys", ...callsNamedIn('import { record } from "reacher/trace";')];
  const { plan: built, text } = builtPlanOf(library, plan, { calls });
  expect(text).toContain("settings(");
  const [rules, made] = [createInputLayer(plan), library.createInputLayer(built)];
  const told = [rules, made].map((input) => {
    let t = 1;
    const style = (style: string) =>
      input.setOverrides({ reacherOverrides: 1, settings: { "kick.style": style } });
    const press = () => {
      for (const value of [1, 0]) input.feed({ t: t++, control: "Space", value });
      input.step(t++);
    };
    style("toggle");
    press();
    const recorder = input === rules ? record(input, { most: 9 }) : library.record(input, { most: 9 });
    const texts = [recorder.text()];
    for (const one of ["hold", "toggle"]) {
      style(one);
      for (let n = 0; n < 5; n++) press();
      texts.push(recorder.text(), recorder.text({ lastMs: 4 }));
    }
    return texts;
  });
  expect(told[1]).toEqual(told[0]);
  expect(told[1]![0]).toContain('"setSwitch":"kick"');
});

test("keys that were held before players' keys came are held after, and a game of two has two seats whatever it calls", async () => {
  const swim = { kind: "axis", from: { main: { minus: "KeyA", plus: "KeyD" }, pad: "PadLeftStickX" } };
  const plan = { reacherPlan: 1, actions: { swim } } as unknown as Plan;
  const { plan: built } = builtPlanOf(library, plan, { calls: ["setOverrides", "bringKeys", "on"] });
  const input = library.createInputLayer(built);
  const unheld = { control: "KeyJ", value: 1, t: 1 };
  for (const event of [unheld, { ...unheld, control: "PadSouth", pad: 2 }]) input.feed(event);
  input.step(2);
  // A game shows what to press before anybody changes keys.
  expect(library.prompt(input, "swim").text).toBe("A D");
  expect(() => input.held()).toThrow(
    "held comes with players' keys in this game; await input.bringKeys() first",
  );
  const explain = () => library.explainLayer(input as never, () => {});
  expect(explain).toThrow("tells no reasons: await input.bringKeys() first");
  await input.bringKeys();
  explain();
  expect(input.held()).toEqual([
    { control: "KeyJ", pad: 0, value: 1 },
    { control: "PadSouth", pad: 2, value: 1 },
  ]);
  const { swim: reading } = input.now;
  // A game that is built ahead reads no plans, of a draft neither.
  const draft = library.editOverrides(input.plan, undefined, { draft: true });
  expect(draft.rebind("swim.main.plus", "KeyJ").changed).toBe(true);
  input.setOverrides(draft.overrides);
  // What is down already waits for a new press, as everywhere.
  const values = [1, 0, 1].map((value, n) => {
    input.feed({ control: "KeyJ", value, t: 10 + n });
    input.step(10 + n);
    return (reading as unknown as { value: number }).value;
  });
  expect(values).toEqual([0, 0, 1]);

  const seats = { amber: { slots: ["main"] }, teal: { slots: ["pad"] } };
  const two = library.createInputLayer(
    builtPlanOf(library, { ...plan, seats } as Plan, { calls: ["on"] }).plan,
  );
  expect([two.seats, two.seat("teal").slots]).toEqual([["amber", "teal"], ["pad"]]);
});

test("a snapshot of what this game was built without plays on, or is refused and changes nothing", () => {
  const plan = {
    reacherPlan: 1,
    flags: { wet: false },
    modes: { dive: {} },
    actions: {
      hop: { kind: "switch", from: { main: "Space" }, needs: "not wet" },
      swim: { kind: "vector", from: { pad: "PadLeftStick" }, in: ["dive"] },
    },
  } as unknown as Plan;
  const step = (input: InputLayer, t: number) => (input.step(t), input.snapshot());
  const [rules, made] = [createInputLayer(plan), maker(plan, ["snapshot", "restore", "setFlag"])()];
  made.restore(rules.snapshot());
  for (const input of [rules, made]) input.setFlag("wet", true);
  expect(step(made, 5)).toEqual(step(rules, 5));
  const before = rules.snapshot();
  rules.leave("dive");
  // What the code still looks at goes on as it does there, though this game cannot bring it about.
  made.restore(step(rules, 10));
  for (const input of [rules, made]) input.feed({ t: 12, control: "Space", value: 1 });
  expect([step(made, 15), shown(made)]).toEqual([step(rules, 15), shown(rules)]);
  const kept = made.snapshot();
  const brought: ((input: InputLayer) => void)[] = [
    (input) => input.mute("hop", "scene"),
    (input) => input.drive("swim", { x: 1, y: 0 }, "current"),
  ];
  for (const bring of brought) {
    rules.restore(before);
    bring(rules);
    expect(() => made.restore(step(rules, 10))).toThrow("built without; build both with the same calls");
    expect(made.snapshot()).toEqual(kept);
  }
});

test("a second pad is lost in a game that binds none", () => {
  // A key of two directions: these have presses of their own, which no device has.
  const wasd = { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" };
  const swim = { kind: "vector", from: { main: wasd, spare: { left: "KeyW" } } };
  const dash = { kind: "switch", from: { main: { taps: 2, of: "swim.each" } } };
  const plan = { reacherPlan: 1, actions: { swim, dash } } as unknown as Plan;
  const layers = [createInputLayer(plan), maker(plan, ["snapshot", "restore"])()];
  const states = layers.map((input) => {
    for (const pad of [1, 0]) input.feed({ t: 1, control: "PadSouth", value: 1, pad });
    input.feed({ t: 2, control: "KeyS", value: 1 });
    input.step(3);
    input.lose("pad", 0, 4);
    input.step(5);
    return input.snapshot();
  });
  expect(states[1]).toEqual(states[0]);
});

test("the same plan gives the same code, which says what of the plan and of the sources it is", () => {
  const hop = { kind: "switch", from: { main: { taps: 2, of: "Space" }, pad: "PadSouth" } };
  const plan = { reacherPlan: 1, actions: { hop, leap: hop } } as unknown as Plan;
  const text = () => builtPlanOf(library, plan, { calls: ["on"] }).text;
  expect(text()).toBe(text());
  expect(text()).toMatch(
    /^\/\/ hop taps 2 Space, leap taps 2 Space: engine\/gestures\/pressRow\.ts\nfunction PressRow_\w+\$\d+\(k0/m,
  );
});
