/** What the game works itself, and what goes by the speed of a movement, at exact boundaries. */
import * as fc from "fast-check";
import { createInputLayer, ReacherError, type InputLayer, type Plan } from "reacher";
import { explain, parseTrace, record, replay } from "reacher/trace";
import { play } from "reacher/testing";
import { swimPlan, WASD } from "./plans";
import { runs } from "./runs";
import { changes } from "./scripts";

const sw = (main: unknown, more: object = {}) => ({ kind: "switch", from: { main }, ...more });

describe("a driven switch is one more key of style hold", () => {
  const modes = { modes: { dive: {}, menu: { covers: "all" } } };
  test.each([
    // What it is with keys: a second one, whichever came first.
    [{}, "*hop 50 #hop", "hop on 0, hop off 50"],
    [{}, "*hop 10 +Space 10 #hop 10 -Space", "hop on 0, hop off 30"],
    [{}, "+Space 10 *hop 10 -Space 10 #hop", "hop on 0, hop off 30"],
    [{ cooldownMs: 500 }, "*hop 10 +Space 10 #hop 10 -Space", "hop on 0, hop off 30"],
    // No mute silences it, and no lost focus ends it; hands are silent all the while.
    [{}, "!hop 10 *hop 10 +Space 10 #hop 10 ~hop 10 -Space", "hop on 10, hop off 30"],
    [{}, "+Space 10 !hop 10 *hop 10 ~hop 10 #hop 10 -Space", "hop on 0, hop off 10, hop on 20, hop off 50"],
    [{}, "*hop 10 blur 10 #hop", "hop on 0, hop off 20"],
    // A mode that covers it does, as of a key: held on it comes back, pressed meanwhile it does not.
    [{ in: ["dive"] }, "*hop 10 >menu 10 <menu 10 #hop", "hop on 0, hop off 10, hop on 20, hop off 30"],
    [{ in: ["dive"], comesBack: false }, "*hop 10 >menu 10 <menu 10 #hop", "hop on 0, hop off 10"],
    [{ in: ["dive"] }, ">menu 10 *hop 10 <menu 10 #hop 10 *hop", "hop on 40"],
    [{ in: ["dive"], carry: true }, ">menu 10 *hop 10 <menu 10 #hop", "hop on 20, hop off 30"],
    // It begins as by a press.
    [{ beginsIf: "wet" }, "*hop 10 ^wet 10 #hop 10 *hop 10 _wet 10 #hop", "hop on 30, hop off 50"],
    [{ cooldownMs: 100 }, "*hop 10 #hop 90 *hop 10 #hop 1 *hop", "hop on 0, hop off 10, hop on 111"],
    [{ needs: "wet" }, "*hop 10 ^wet 10 _wet 10 ^wet", "hop on 10, hop off 20, hop on 30"],
    [
      { needs: "wet", resume: false },
      "^wet *hop 10 _wet 10 ^wet 10 #hop *hop",
      "hop on 0, hop off 10, hop on 30",
    ],
    [
      { repeat: { everyMs: 30 } },
      "*hop 65 #hop 50",
      "hop on 0, hop pulse 0, hop pulse 30, hop pulse 60, hop off 65",
    ],
    [
      { beginsIf: "wet", bufferMs: 100 },
      "*hop 10 #hop 90 ^wet ?hop 10 _wet *hop 101 ^wet",
      "hop on 100, hop grant 100, hop off 100, take true 100",
    ],
    [{ beginsIf: "wet", bufferMs: 100 }, "*hop blur 90 ^wet 10 #hop", "hop on 90, hop grant 90, hop off 100"],
    // A press meanwhile changes its latch unseen.
    [{ style: "toggle" }, "*hop 10 +Space -Space 10 #hop 10 +Space -Space", "hop on 0, hop off 30"],
    [{ style: "toggle" }, "+Space -Space 10 *hop 10 +Space -Space 10 #hop", "hop on 0, hop off 30"],
    [{ style: "toggle" }, "*hop 10 +Space -Space 10 +Space -Space 10 #hop", "hop on 0, hop off 30"],
    // What the game sets turns a hold off until it is driven anew; of a toggle it is the latch alone.
    [{}, "*hop 10 /hop 10 *hop 10 #hop *hop", "hop on 0, hop off 10, hop on 30"],
    [{ style: "toggle" }, "*hop 10 =hop 10 #hop 10 /hop", "hop on 0, hop off 30"],
  ])("%j, %s gives: %s", (more, script, told) => {
    expect(changes({ hop: sw("Space", more) }, script, { ...modes, flags: { wet: false } })).toBe(told);
  });

  test("of those with one oneOf it beats the others, and is beaten until it is driven anew", () => {
    const actions = { run: sw("KeyR", { oneOf: "gait" }), creep: sw("KeyC", { oneOf: "gait" }) };
    expect(changes(actions, "+KeyR 10 *creep 10 #creep 10 *creep 10 -KeyR +KeyR 10 *creep")).toBe(
      "run on 0, run off 10, creep on 10, creep off 20, creep on 30, run on 40, creep off 40",
    );
  });

  test("it ends as released, tells no key and no device, goes with a reset, and stands in snapshots", () => {
    const input: InputLayer = createInputLayer({ reacherPlan: 1, actions: { hop: sw("Space") } } as never);
    const ended: unknown[] = [];
    input.on("hop" as never, "off", (t, by) => ended.push([t, by]));
    const hop = () => input.now["hop"] as unknown as { on: boolean; by: string | null };
    input.drive("hop" as never, true as never, "helper", 10);
    input.step(20);
    expect([hop().on, hop().by, input.lastDevice]).toEqual([true, null, null]);
    const kept = input.snapshot();
    input.drive("hop" as never, false as never, "helper");
    input.step(30);
    input.restore(kept);
    input.step(40);
    expect(hop().on).toBe(true);
    input.reset();
    input.step(50);
    expect(ended).toEqual([
      [20, "released"],
      [40, "reset"],
    ]);
    input.step(60);
    expect(hop().on).toBe(false);
  });
});

describe("a driven axis or vector is one more source", () => {
  const layer = (more: object = {}) => {
    const input = createInputLayer(swimPlan({ ...more }));
    const hands = play(input);
    const at = () => {
      const { x, y, facing } = hands.step().now.swim;
      return [x, y, facing.x, facing.y].map((n) => Math.round(n * 1e3) / 1e3 + 0);
    };
    return { input, hands, at };
  };

  test("the longest wins, cut to 1, untouched by shape, directions and mutes; the facing follows", () => {
    const { input, hands, at } = layer({ directions: 4, shape: { deadZone: { inner: 0.3 } } });
    input.drive("swim", { x: 0.2, y: 0 }, "current");
    expect(at()).toEqual([0.2, 0, 0, -1]);
    input.drive("swim", [0.3, 0.4], "current");
    expect(at()).toEqual([0.3, 0.4, 0.6, 0.8]);
    hands.press("KeyS").wait(100);
    expect(at()).toEqual([0, -1, 0, -1]);
    input.mute("swim", "reel");
    expect(at()).toEqual([0.3, 0.4, 0.6, 0.8]);
    input.drive("swim", { x: 3, y: 4 }, "current");
    expect(at()).toEqual([0.6, 0.8, 0.6, 0.8]);
    input.drive("swim", null, "current");
    expect(at()).toEqual([0, 0, 0.6, 0.8]);
  });

  test("the newest reason counts and keeps its place; alone, devices do not, but their gestures go on", () => {
    const { input, hands, at } = layer({ ease: { riseMs: 100, fallMs: 100 } });
    input.drive("swim", { x: 0.9, y: 0 }, "current");
    input.drive("swim", { x: 0, y: 0.5 }, "cutscene", { how: "alone" });
    input.drive("swim", { x: 1, y: 0 }, "current");
    hands.press("KeyS").wait(500);
    expect(at().slice(0, 2)).toEqual([0, 0.5]);
    input.drive("swim", { x: 0, y: 0 }, "cutscene", { how: "alone" });
    expect(at().slice(0, 2)).toEqual([0, 0]);
    // The ramp has run on: of hands and game at the same length the hands count.
    input.drive("swim", null, "cutscene");
    expect(at().slice(0, 2)).toEqual([0, -1]);
    hands.release("KeyS").wait(20);
    expect(at().slice(0, 2)).toEqual([1, 0]);
    input.drive("swim", null, "current");
    expect(at().slice(0, 2)).toEqual([0, -0.8]);
  });

  test("with sum it is added; in the reading's sense of y", () => {
    const { input, hands, at } = layer({ combine: "sum" });
    input.drive("swim", { x: 0.5, y: 0 }, "current");
    hands.tilt("PadLeftStick", -0.62, 0);
    const [x] = at();
    expect(x).toBeCloseTo(0.5 - 0.5 / 0.84, 3);
    const down = createInputLayer({ ...swimPlan({}), yAxis: "down" });
    down.drive("swim", { x: 0, y: 1 }, "current");
    const { y, angle } = down.step(10).swim;
    expect([y, angle]).toEqual([1, -Math.PI / 2]);
  });

  const driveEvents = fc.array(
    fc.record({
      t: fc.nat(1000),
      reason: fc.constantFrom("cutscene", "current", "autorun", "wind"),
      value: fc.constantFrom(null, [0, 0], [0.3, -0.2], [-0.9, 0.4], [0.97, 0], [0, -0.85]),
      how: fc.constantFrom("longest", "add", "alone", undefined),
      blendMs: fc.constantFrom(0, 1, 100, 400),
    }),
    { maxLength: 12 },
  );
  const handEvents = fc.array(
    fc.record({
      t: fc.nat(1000),
      tell: fc.constantFrom<((input: InputLayer, t: number) => void)[]>(
        ...["KeyW", "KeyA", "KeyS", "KeyD"].flatMap((control) =>
          [1, 0].map((value) => (input: InputLayer, t: number) => input.feed({ t, control, value })),
        ),
        (input, t) => input.feed({ t, control: "PadLeftStickX", value: -0.7 }),
        (input, t) => input.feed({ t, control: "PadLeftStickX", value: 0 }),
        (input, t) => input.mute("swim", "reel", t),
        (input, t) => input.unmute("swim", "reel", t),
        (input, t) => input.lose("focus", t),
      ),
    }),
    { maxLength: 12 },
  );
  const kinds = fc.record({
    ease: fc.constantFrom(undefined, { riseMs: 90, fallMs: 60 }, { riseMs: 200, fallMs: 0, turn: "through" }),
    combine: fc.constantFrom("longest", "sum"),
    diagonal: fc.constantFrom("round", "square"),
    directions: fc.constantFrom("free", 4),
  });

  test("whatever drives it, what comes out is what a twin's hands and the drives give, and what fades", () => {
    type Drive = { reason: string; how: string; x: number; y: number };
    type Pair = readonly [number, number];
    const cut = ([x, y]: Pair): Pair => {
      const length = Math.hypot(x, y);
      return length > 1 ? [x / length, y / length] : [x, y];
    };
    fc.assert(
      fc.property(kinds, driveEvents, handEvents, (more, drives, hands) => {
        const usual = more.combine === "sum" ? "add" : "longest";
        const [input, twin] = [more, more].map(
          (one) => createInputLayer(swimPlan(one as object)) as InputLayer,
        );
        const on: Drive[] = [];
        let fade = { note: [0, 0] as Pair, since: 0, ms: 0 };
        const combined = (): Pair => {
          const { x, y, length } = twin!.now["swim"] as unknown as { x: number; y: number; length: number };
          const alone = on.filter(({ how }) => how === "alone").at(-1);
          const longest = on.filter(({ how }) => how === "longest").at(-1);
          let out: Pair = [x, y];
          if (alone !== undefined) out = [alone.x, alone.y];
          else if (longest !== undefined && Math.hypot(longest.x, longest.y) > length + 1e-12)
            out = [longest.x, longest.y];
          const adds = on.filter(({ how }) => how === "add");
          for (const one of adds) out = [out[0] + one.x, out[1] + one.y];
          return adds.length > 0 ? cut(out) : out;
        };
        const outAt = (t: number): Pair => {
          const [x, y] = combined();
          const left = fade.ms === 0 ? 0 : 1 - (t - fade.since) / fade.ms;
          return left > 0 ? cut([x + fade.note[0] * left, y + fade.note[1] * left]) : [x, y];
        };
        const apply = ({
          t,
          reason,
          value,
          how = usual,
          blendMs,
        }: (typeof drives extends (infer E)[] ? E : never) & {}) => {
          const at = on.findIndex((one) => one.reason === reason);
          if (value === null && at < 0) return;
          const before = outAt(t);
          const isSame = value !== null && at >= 0 && on[at]!.how === how;
          if (value === null) on.splice(at, 1);
          else {
            const [x, y] = cut(value as unknown as Pair);
            on[at < 0 ? on.length : at] = { reason, how, x, y };
          }
          if (isSame || blendMs === 0) return;
          const [x, y] = combined();
          fade = { note: [before[0] - x, before[1] - y], since: t, ms: blendMs };
        };
        const all: { t: number; drive?: (typeof drives)[number]; hand?: (typeof hands)[number] }[] = [
          ...drives.map((drive) => ({ t: drive.t, drive })),
          ...hands.map((hand) => ({ t: hand.t, hand })),
          ...Array.from({ length: 45 }, (_, n) => ({ t: n * 31.7 })),
        ].sort((a, b) => a.t - b.t);
        // Asserted once, at the end: an assertion for each of a million readings takes longer than the play.
        let off = 0;
        let handsMatch = true;
        for (const event of all) {
          const { t } = event;
          event.hand?.tell(input!, t);
          event.hand?.tell(twin!, t);
          twin!.step(t);
          if (event.drive !== undefined) {
            const { value, reason, how, blendMs } = event.drive;
            apply(event.drive as never);
            input!.drive("swim" as never, value as never, reason, { t, how: how as "add", blendMs });
          }
          const swim = input!.step(t)["swim"] as unknown as {
            x: number;
            y: number;
            hands: { x: number; y: number };
          };
          const [x, y] = outAt(t);
          off = Math.max(off, Math.abs(swim.x - x), Math.abs(swim.y - y));
          const own = twin!.now["swim"] as unknown as { x: number; y: number };
          handsMatch &&= Object.is(swim.hands.x, own.x) && Object.is(swim.hands.y, own.y);
        }
        expect(off).toBeLessThan(5e-10);
        expect(handsMatch).toBe(true);
      }),
      runs(150),
    );
  });

  test("a cutscene takes over and gives back without a jump; gait and length follow the fade, facing and words do not", () => {
    const plan = {
      reacherPlan: 1,
      actions: {
        swim: { kind: "vector", from: { main: WASD }, gaits: { drift: 0.1, race: 0.75 }, faces: "up" },
        kick: sw("KeyK", { needs: "swim" }),
      },
    } as unknown as Plan;
    const input: InputLayer = createInputLayer(plan);
    const told: string[] = [];
    const hands = play(input).press("KeyW", "KeyK").wait(100);
    const drive = (value: unknown, blendMs: number) =>
      input.drive("swim" as never, value as never, "cutscene", { t: hands.t, how: "alone", blendMs });
    const now = () => {
      const { y, gait, facing } = hands.step().now["swim"] as unknown as Record<string, never>;
      return [
        Math.round((y as number) * 1e6) / 1e6,
        gait,
        (facing as { y: number }).y,
        (hands.now["kick"] as unknown as { on: boolean }).on,
      ];
    };
    input.on("kick" as never, "off", (t) => told.push(`off ${t}`));
    drive([0, 0], 400);
    expect(now()).toEqual([1, "race", 1, false]);
    // At 0.75 - 0.04 it leaves the gait: 1 - t / 400 = 0.71.
    hands.wait(115.999);
    expect(now()[1]).toBe("race");
    hands.wait(0.001);
    expect(now()).toEqual([0.71, "drift", 1, false]);
    hands.wait(284);
    expect(now()).toEqual([0, null, 1, false]);
    drive(null, 100);
    // Back in the hands at once for words, without a jump for the figure.
    expect(now()).toEqual([0, null, 1, true]);
    hands.wait(75);
    expect(now()).toEqual([0.75, "race", 1, true]);
    expect(told).toEqual(["off 100"]);
  });

  test("ways that do not fit say so", () => {
    const { actions } = swimPlan({});
    const input: InputLayer = createInputLayer({
      reacherPlan: 1,
      actions: { ...actions, kick: sw("KeyK") },
    } as unknown as Plan);
    const said = (options: object, action = "swim") => {
      try {
        input.drive(action as never, (action === "swim" ? [0, 1] : true) as never, "a", options);
        return "";
      } catch (error) {
        return (error as ReacherError).message;
      }
    };
    expect(said({ how: "aloen" })).toBe('how is "aloen"; it is "longest", "add" or "alone"');
    expect(said({ blendMs: -1 })).toBe("blendMs is -1; it is a time in ms, from 0 to 60000");
    expect(said({ alone: true })).toBe('alone is no option of drive; did you mean { how: "alone" }?');
    expect(said({ how: "add" }, "kick")).toContain("kick is a switch");
    const line = (more: string) => () =>
      parseTrace(`{"reacherTrace":1}\n{"t":1,"drive":"swim","value":[0,1],"reason":"a"${more}}`);
    expect(line(',"how":"add","blendMs":40')().entries).toMatchObject([{ how: "add", blendMs: 40 }]);
    expect(line(',"alone":true')).toThrow(
      'line 2: "alone" is no field beside drive; did you mean "how": "alone"?',
    );
    expect(line(',"how":"all"')).toThrow('line 2: how is "all"; it is "longest", "add" or "alone"');
  });

  test("what cannot be driven says so", () => {
    const plan = {
      reacherPlan: 1,
      actions: {
        swim: { kind: "vector", from: { main: WASD } },
        depth: { kind: "axis", from: { main: { minus: "KeyQ", plus: "KeyE" } } },
        hop: sw("Space"),
        look: { kind: "turn", from: { main: { use: "MouseMove", perPixel: 1 } } },
      },
    } as unknown as Plan;
    const input: InputLayer = createInputLayer(plan);
    const said = (action: string, value: unknown, reason = "a") => {
      try {
        input.drive(action as never, value as never, reason);
        return "";
      } catch (error) {
        expect(error).toBeInstanceOf(ReacherError);
        return (error as Error).message;
      }
    };
    expect(said("swmi", { x: 1, y: 0 })).toBe('the plan has no action "swmi"; it has swim, depth, hop, look');
    expect(said("look", { x: 1, y: 0 })).toContain("look is a turn");
    expect(said("swim", NaN)).toBe("NaN does not drive swim; give { x, y } from -1 to 1, or null");
    expect(said("swim", { x: NaN, y: 0 })).toContain("does not drive swim");
    expect(said("swim", true)).toBe("true does not drive swim; give { x, y } from -1 to 1, or null");
    expect(said("depth", Infinity)).toContain("give a number from -1 to 1, or null");
    expect(said("hop", 1)).toBe("1 does not drive hop; give true or false");
    for (const reason of ["a", "b", "c", "d", "a"]) expect(said("depth", 1, reason)).toBe("");
    expect(said("depth", 1, "e")).toBe(
      "4 reasons drive depth already; let one of them go, or use its name again",
    );
    input.step(0);
    expect(said("depth", 1, "e")).toContain("4 reasons drive depth already");
    expect([said("depth", null, "b"), said("depth", 1, "e")]).toEqual(["", ""]);
    input.step(10);
    expect((input.now["depth"] as unknown as { value: number }).value).toBe(1);
  });
});

test("a recording holds what the game drove, and why tells of it", () => {
  const plan = {
    reacherPlan: 1,
    actions: {
      swim: { kind: "vector", from: { main: WASD } },
      hop: sw("Space", { beginsIf: "wet" }),
    },
    flags: { wet: true },
  } as unknown as Plan;
  const input: InputLayer = createInputLayer(plan);
  const recorder = record(input);
  const drive = (action: string, value: unknown, options?: object | number) =>
    input.drive(action as never, value as never, "cutscene", options);
  input.step(0);
  drive("swim", [0, 1], { t: 100, how: "alone" });
  input.feed({ t: 150, control: "KeyA", value: 1 });
  drive("hop", true, 200);
  input.step(300);
  drive("hop", null);
  input.setFlag("wet", false);
  drive("swim", null);
  drive("hop", true, 400);
  input.step(500);
  const text = recorder.text();
  expect(text).toContain('{"t":0,"drive":"swim","value":[0,1],"reason":"cutscene","how":"alone"}');
  expect(text).toContain('"drive":"hop","value":null,"reason":"cutscene","after":true');
  const { entries } = parseTrace(text);
  expect(replay(plan, entries).filter(({ at }) => at === 100 || at === 200)).toMatchObject([
    { action: "hop", on: true, at: 100 },
    { action: "hop", on: false, at: 200 },
    { action: "swim", x: -1, at: 200 },
  ]);
  expect(explain(plan, entries).map(({ at, outcome, text: why }) => `${at} ${outcome} ${why}`)).toEqual([
    "100 on driven: cutscene",
    "200 off no longer driven: cutscene",
    "300 nothing begins only if wet",
  ]);
});

describe("a movement that lingers", () => {
  const walk = { kind: "vector", from: { main: WASD, pad: "PadLeftStick" }, lingerMs: 80 };
  const run = sw("KeyR", { style: "toggle", needs: "walk" });
  const start = "+KeyD +KeyR -KeyR 10 ";
  test.each([
    ["-KeyD 80 +KeyA 50", "run on 0"],
    ["-KeyD 80.5 +KeyA 50", "run on 0, run off 90"],
    ["-KeyD 50 +KeyA 10 -KeyA 80 +KeyA 5", "run on 0"],
    ["blur 5 +KeyD", "run on 0, run off 10"],
    ["-KeyD 5 blur 5", "run on 0, run off 15"],
    ["!walk 5 ~walk", "run on 0, run off 10"],
    ["-KeyD 5 !walk 5", "run on 0, run off 15"],
    ["-KeyD 5 >menu 5 <menu", "run on 0, run off 15"],
    ["*walk -KeyD 200 #walk 80.5", "run on 0, run off 290"],
  ])("%s gives: %s", (script, told) => {
    const more = { modes: { field: {}, menu: { covers: "all" } } };
    const actions = { walk: { ...walk, in: ["field"] }, run };
    const scripted = script.replace("*walk", "°").replace("#walk", "²");
    if (scripted === script) expect(changes(actions, start + script, more)).toBe(told);
    else {
      const input = createInputLayer({ reacherPlan: 1, actions, ...more } as unknown as Plan);
      const seen: string[] = [];
      for (const change of ["on", "off"] as const)
        input.on("run" as never, change, (t) => seen.push(`run ${change} ${t}`));
      const hands = play(input).press("KeyD", "KeyR").release("KeyR").wait(10);
      input.drive("walk" as never, [0, 1] as never, "cut", hands.t);
      hands.release("KeyD").wait(200);
      input.drive("walk" as never, null, "cut", hands.t);
      hands.wait(80.5).step();
      expect(seen.join(", ")).toBe(told);
    }
  });

  test("a plan in which it does not linger ends it; a flag's lingering goes on", () => {
    const flags = { wet: { start: true, lingerMs: 100 } };
    const plan = { reacherPlan: 1, flags, actions: { walk, run, dip: sw("KeyX", { needs: "wet" }) } };
    const input: InputLayer = createInputLayer(plan as unknown as Plan);
    const on = (name: string) => (input.now[name] as unknown as { on: boolean }).on;
    play(input).press("KeyD", "KeyR", "KeyX").release("KeyR").wait(10).release("KeyD").step();
    input.setFlag("wet", false);
    input.step(20);
    expect([on("run"), on("dip")]).toEqual([true, true]);
    input.setPlan({
      ...plan,
      flags: { wet: true },
      actions: { ...plan.actions, walk: { ...walk, lingerMs: 0 } },
    } as unknown as Plan);
    input.step(109.5);
    expect([on("run"), on("dip")]).toEqual([false, true]);
    input.step(110);
    expect(on("dip")).toBe(false);
  });
});

describe("gaits by speed", () => {
  const gaits = { creep: 1, walk: 120, run: 374 };
  const plan = (more: object, pace: object) =>
    ({
      reacherPlan: 1,
      numbers: { slow: 150, fast: 600 },
      actions: {
        walk: {
          kind: "axis",
          ends: ["left", "right"],
          from: { main: { left: "KeyA", right: "KeyD" }, pad: "PadLeftStickX" },
          gaits,
          gaitsBy: "speed",
          pace: { base: "slow", rules: [{ when: "sprint", set: "fast" }], ...pace },
          ...more,
        },
        sprint: sw("ShiftLeft"),
      },
    }) as unknown as Plan;

  /** The gait after each change, with its moment. */
  function told(given: Plan, script: (hands: ReturnType<typeof play>, input: InputLayer) => unknown): string {
    const input: InputLayer = createInputLayer(given);
    const seen: string[] = [];
    let before: string | null = null;
    input.watch({
      changed: (t, action) => {
        const { gait } = input.now[action] as unknown as { gait: string | null };
        if (action === "walk" && gait !== before) seen.push(`${gait} ${Math.round(t * 1e4) / 1e4}`);
        if (action === "walk") before = gait;
      },
    });
    script(play(input), input);
    return seen.join(", ");
  }

  test("a key that walks at 150 walks, and sprints where the sprint makes it 600", () => {
    expect(
      told(plan({}, {}), (hands) =>
        hands
          .press("KeyD")
          .wait(10)
          .press("ShiftLeft")
          .wait(10)
          .release("ShiftLeft")
          .wait(10)
          .release("KeyD")
          .step(),
      ),
    ).toBe("walk 0, run 10, walk 20, null 30");
  });

  test("while the pace is eased it changes at the exact moment, and on the way down below its margin", () => {
    // From 150 to 600 in 450 ms, one a ms: 374 after 224. Down: 374 less 4 % is 359.04.
    const eased = plan({}, { easeMs: 450 });
    expect(
      told(eased, (hands) =>
        hands.press("KeyD").wait(10).press("ShiftLeft").wait(1000).release("ShiftLeft").wait(1000).step(),
      ),
    ).toBe("walk 0, run 234, walk 1250.96");
    // A stick at half its way, and a number that the game changes.
    expect(
      told(eased, (hands, input) => {
        hands.tilt("PadLeftStick", 0.54, 0).wait(10);
        input.setNumber("slow", 600, 10);
        return hands.wait(1000).step();
      }),
    ).toBe("creep 0, walk 100");
  });

  test("an axis whose ease and pace both ramp has the exact moment, whatever the step rate", () => {
    // (t / 300) (150 + t) comes to 374 where t t + 150 t = 112,200.
    const both = plan({ ease: { riseMs: 300, fallMs: 300 } }, { easeMs: 450 });
    const at = (limit: number) => Math.round(((-150 + Math.sqrt(150 ** 2 + 1200 * limit)) / 2) * 1e4) / 1e4;
    expect(told(both, (hands) => hands.press("KeyD", "ShiftLeft").wait(1000).step())).toBe(
      `creep ${at(1)}, walk ${at(120)}, run ${at(374)}`,
    );
  });

  test("of a vector both ramps are looked at at every whole ms", () => {
    const { walk } = plan({}, {}).actions as unknown as Record<string, object>;
    const actions = {
      walk: {
        ...walk,
        ends: undefined,
        kind: "vector",
        from: { main: WASD },
        ease: { riseMs: 300, fallMs: 300 },
        pace: { base: 150, easeMs: 450, rules: [{ when: "sprint", set: 600 }] },
      },
      sprint: sw("ShiftLeft"),
    };
    const moved = JSON.parse(JSON.stringify({ reacherPlan: 1, actions })) as Plan;
    expect(told(moved, (hands) => hands.press("KeyD", "ShiftLeft").wait(1000).step())).toBe(
      "creep 2, walk 130, run 269",
    );
  });

  test("another plan's bands count at once, and keep their margin where they stay", () => {
    const input: InputLayer = createInputLayer(plan({}, {}));
    const gait = () => (input.now["walk"] as unknown as { gait: string | null }).gait;
    const hands = play(input).press("KeyD").step();
    expect(gait()).toBe("walk");
    input.setPlan(plan({ gaits: { stroll: 100, ...gaits } }, { base: 118 }));
    hands.wait(1).step();
    expect(gait()).toBe("walk");
    input.setPlan(plan({ gaits: { march: 100, run: 110 } }, { base: 118 }));
    hands.wait(1).step();
    expect(gait()).toBe("run");
  });
});
