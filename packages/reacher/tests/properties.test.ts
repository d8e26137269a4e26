/** What must hold for every plan and every input. */
import * as fc from "fast-check";
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import { parseTrace, record, replay } from "reacher/trace";
import { WASD } from "./plans";
import { drive, events, SWITCHES, type Event } from "./randomEvents";
import { AXES, KEYS, OWN, plans } from "./randomPlans";
import { runs } from "./runs";

/** The game drives nothing any more. */
function letGo(input: InputLayer, t?: number): void {
  for (const action of [...SWITCHES, "swim", "depth"])
    for (const reason of ["current", "cutscene", "helper"]) drive(input, [action, null], reason, { t });
  for (const spot of ["figure", "pointer"]) input.setSpot(spot, 0, 0, t);
}

/** Step times: regular, uneven, or one at the end. */
const stepping = fc.oneof(
  fc
    .constantFrom(1, 20, 60, 144, 1000)
    .map((hz) => Array.from({ length: 1.3 * hz + 1 }, (_, n) => (n * 1000) / hz)),
  fc
    .array(
      fc.integer({ min: 1, max: 130_000 }).map((n) => n / 100),
      { maxLength: 80 },
    )
    .map((times) => times.sort((a, b) => a - b)),
  fc.constant([]),
);

/** What a game calls without a moment, between its steps or within a callback. */
const calls = fc.constantFrom<((input: InputLayer) => void)[]>(
  (input) => input.setFlag("hasAir", true),
  (input) => input.setFlag("hasAir", false),
  (input) => input.setNumber("fast", 9),
  (input) => input.setSwitch("tuck", true),
  (input) => input.setSwitch("grab", false),
  (input) => drive(input, ["kick", true], "helper"),
  (input) => drive(input, ["kick", null], "helper"),
  (input) => drive(input, ["swim", { x: 0.5, y: 0 }], "helper", { how: "alone" }),
  (input) => drive(input, ["swim", [-0.4, 0.8]], "current", { how: "add", blendMs: 120 }),
  (input) => drive(input, ["depth", 0.7], "helper", { how: "alone", blendMs: 45 }),
  (input) => drive(input, ["swim", null], "helper", { blendMs: 80 }),
  (input) => input.mute("swim", "reel"),
  (input) => input.mute("kick", "cut"),
  (input) => input.unmute("kick"),
  (input) => input.lose("focus"),
  (input) => input.lose("pad", 1),
  (input) => input.reset(),
  (input) => input.plan.modes !== undefined && input.enter("menu"),
  (input) => input.plan.modes !== undefined && input.leave("menu"),
  (input) => void input.setOverrides({ reacherOverrides: 1, controls: { "swim.main.up": "KeyZ" } }),
  (input) => void input.setOverrides(null),
);

/** Calls within callbacks, each by the switch and the change that brings it. */
const within = fc.array(
  fc.tuple(fc.constantFrom(...SWITCHES), fc.constantFrom("on", "off", "pulse"), calls),
  { maxLength: 2 },
);
type Within = readonly (readonly [string, string, (input: InputLayer) => void])[];

/** Lets callbacks call; not for ever, since what one brings may bring another. Returns what ends it. */
function callWithin(input: InputLayer, list: Within): () => void {
  let left = 20;
  for (const [name, change, call] of list) input.on(name, change as "on", () => left-- > 0 && call(input));
  return () => (left = 0);
}

/** All changes at their moments, and the whole reading at the end. */
function changes(
  plan: Plan,
  list: readonly { t: number; tell: Event }[],
  steps: readonly number[],
  calling: Within = [],
) {
  const input = createInputLayer(plan);
  const seen: string[] = [];
  input.watch({
    changed: (t, action) => seen.push(`${t} ${action} ${JSON.stringify(input.now[action], without)}`),
  });
  for (const name of SWITCHES) input.on(name, "pulse", (t) => seen.push(`${t} ${name} pulse`));
  callWithin(input, calling);
  // The first step is the start: toggles that start on turn on there.
  input.step(0);
  let next = 0;
  for (const t of [...steps, 1300]) {
    while (next < list.length && list[next]!.t <= t) list[next++]!.tell(input);
    input.step(t);
  }
  // A turn tells how far it came in the step; the sum of that is tested on its own.
  return { seen, end: JSON.stringify({ ...input.now, look: null }) };
}

/** `onMs` of a switch is 0 at its own change, and the time since in all others. */
function without(key: string, value: unknown): unknown {
  return key === "onMs" ? undefined : value;
}

test("the same events give the same changes at the same moments, however the game steps", () => {
  fc.assert(
    fc.property(plans, events, stepping, stepping, within, (plan, list, one, other, calling) => {
      expect(changes(plan, list, one, calling)).toEqual(changes(plan, list, other, calling));
    }),
    runs(80),
  );
});

test("an equal plan set at any moment changes nothing; with any other nothing sticks, and it can be set back", () => {
  const shown = (input: InputLayer) => JSON.stringify(input.now);
  fc.assert(
    fc.property(plans, plans, events, fc.nat({ max: 60 }), within, (plan, other, list, at, calling) => {
      const run = (use: (input: InputLayer) => void) => {
        const input = createInputLayer(plan);
        callWithin(input, calling);
        input.step(0);
        return list.map((event, n) => {
          if (n === at) use(input);
          event.tell(input);
          input.step(event.t);
          return shown(input);
        });
      };
      expect(run((input) => input.setPlan(structuredClone(plan)))).toEqual(run(() => {}));

      const input: InputLayer = createInputLayer(plan);
      const endCalls = callWithin(input, calling);
      input.step(0);
      list.forEach((event, n) => {
        if (n === at) input.setPlan(other);
        // A plan without modes knows of none.
        event.tell(input);
        if (n % 2 === 0) input.step(event.t);
      });
      const t = 1300;
      for (const { control, pad } of input.held()) input.feed({ t, control, value: 0, pad });
      for (const name of ["swim", "kick", "tuck", "surge", "grab"]) input.unmute(name);
      endCalls();
      letGo(input, t);
      input.step(t);
      input.step(t + 1000);
      const { swim, depth } = input.now as never as Record<string, { length: number }>;
      expect([swim!.length, depth!.length]).toEqual([0, 0]);
      for (const name of SWITCHES) {
        const { style } = input.plan.actions[name] as { style: string };
        if (style === "hold") expect([name, (input.now[name] as { on: boolean }).on]).toEqual([name, false]);
      }
      expect(input.held()).toEqual([]);
      input.setPlan(plan);
      expect(Object.keys(input.now)).toEqual(Object.keys(plan.actions));
    }),
    runs(60),
  );
});

test("with all released, unmuted and modes at the start: holds are off, axes and vectors zero, and nothing waits", () => {
  fc.assert(
    fc.property(plans, events, (plan, list) => {
      const input = createInputLayer(plan);
      for (const { tell } of list) tell(input);
      input.step(1100);
      for (const control of KEYS) input.feed({ t: 1200, control, value: 0 });
      for (const control of AXES) for (const pad of [0, 1]) input.feed({ t: 1200, control, value: 0, pad });
      for (const control of OWN) input.feed({ t: 1200, control, value: 0 });
      for (const action of ["swim", "kick", "surge"]) input.unmute(action, undefined, 1200);
      letGo(input, 1200);
      if (input.plan.modes !== undefined) {
        input.leave("menu", 1200);
        input.enter("dive", 1200);
      }
      const now = input.step(1600);
      expect([now["swim"], now["depth"]]).toMatchObject([
        { x: 0, y: 0, length: 0, gait: null, device: null },
        { value: 0 },
      ]);
      for (const name of SWITCHES) {
        expect(now[name]).toMatchObject({ progress: 0 });
        if ((plan.actions[name] as { style?: string }).style === "hold")
          expect(now[name]).toMatchObject({ on: false });
      }
      const later: string[] = [];
      input.watch({ changed: (_, action) => later.push(action) });
      input.step(5000);
      expect(later).toEqual([]);
    }),
    runs(80),
  );
});

test("whatever keys a player takes, and when, alone or within a callback: with all released nothing sticks", () => {
  const address = fc.constantFrom(
    ...["up", "left", "right"].map((end) => `swim.main.${end}`),
    "swim.spare.up",
    "depth.main.minus",
    ...SWITCHES.flatMap((name) => [`${name}.main`, `${name}.main.1`]),
  );
  const control = fc.constantFrom("KeyZ", "KeyE", "Space", "KeyW", null);
  const keys = fc
    .dictionary(address, control, { maxKeys: 4 })
    .map((controls) => ({ reacherOverrides: 1, controls }) as const);
  fc.assert(
    fc.property(
      plans,
      events,
      fc.array(fc.tuple(fc.integer({ min: 0, max: 20 }), keys), { maxLength: 6 }),
      fc.option(fc.tuple(fc.constantFrom(...SWITCHES), fc.constantFrom("on", "off", "pulse"), keys)),
      within,
      (plan, list, changing, called, calling) => {
        const input = createInputLayer(plan);
        let left = 20;
        if (called !== null)
          input.on(called[0], called[1] as "on", () => void (left-- > 0 && input.setOverrides(called[2])));
        const endCalls = callWithin(input, calling);
        input.step(0);
        let next = 0;
        for (let n = 0; n <= 22; n++) {
          while (next < list.length && list[next]!.t <= n * 50) list[next++]!.tell(input);
          input.step(n * 50);
          for (const [at, own] of changing) if (at === n) input.setOverrides(own);
        }
        for (const control of [...KEYS, "KeyZ"]) input.feed({ t: 1200, control, value: 0 });
        for (const control of AXES) for (const pad of [0, 1]) input.feed({ t: 1200, control, value: 0, pad });
        for (const control of OWN) input.feed({ t: 1200, control, value: 0 });
        for (const control of OWN) input.feed({ t: 1200, control, value: 0 });
        endCalls();
        letGo(input, 1200);
        const now = input.step(1600);
        expect(input.held()).toEqual([]);
        for (const name of SWITCHES) {
          expect(now[name]).toMatchObject({ progress: 0 });
          if ((plan.actions[name] as { style?: string }).style === "hold")
            expect(now[name]).toMatchObject({ on: false });
        }
        expect(now["swim"]).toMatchObject({ length: 0, device: null });
      },
    ),
    runs(60),
  );
});

test("no press fires two entries of which one takes or claims it", () => {
  const rivals = fc.constantFrom(
    { kick: { use: "KeyE", waits: true }, surge: { taps: 2, of: "KeyE", gapMs: 100 } },
    { kick: { use: "KeyE", waits: true }, surge: { long: "KeyE", afterMs: 100 } },
    { kick: { use: "KeyE", waits: true }, surge: { series: ["KeyE", "KeyQ", "KeyE"], gapMs: 100 } },
    { kick: { short: "KeyE" }, surge: { long: "KeyE", afterMs: 100 } },
    { kick: "KeyE", surge: { all: ["KeyQ", "KeyE"] } },
  );
  const keys = fc.array(
    fc.record({ wait: fc.integer({ min: 1, max: 60 }), key: fc.constantFrom("KeyE", "KeyE", "KeyQ") }),
    {
      maxLength: 40,
    },
  );
  fc.assert(
    fc.property(rivals, keys, (entries, list) => {
      const actions = Object.fromEntries(
        Object.entries(entries).map(([name, main]) => [name, { kind: "switch", from: { main } }]),
      );
      const input = createInputLayer({ reacherPlan: 1, actions } as unknown as Plan);
      let presses = 0;
      let fired = 0;
      let claimed = 0;
      const down = new Set<string>();
      input.on("kick" as never, "on", () => fired++);
      // Each firing of the rival has used up at least one press of E, or, as a chord, may have been completed by Q.
      input.on(
        "surge" as never,
        "on",
        () =>
          (claimed +=
            JSON.stringify(entries).includes('"taps"') || JSON.stringify(entries).includes('"series"')
              ? 2
              : 1),
      );
      let t = 0;
      for (const { wait, key } of list) {
        t += wait;
        const value = down.delete(key) ? 0 : 1;
        if (value === 1) down.add(key);
        if (value === 1 && (key === "KeyE" || "all" in Object(entries.surge))) presses++;
        input.feed({ t, control: key, value });
      }
      input.step(t + 1000);
      expect(fired + claimed).toBeLessThanOrEqual(presses);
    }),
    runs(100),
  );
});

test("snapshot, run on, restore, run again gives the same", () => {
  fc.assert(
    fc.property(plans, events, fc.integer({ min: 0, max: 1000 }), (plan, list, at) => {
      const input = createInputLayer(plan);
      // Which pad stands where is the layer's to know, and no part of a snapshot: both are seen before it.
      for (const pad of [0, 1]) input.feed({ t: 0, control: "PadLeftStickX", value: 0, pad });
      const tellBetween = (from: number, to: number) => {
        for (const { t, tell } of list) if (t > from && t <= to) tell(input);
      };
      tellBetween(-1, at);
      input.step(at);
      const kept = input.snapshot();
      const runs = [0, 1].map(() => {
        input.restore(kept);
        const seen: string[] = [];
        const end = input.watch({
          changed: (t, action) => seen.push(`${t} ${action} ${JSON.stringify(input.now[action])}`),
        });
        tellBetween(at, 1000);
        for (let t = at; t < 1300; t += 37) input.step(t);
        end();
        return { seen, bytes: [...input.snapshot()] };
      });
      expect(runs[1]).toEqual(runs[0]);
    }),
    runs(60),
  );
});

test("a step with nothing new does the same counted work with 1000 actions as with 10", () => {
  const plan = (size: number) =>
    ({
      reacherPlan: 1,
      actions: Object.fromEntries(
        Array.from({ length: size }, (_, n) => [
          `action${n}`,
          { kind: "switch", from: { main: KEYS[n % KEYS.length]! } },
        ]),
      ),
    }) as unknown as Plan;
  const work = (size: number) => {
    const input = createInputLayer(plan(size)) as unknown as InputLayer & {
      hub: { scheduler: { work: Int32Array } };
    };
    input.feed({ t: 1, control: "KeyW", value: 1 });
    input.step(2);
    const before = input.hub.scheduler.work[0]!;
    for (let t = 3; t < 1000; t++) input.step(t);
    return input.hub.scheduler.work[0]! - before;
  };
  expect([work(10), work(1000)]).toEqual([0, 0]);
});

test("overrides that change no control and no number, put on and taken off while playing, change nothing", () => {
  const same = { reacherOverrides: 1, controls: { "swim.main.up": WASD.up } } as const;
  fc.assert(
    fc.property(
      plans,
      events,
      fc.array(fc.integer({ min: 0, max: 25 }), { maxLength: 6 }),
      (plan, list, at) => {
        const run = (changing: boolean) => {
          const input = createInputLayer(plan);
          const seen: string[] = [];
          for (const name of SWITCHES)
            for (const change of ["on", "off", "pulse"] as const)
              input.on(name, change, (t) => seen.push(`${t} ${name} ${change}`));
          input.step(0);
          let next = 0;
          for (let n = 0; n <= 26; n++) {
            while (next < list.length && list[next]!.t <= n * 50) list[next++]!.tell(input);
            input.step(n * 50);
            seen.push(JSON.stringify(input.now));
            if (changing && at.includes(n)) input.setOverrides(n % 2 === 0 ? { ...same } : null);
          }
          return seen;
        };
        expect(run(true)).toEqual(run(false));
      },
    ),
    runs(50),
  );
});

test("a layer that is watched does the same, to the last bit, as one that is not", () => {
  fc.assert(
    fc.property(plans, events, fc.integer({ min: 10, max: 90 }), (plan, list, stepMs) => {
      const run = (watched: boolean) => {
        const input = createInputLayer(plan);
        if (watched) input.watch({ event() {}, changed() {}, settled() {} });
        const seen: string[] = [];
        input.step(0);
        let next = 0;
        for (let t = stepMs; t <= 1300; t += stepMs) {
          while (next < list.length && list[next]!.t <= t) list[next++]!.tell(input);
          input.step(t);
          seen.push(`${t} ${Buffer.from(input.snapshot()).toString("hex")} ${JSON.stringify(input.now)}`);
        }
        return seen;
      };
      expect(run(true)).toEqual(run(false));
    }),
    runs(80),
  );
});

test("an event that the plan does not bind parts no others, and nor does a listener for any press", () => {
  const plan = {
    reacherPlan: 1,
    actions: {
      swim: { kind: "vector", from: { main: "PadLeftStick" } },
      depth: { kind: "axis", from: { main: { minus: "PadLeftTrigger", plus: "PadRightTrigger" } } },
      surge: { kind: "switch", from: { main: { taps: 2, of: "swim.each" } } },
      look: {
        kind: "turn",
        from: { main: { use: "MouseMove", perPixel: 0.1 }, pad: { use: "PadRightStick", perSecond: 90 } },
      },
    },
  } as unknown as Plan;
  const bound = [
    ...["PadLeftStickX", "PadLeftStickY", "PadRightStickX", "PadLeftTrigger", "PadRightTrigger"],
    ...["MouseMoveX", "MouseMoveY"],
  ];
  const moments = fc.constantFrom(20, 20, 25, 12_000);
  const fed = fc.array(
    fc.record({ t: moments, control: fc.constantFrom(...bound), value: fc.constantFrom(0, 0.6, 1, -1) }),
    { maxLength: 12 },
  );
  const unbound = fc.array(fc.constantFrom("", "KeyY", "PadSouth", "PadCenter"), {
    minLength: 1,
    maxLength: 4,
  });
  fc.assert(
    fc.property(fed, unbound, fc.boolean(), (list, others, hears) => {
      const [alone, among] = [createInputLayer(plan), createInputLayer(plan)];
      if (hears) among.onPress(() => undefined);
      list.sort((a, b) => a.t - b.t);
      for (const [n, event] of list.entries()) {
        alone.feed(event);
        among.feed(event);
        const control = others[n % others.length]!;
        if (control !== "") among.feed({ t: event.t, control, value: (n + 1) % 2 });
      }
      for (const t of [100, 20_000]) for (const input of [alone, among]) input.step(t);
      expect([...among.snapshot()]).toEqual([...alone.snapshot()]);
    }),
    runs(100),
  );
});

test("a recording of any play, late events and calls without a moment included, replays to the same changes", () => {
  fc.assert(
    fc.property(
      plans,
      events,
      fc.array(fc.tuple(fc.integer({ min: 0, max: 30 }), calls), { maxLength: 12 }),
      within,
      fc.constantFrom(5, 16, 50, 333),
      (plan, list, between, calling, stepMs) => {
        const input = createInputLayer(plan);
        const recorder = record(input);
        const seen: string[] = [];
        for (const name of SWITCHES)
          for (const change of ["on", "off", "pulse"] as const)
            input.on(name, change, (t) => seen.push(`${t} ${name} ${change}`));
        callWithin(input, calling);
        input.feed({ t: 0, control: "KeyW", value: 0 });
        input.step(0);
        let next = 0;
        for (let n = 1; n * stepMs < 1400; n++) {
          // Fed a step late now and then.
          const until = n % 3 === 0 ? (n - 1) * stepMs : n * stepMs;
          while (next < list.length && list[next]!.t <= until) list[next++]!.tell(input);
          input.step(n * stepMs);
          for (const [at, call] of between) if (at === n) call(input);
        }
        input.step(1400);
        const { entries } = parseTrace(recorder.text({ now: 1400 }));
        const rows = replay(plan, entries).flatMap((row) =>
          "on" in row
            ? [`${row.at} ${row.action} ${row.on ? "on" : "off"}`]
            : "pulse" in row
              ? [`${row.at} ${row.action} pulse`]
              : [],
        );
        expect(rows).toEqual(seen);
      },
    ),
    runs(80),
  );
});

test("a recording of two players, with a shared key, pads that come and go, and who plays, replays to the same changes", () => {
  const both = (main: string, spare: string, shared: string, pad: string) => ({ main, spare, shared, pad });
  const plan = {
    reacherPlan: 1,
    modes: { dive: {}, menu: {} },
    flags: { hasAir: true },
    controls: { Lamp: { kind: "button", device: "touch" } },
    slots: { main: {}, spare: {}, shared: {}, pad: { device: "pad" }, touch: { device: "touch" } },
    seats: {
      amber: { slots: ["main", "shared", "pad", "touch"] },
      teal: { slots: ["spare", "shared", "pad", "touch"] },
    },
    actions: {
      kick: { kind: "switch", style: "toggle", in: ["dive"], from: both("KeyQ", "KeyP", "KeyB", "PadSouth") },
      tuck: { kind: "switch", needs: "hasAir", from: both("KeyA", "KeyL", "KeyN", "PadEast") },
      pick: { kind: "switch", in: ["menu"], from: both("KeyZ", "KeyM", "KeyB", "PadWest") },
      wave: { kind: "switch", style: "toggle", from: { touch: "Lamp" } },
    },
  } as unknown as Plan;
  const KEYS = ["KeyQ", "KeyP", "KeyB", "KeyA", "KeyL", "KeyN", "KeyZ", "KeyM"];
  const t = fc.integer({ min: 1, max: 12 }).map((n) => n * 10);
  const seat = fc.constantFrom("amber", "teal");
  type Doing = {
    readonly t: number;
    readonly call: (input: InputLayer, t?: number) => void;
    readonly now: boolean;
    /** Before all that is done at the same time. */
    readonly first: boolean;
  };
  const doing = (call: fc.Arbitrary<Doing["call"]>, now: fc.Arbitrary<boolean>, first = false) =>
    fc.record({ t, call, now, first: fc.constant(first) });
  const key = fc.tuple(fc.constantFrom(...KEYS), fc.constantFrom(0, 1)).map(
    ([control, value]): Doing["call"] =>
      (input, at) =>
        input.feed({ t: at ?? 0, control, value }),
  );
  const button = fc
    .tuple(fc.constantFrom("PadSouth", "PadEast", "PadWest"), fc.constantFrom(0, 1), fc.constantFrom(0, 1, 2))
    .map(
      ([control, value, pad]): Doing["call"] =>
        (input, at) =>
          input.feed({ t: at ?? 0, control, value, pad }),
    );
  const told = fc
    .tuple(seat, fc.constantFrom("enter", "leave", "air", "noAir", "mute", "unmute", "reset"))
    .map(([name, what]): Doing["call"] => (input, at) => {
      const one = input.seat(name);
      if (what === "enter" || what === "leave") one[what]("menu", at);
      else if (what === "reset") one.reset(at);
      else if (what === "mute" || what === "unmute") one[what as "mute"]("kick", "reel", at);
      else one.setFlag("hasAir", what === "air", at);
    });
  const losses = fc
    .tuple(fc.constantFrom("focus", "pad"), fc.constantFrom(0, 1, 2))
    .map(([what, pad]): Doing["call"] => (input, at) => {
      if (what === "focus") input.lose("focus", at);
      else input.lose("pad", pad, at);
    });
  const handsOver = fc.tuple(seat, fc.constantFrom(0, 1, 2, null)).map(
    ([name, pad]): Doing["call"] =>
      (input) =>
        input.assignPad(name, pad),
  );
  const touch = fc.tuple(fc.option(seat), fc.constantFrom(0, 1)).map(
    ([name, value]): Doing["call"] =>
      (input, at) =>
        (name === null ? input : input.seat(name)).feed({ t: at ?? 0, control: "Lamp", value }),
  );
  const seats = fc
    .tuple(
      fc.subarray(["amber", "teal"], { minLength: 1 }),
      fc.option(fc.constantFrom("ask", "give"), { nil: undefined }),
      fc.option(fc.constantFrom(0, 1, 2), { nil: undefined }),
    )
    .map(([names, pads, pad]): Doing["call"] => (input) => {
      // A pad goes to a seat that begins to play.
      const joins = names.some((name) => !input.open.includes(name));
      input.openSeats(names, { ...(pads && { pads }), ...(joins && pad !== undefined && { pad }) } as object);
    });
  const keys = seat.map(
    (name): Doing["call"] =>
      (input) =>
        void input.seat(name).setOverrides({ reacherOverrides: 1, controls: { "tuck.shared": "KeyB" } }),
  );
  const yes = fc.constant(true);
  const no = fc.constant(false);
  const all = fc.array(
    fc.oneof(
      { weight: 6, arbitrary: doing(key, no) },
      { weight: 3, arbitrary: doing(button, no) },
      { weight: 2, arbitrary: doing(touch, no) },
      { weight: 3, arbitrary: doing(told, fc.boolean()) },
      { weight: 1, arbitrary: doing(losses, fc.boolean()) },
      // A pad that changes hands is told at once, and what waits at that moment only later.
      { weight: 1, arbitrary: doing(handsOver, yes, true) },
      { weight: 1, arbitrary: doing(seats, yes) },
      { weight: 1, arbitrary: doing(keys, yes) },
    ),
    { maxLength: 40 },
  );
  fc.assert(
    fc.property(all, (list) => {
      const input = createInputLayer(plan);
      const recorder = record(input);
      const seen: string[] = [];
      for (const name of input.seats)
        for (const action of ["kick", "tuck", "pick", "wave"])
          for (const change of ["on", "off"] as const)
            input.seat(name).on(action, change, (at) => seen.push(`${at} ${name} ${action} ${change}`));
      input.feed({ t: 0, control: "KeyB", value: 0 });
      input.step(0);
      for (let now = 20; now <= 140; now += 20) {
        for (const one of list) if (!one.now && one.t > now - 20 && one.t <= now) one.call(input, one.t);
        input.step(now);
        const calls = list.filter((one) => one.now && one.t > now - 20 && one.t <= now);
        for (const one of calls.sort((a, b) => Number(b.first) - Number(a.first))) one.call(input);
      }
      input.step(200);
      const { entries } = parseTrace(recorder.text({ now: 200 }));
      const rows = replay(plan, entries).map((row) =>
        "on" in row ? `${row.at} ${row.seat} ${row.action} ${row.on ? "on" : "off"}` : "",
      );
      // Seats are carried on one after the other, within steps that are not the same.
      expect(rows.sort()).toEqual(seen.sort());
    }),
    runs(100),
  );
});

test("what is live and which modes are on is told before the first step as after it", () => {
  fc.assert(
    fc.property(plans, (plan) => {
      const input: InputLayer = createInputLayer(plan);
      const told = () => [input.modes, Object.keys(plan.actions).map((name) => input.live(name))];
      const before = told();
      input.step(0);
      expect(before).toEqual(told());
    }),
    runs(60),
  );
});
