/** What broke at the edges: bindings that change, seats that call each other, rounding, presses that undo themselves. */
import type * as Reacher from "reacher";
import { createInputLayer, type InputLayer, type Overrides, type Plan } from "reacher";
import { changes } from "./scripts";
import { WASD } from "./plans";

const layerOf = (actions: object, more: object = {}): InputLayer =>
  createInputLayer({ reacherPlan: 1, actions, ...more } as unknown as Plan);
const keys = (controls: Record<string, unknown>): Overrides => ({ reacherOverrides: 1, controls });
const sw = (main: unknown, more: object = {}) => ({ kind: "switch", from: { main }, ...more });
const press = (input: InputLayer, t: number, control: string, value = 1, pad = 0) =>
  input.feed({ t, control, value, pad });

describe("bindings that change", () => {
  const look = { kind: "turn", from: { pad: { use: "PadRightStick", perSecond: 100 } } };
  const walk = {
    kind: "vector",
    from: { keys: WASD, pad: "PadLeftStick" },
    shape: { deadZone: { outer: 0 } },
  };

  test("a stick that a seat no longer reads is at rest, and one that it reads now has the device's value", () => {
    const input = layerOf({ look, walk });
    press(input, 1, "PadRightStickX");
    input.step(100);
    input.setOverrides({ reacherOverrides: 1, settings: { swapSticks: true } });
    const { look: turn, walk: move } = input.step(200) as never as Record<string, { dx: number; x: number }>;
    expect([turn!.dx, move!.x]).toEqual([0, 1]);
    input.setOverrides(keys({ "walk.pad": null, "look.pad": null }));
    const later = input.step(300) as never as Record<string, { dx: number; x: number }>;
    expect([later["look"]!.dx, later["walk"]!.x]).toEqual([0, 0]);
    input.setOverrides(null);
    expect((input.step(400) as never as Record<string, { dx: number }>)["look"]!.dx).toBeCloseTo(10);
    input.setPlan({
      reacherPlan: 1,
      actions: { look: { ...look, from: { pad: { use: "MouseMove", perPixel: 1 } } } },
    } as never);
    expect((input.step(500) as never as Record<string, { dx: number }>)["look"]!.dx).toBe(0);
  });

  // Another action's key changes, then that of the gesture itself, while its last press is held.
  test.each<[string, unknown, string[]]>([
    ["taps", { taps: 2, of: "KeyJ" }, ["KeyJ", "KeyJ"]],
    ["taps with a press of their own", { taps: 2, of: "KeyJ", with: "KeyH" }, ["+KeyH", "KeyJ", "KeyJ"]],
    ["a series", { series: ["KeyJ", "KeyH"] }, ["KeyJ", "KeyH"]],
    ["a chord", { all: ["KeyJ", "KeyH"] }, ["+KeyH", "KeyJ"]],
    ["a long press", { long: "KeyJ", afterMs: 30 }, ["KeyJ"]],
  ])(
    "a gesture that is held stays on while other keys change, and ends with its own: %s",
    (_, entry, keys_) => {
      for (const isOwn of [false, true]) {
        const input = layerOf({ dash: sw(entry), kick: sw("KeyK") });
        const seen: string[] = [];
        input.on("dash", "on", (t) => seen.push(`on ${t}`));
        input.on("dash", "off", (t, by) => seen.push(`off ${t} ${by}`));
        let t = 0;
        const last = keys_.at(-1)!;
        for (const [n, key] of keys_.entries()) {
          press(input, (t += 10), key.replace("+", ""));
          if (n < keys_.length - 1 && !key.startsWith("+")) press(input, (t += 10), key, 0);
        }
        input.step((t += 50));
        expect(seen).toHaveLength(1);
        input.setOverrides(keys(isOwn ? { "dash.main": "KeyZ" } : { "kick.main": "KeyZ" }));
        input.step((t += 10));
        press(input, (t += 10), last, 0);
        input.step((t += 10));
        expect(seen.slice(1)).toEqual([isOwn ? `off ${t - 30} bindings` : `off ${t - 10} released`]);
      }
    },
  );

  test("a kept press outlives a change of other keys, and not of its own; the game's outlives both", () => {
    for (const [change, who, begins] of [
      ["kick.main", "hand", true],
      ["hop.main", "hand", false],
      ["hop.main", "game", true],
    ] as const) {
      const input = layerOf(
        { hop: sw("Space", { bufferMs: 100, beginsIf: "ground" }), kick: sw("KeyK") },
        { flags: { ground: false } },
      );
      if (who === "game") input.drive("hop", true as never, "cutscene", 5);
      else press(input, 5, "Space");
      input.step(10);
      input.setOverrides(keys({ [change]: "KeyZ" }));
      input.setFlag("ground", true, 20);
      input.step(30);
      expect([change, who, input.take("hop")]).toEqual([change, who, begins]);
    }
  });

  test("a press that waits for a second one is forgotten with its key", () => {
    for (const [change, pulses] of [
      ["kick.main", 1],
      ["grab.main", 0],
    ] as const) {
      const input = layerOf({
        grab: sw({ use: "KeyE", waits: true }),
        roll: sw({ taps: 2, of: "KeyE", gapMs: 100 }),
        kick: sw("KeyK"),
      });
      let ons = 0;
      input.on("grab", "on", () => ons++);
      press(input, 5, "KeyE");
      press(input, 15, "KeyE", 0);
      input.step(20);
      input.setOverrides(keys({ [change]: "KeyZ" }));
      input.step(300);
      expect([change, ons]).toEqual([change, pulses]);
    }
  });

  test("a loss that waits goes by its device's name in another plan, and is nothing where there is none", () => {
    const pedals = (controls: object) =>
      ({
        reacherPlan: 1,
        controls,
        actions: { brake: sw("Pedal"), horn: sw("Horn") },
      }) as unknown as Plan;
    const Pedal = { kind: "button", device: "wheel" };
    const Horn = { kind: "button", device: "stalk" };
    for (const [after, isOn] of [
      [{ Horn, Pedal }, [false, true]],
      [{ Pedal, Horn }, [false, true]],
      [{ Horn, Pedal: { kind: "button", device: "rig" } }, [true, true]],
    ] as const) {
      const input = createInputLayer(pedals({ Pedal, Horn }));
      for (const control of ["Pedal", "Horn"]) press(input, 5, control);
      input.step(10);
      input.lose("wheel" as never, 20 as never);
      const now = input.setPlan(pedals(after) as never).step(30) as never as Record<string, { on: boolean }>;
      expect([now["brake"]!.on, now["horn"]!.on]).toEqual(isOn);
    }
  });

  test("a stick tilted before it was ever bound moves as soon as it is", () => {
    const input = layerOf({ walk });
    press(input, 1, "PadRightStickX");
    input.step(10);
    input.setOverrides(keys({ "walk.pad": "PadRightStick" }));
    expect(input.step(20)).toMatchObject({ walk: { x: 1 } });
  });

  test.each([
    ["Thumb", { "walk.own": null }],
    ["PadLeftStick", { "walk.pad": null }],
    // One of its axes alone goes on.
    ["PadLeftStick", { "walk.pad": null, "climb.pad": "PadLeftStickY" }],
  ])("both axes of a stick that comes to rest as its binding changes are at rest: %s", (stick, controls) => {
    const from = { main: WASD, pad: "PadLeftStick", own: "Thumb" };
    const climb = { kind: "axis", from: { main: { minus: "KeyQ", plus: "KeyE" } } };
    const input = layerOf(
      { walk: { kind: "vector", from }, climb, kick: sw("KeyK") },
      { controls: { Thumb: "stick" }, slots: { main: {}, pad: {}, own: {} } },
    );
    input.on("kick" as never, "off", () => void input.setOverrides(keys(controls)));
    press(input, 1, `${stick}Y`, 0.5);
    press(input, 1, "KeyK");
    input.step(10);
    press(input, 20, "KeyK", 0);
    press(input, 20, `${stick}X`, 0);
    press(input, 20, `${stick}Y`, 0);
    expect(input.step(30)).toMatchObject({ walk: { length: 0 }, climb: { value: 0 } });
    expect(input.held()).toEqual([]);
  });

  test("a press stamped ahead counts at its moment, whatever bound its key when it was fed", () => {
    const input = layerOf({ kick: sw("KeyK") });
    const seen: number[] = [];
    input.on("kick" as never, "on", (t) => seen.push(t));
    input.step(0);
    press(input, 50, "KeyZ");
    expect(input.held()).toEqual([{ control: "KeyZ", value: 1, pad: 0 }]);
    input.setOverrides(keys({ "kick.main": "KeyZ" }));
    input.step(100);
    expect(seen).toEqual([50]);
    press(input, 150, "KeyZ", 0);
    input.step(200);
    expect(input.held()).toEqual([]);
  });

  test.each([["bound while held"], ["held across openSeats"]])(
    "no key stays held where seats change: %s",
    (how) => {
      const input = layerOf(
        { kick: { kind: "switch", from: { left: "KeyK", right: "Enter", pad: "PadSouth" } } },
        { seats: { amber: { slots: ["left", "pad"] }, teal: { slots: ["right", "pad"] } } },
      );
      const teal = input.seat("teal");
      input.assignPad("teal", 1);
      let count = 0;
      teal.on("kick" as never, "on", () => count++);
      input.step(0);
      const key = how === "bound while held" ? "KeyZ" : "KeyK";
      if (how === "bound while held") {
        press(input, 10, key);
        input.step(20);
        teal.setOverrides(keys({ "kick.right": "KeyZ" }));
      } else {
        input.openSeats(["teal"]);
        input.openSeats(["amber", "teal"]);
        input.openSeats(["teal"]);
        press(input, 10, "KeyQ");
        press(input, 10, key);
        input.step(20);
        input.openSeats(["amber", "teal"]);
        press(input, 30, "KeyQ", 0);
      }
      press(input, 30, key, 0);
      input.step(40);
      expect(input.held()).toEqual([]);
      if (how !== "bound while held") input.openSeats(["teal"]);
      const before = count;
      press(input, 50, key);
      input.step(60);
      expect(count).toBe(before + 1);
    },
  );

  test("a player may use an axis' named ends in a switch", () => {
    const input = layerOf({
      walk: { kind: "axis", ends: ["left", "right"], from: { main: { left: "KeyA", right: "KeyD" } } },
      dash: sw({ taps: 2, of: "walk.right" }),
      both: sw("KeyB"),
    });
    expect(input.setOverrides(keys({ "dash.main": { taps: 2, of: "walk.left" } }))).toEqual([]);
    expect(input.setOverrides(keys({ "both.main": { all: ["walk.right", "KeyJ"] } }))).toEqual([]);
  });

  test("settings that the action has nothing for are set aside, with the reason", () => {
    const player = { everyMs: [1, 900], gapMs: [1, 900], afterMs: [1, 900] };
    const input = layerOf({ kick: sw("KeyK", { player }) });
    const faults = input.setOverrides({
      reacherOverrides: 1,
      settings: { "kick.everyMs": 100, "kick.gapMs": 100, "kick.afterMs": 100 },
    });
    expect(faults.map(({ message }) => message)).toEqual([
      "kick has no repeat, so there is no everyMs to set",
      "kick has no taps or series, so there is no gapMs to set",
      "kick has no long press, so there is no afterMs to set",
    ]);
  });
});

describe("several seats", () => {
  const plan = {
    reacherPlan: 1,
    flags: { door: false },
    seats: { amber: { slots: ["left"] }, teal: { slots: ["right"] } },
    actions: {
      open: { kind: "switch", from: { left: "KeyA", right: "KeyL" } },
      pass: { kind: "switch", needs: "door", from: { left: "KeyB", right: "KeyM" } },
    },
  } as unknown as Plan;

  test("all seats take their events in one order, so a step of any length gives the same", () => {
    const run = (steps: readonly number[]) => {
      const input = createInputLayer(plan);
      const seen: string[] = [];
      for (const name of ["amber", "teal"]) {
        input.seat(name).on("pass" as never, "on", (t) => seen.push(`${name} ${t}`));
        // Each opens the other's door.
        const other = input.seat(name === "amber" ? "teal" : "amber");
        input.seat(name).on("open" as never, "on", () => other.setFlag("door", true));
      }
      for (const [t, control] of [
        [10, "KeyM"],
        [20, "KeyA"],
        [30, "KeyB"],
        [40, "KeyL"],
      ] as const)
        press(input, t, control);
      for (const t of steps) input.step(t);
      return [seen, [...input.snapshot()].length];
    };
    expect(run([100])).toEqual([["teal 20", "amber 40"], run([100])[1]]);
    for (const steps of [
      [5, 15, 25, 35, 100],
      [25, 100],
      [10, 20, 30, 40, 100],
    ])
      expect(run(steps)).toEqual(run([100]));
  });

  test("a seat is never the layer: the first one's snapshot is its own", () => {
    const input = createInputLayer(plan);
    input.step(0);
    const amber = input.seat("amber");
    expect(amber).not.toBe(input);
    const saved = amber.snapshot();
    expect(saved.length * 2).toBe(input.snapshot().length);
    press(input, 10, "KeyA");
    press(input, 10, "KeyL");
    input.step(20);
    amber.restore(saved);
    expect([amber.now, input.seat("teal").now]).toMatchObject([
      { open: { on: false } },
      { open: { on: true } },
    ]);
  });
});

test("a ramp just before its end is not cleared by its gaits: what rests does not move", () => {
  for (const [rise, fall, at, until] of [
    [28, 94, 32.820975795770515, 143.66929926475012],
    [35, 91, 44.48690416500294, 154.17898097130424],
    [97, 25, 229.10664986311767, 342.47314738550836],
  ] as const) {
    const input = layerOf({
      walk: {
        kind: "axis",
        from: { main: { minus: "KeyA", plus: "KeyD" } },
        ease: { riseMs: rise, fallMs: fall },
        // Left at rest, which is the end of the ramp.
        ...{ gaits: { slow: 0.5, fast: 4 }, gaitsBy: "speed", gaitMargin: 0.5 },
        pace: { base: 2.4, easeMs: 200, rules: [{ when: "run", set: 4.8 }] },
      },
      run: sw("ShiftLeft"),
      still: sw("KeyQ", { needs: "not walk" }),
    });
    press(input, at, "KeyD");
    press(input, at + 1, "ShiftLeft");
    press(input, until, "KeyD", 0);
    press(input, until, "ShiftLeft", 0);
    press(input, until + 500, "KeyQ");
    expect(input.step(2000)).toMatchObject({ walk: { length: 0, gait: null }, still: { on: true } });
  }
});

test("far from 0, where a clock is coarse, a ramp still comes to its end", () => {
  const input = layerOf({
    walk: {
      kind: "vector",
      from: { main: WASD },
      ease: {},
      gaits: { slow: 0.1, fast: 0.9 },
      pace: { base: 1, easeMs: 77, rules: [{ when: "run", times: 3 }] },
    },
    run: sw("ShiftLeft"),
  });
  const t = 1.7e12;
  input.step(t);
  press(input, t + 1, "KeyW");
  press(input, t + 1, "ShiftLeft");
  expect(input.step(t + 500)).toMatchObject({ walk: { length: 1, gait: "fast", pace: 3 } });
});

test("a plain member of a oneOf drops what the others keep", () => {
  const actions = {
    roll: sw("KeyR", { oneOf: "stance", bufferMs: 200, beginsIf: "ground" }),
    duck: sw("KeyC", { oneOf: "stance" }),
  };
  expect(changes(actions, "+KeyR 5 -KeyR 5 +KeyC 20 -KeyC ^ground 50", { flags: { ground: false } })).toBe(
    "duck on 10, duck off 30",
  );
});

test("what undoes itself at once is told as on and off, and began", () => {
  const hop = sw("Space", { needs: "ground", spends: "ground", bufferMs: 100 });
  expect(changes({ hop }, "+Space 10 -Space", { flags: { ground: true } })).toBe(
    "hop on 0, hop grant 0, hop off 0",
  );
  // Through a chain: it needs what goes off as it begins.
  const chain = {
    ready: sw("KeyR", { needs: "ground" }),
    hop: sw("Space", { needs: "ready", spends: "ground" }),
  };
  expect(changes(chain, "+KeyR 5 +Space 10 -Space", { flags: { ground: true } })).toBe(
    "ready on 0, ready off 5, hop on 5, hop off 5",
  );
});

test("after a callback throws, the event is finished and the others are called; the first error is thrown on", () => {
  const input = layerOf({ snip: sw({ short: "KeyX" }), kick: sw("KeyK") });
  const seen: string[] = [];
  input.on("snip" as never, "on", () => {
    throw new Error("first");
  });
  input.on("snip" as never, "on", () => seen.push("second"));
  input.on("snip" as never, "off", () => {
    throw new Error("last");
  });
  input.watch({ settled: (t) => void seen.push(`settled ${t}`) });
  press(input, 0, "KeyX");
  press(input, 10, "KeyX", 0);
  press(input, 20, "KeyK");
  expect(() => input.step(50)).toThrow("first");
  expect(input.now).toMatchObject({ snip: { on: false, presses: 1 }, kick: { on: false } });
  expect(seen).toEqual(["settled 0", "second", "settled 10"]);
  expect(input.step(50)).toMatchObject({ snip: { on: false }, kick: { on: true } });
});

test("a watcher hears of each event and command, and after it, and after each timer, that all has settled", () => {
  const input = layerOf({ haul: sw({ long: "KeyR", afterMs: 50 }) }, { flags: { wet: false } });
  const seen: string[] = [];
  input.watch({
    event: ({ t, control }, _seat, _again, after) => void seen.push(`${t} ${control} ${after}`),
    command: (command, { t, after }) => void seen.push(`${t} ${JSON.stringify(command)} ${after}`),
    settled: (t) => void seen.push(`${t} settled`),
  });
  press(input, 10, "KeyR");
  input.step(20);
  input.setFlag("wet" as never, true, 30);
  input.step(40);
  input.setFlag("wet" as never, false);
  input.step(70);
  expect(seen.join(", ")).toBe(
    '10 KeyR false, 10 settled, 30 {"flag":"wet","value":true} false, 30 settled, 40 {"flag":"wet","value":false} true, 40 settled, 60 settled',
  );
});

test("a late event does not make a gesture of a press that waited and was let through", () => {
  const taps = { short: sw({ use: "KeyE", waits: true }), long: sw({ taps: 2, of: "KeyE", gapMs: 200 }) };
  const input = layerOf(taps);
  const seen: string[] = [];
  for (const name of ["short", "long"]) input.on(name as never, "on", (t) => seen.push(`${name} ${t}`));
  press(input, 0, "KeyE");
  press(input, 50, "KeyE", 0);
  input.step(200);
  press(input, 195, "KeyE");
  input.step(220);
  expect(seen).toEqual(["short 200"]);
});

test("an either that two keys hold while a mode hides them stays on until both are let go", () => {
  const plan = {
    aim: sw(["KeyQ", "KeyE"], { style: "either", tapMs: 5, in: ["play"] }),
    menu: sw(["KeyQ", "KeyE"], { in: ["menu"] }),
  };
  expect(
    changes(plan, "+KeyQ 10 +KeyE 10 >menu 10 -KeyQ 10 <menu 10 -KeyE", { modes: { play: {}, menu: {} } }),
  ).toBe("aim on 0, aim off 20, aim on 40, aim off 50");
});

test("an ease is for keys: a trigger given as an end counts at once, beside a key that ramps", () => {
  const input = layerOf({
    drive: {
      kind: "axis",
      from: {
        keys: { minus: "KeyS", plus: "KeyW" },
        pad: { minus: "PadLeftTrigger", plus: "PadRightTrigger" },
      },
      shape: { deadZone: { inner: 0, outer: 0 } },
      ease: { riseMs: 100, fallMs: 100 },
      gaits: { half: 0.5, full: 1 },
    },
  });
  const value = (t: number) => (input.step(t) as never as Record<string, { value: number }>)["drive"]!.value;
  press(input, 0, "PadRightTrigger", 0.5);
  expect(value(0)).toBe(0.5);
  press(input, 10, "KeyW");
  expect(value(30)).toBe(0.5);
  expect(value(90)).toBeCloseTo(0.8);
  expect(value(110)).toBe(1);
  press(input, 200, "KeyW", 0);
  expect(value(240)).toBeCloseTo(0.6);
  expect(value(260)).toBe(0.5);
  press(input, 300, "PadRightTrigger", 0);
  expect(value(300)).toBe(0);
});

test("names that would reach a prototype are names of nothing", () => {
  for (const ends of [
    ["constructor", "right"],
    ["left", "prototype"],
  ])
    expect(() => layerOf({ walk: { kind: "axis", ends, from: {} } })).toThrow("is reserved");
});

test("numbers are bounded, and no reading is ever infinite", () => {
  const input = layerOf(
    {
      walk: {
        kind: "axis",
        from: { main: { plus: "KeyD" } },
        pace: { base: "fast", rules: Array.from({ length: 60 }, () => ({ when: "run", times: "fast" })) },
      },
      run: sw("KeyR"),
    },
    { numbers: { fast: 1e9 } },
  );
  expect(() => input.setNumber("fast", 1e308)).toThrow("1e+308 is no value for fast");
  press(input, 0, "KeyD");
  press(input, 0, "KeyR");
  expect(Number.isFinite((input.step(10) as never as Record<string, { v: number }>)["walk"]!.v)).toBe(true);
  expect(() => layerOf({ walk: { kind: "axis", from: {}, pace: { base: 1e10 } } })).toThrow("pace.base");
});

test("snapshots do not depend on what else the process did before", () => {
  const made = (others: readonly string[]) => {
    let bytes: Uint8Array | undefined;
    jest.isolateModules(() => {
      // eslint-disable-next-line @typescript-eslint/no-require-imports
      const { createInputLayer: create } = require("reacher") as typeof Reacher;
      create({ reacherPlan: 1, actions: { other: sw([...others]) } } as unknown as Plan);
      const input = create({
        reacherPlan: 1,
        actions: { dash: sw({ taps: 2, of: "walk.right" }), walk: { kind: "vector", from: { main: WASD } } },
      } as unknown as Plan);
      input.feed({ t: 0, control: "KeyD", value: 1 });
      input.step(10);
      bytes = input.snapshot();
    });
    return bytes;
  };
  expect(made(["F7", "Numpad3", "PadButton40", "PadAxis9"])).toEqual(made(["KeyK"]));
});

test("a spot is where the plan has it after a reset", () => {
  const input = layerOf(
    { aim: { kind: "vector", from: { main: { use: "MousePoint", around: "figure" } } } },
    { spots: { figure: [0, 0] } },
  );
  press(input, 1, "MousePointX", 0.5);
  input.setSpot("figure" as never, 1, 0, 2);
  const at = (t: number) => (input.step(t) as never as { aim: { x: number } }).aim.x;
  expect(at(10)).toBe(-1);
  input.reset(20);
  press(input, 31, "MousePointX", 0.25);
  expect(at(40)).toBe(1);
});

test("another plan's number counts, unless the game has changed it", () => {
  const walk = { kind: "axis", from: { main: { minus: "KeyA", plus: "KeyD" } } };
  const plan = (easy: number) =>
    ({ reacherPlan: 1, numbers: { easy }, actions: { walk: { ...walk, pace: { base: "easy" } } } }) as never;
  const input = createInputLayer(plan(2)) as unknown as InputLayer;
  const v = (t: number) => (input.step(t) as never as { walk: { v: number } }).walk.v;
  press(input, 1, "KeyD");
  expect(v(10)).toBe(2);
  input.setPlan(plan(3));
  expect(v(20)).toBe(3);
  input.setNumber("easy" as never, 7, 21);
  expect(v(30)).toBe(7);
  input.setPlan(plan(4));
  expect(v(40)).toBe(7);
});

test("what is exactly at a border counts on its side", () => {
  // A worn trigger that is let go to just where it is still down, and a stick at just where a device counts as used.
  const input = layerOf(
    { lean: { kind: "axis", from: { pad: "PadRightTrigger" } }, hop: sw("KeyQ"), go: sw("PadLeftStickLeft") },
    { bounceMs: 50 },
  );
  press(input, 1, "PadRightTrigger");
  input.step(2);
  press(input, 3, "PadRightTrigger", 0.4);
  expect((input.step(4) as never as { lean: { value: number } }).lean.value).toBeLessThan(0.5);
  for (const tilt of [-0.5, 0.5]) {
    press(input, 100, "PadLeftStickX", 0);
    press(input, 101, "KeyQ", tilt < 0 ? 1 : 0);
    input.step(200);
    press(input, 201, "KeyQ", tilt < 0 ? 0 : 1);
    input.step(300);
    expect(input.lastDevice).toBe("keyboard");
    press(input, 301, "PadLeftStickX", tilt);
    input.step(302);
    expect(input.lastDevice).toBe("pad");
  }
  // The pointer, moved by just what counts as using it.
  const pointed = layerOf({ aim: { kind: "vector", from: { main: "MousePoint" } }, hop: sw("KeyQ") });
  press(pointed, 1, "KeyQ");
  press(pointed, 2, "MousePointX", 1 / 64);
  pointed.step(3);
  expect(pointed.lastDevice).toBe("mouse");
  // A gait without a margin ends just below where it begins.
  const gaits = { gaits: { run: 0.5 }, gaitMargin: 0 };
  const paced = layerOf({ walk: { kind: "axis", from: { main: { plus: "KeyD" } }, ...gaits } });
  const gaitAt = (value: number, t: number) => {
    paced.drive("walk" as never, value as never, "scene");
    return (paced.step(t) as never as { walk: { gait: string | null } }).walk.gait;
  };
  expect([gaitAt(0.5, 1), gaitAt(0.499_999_9, 2)]).toEqual(["run", null]);
});

describe("another plan", () => {
  test("in which an action stands elsewhere: what it faces comes along, of a reading that the game has in hand", () => {
    const walk = { kind: "vector", from: { main: WASD } };
    const [hop, look] = [sw("KeyQ"), { ...walk, from: { main: "PadRightStick" } }];
    const input = layerOf({ walk, hop });
    const { facing } = (input.now as never as { walk: { facing: object } }).walk;
    press(input, 1, "KeyA");
    input.step(2);
    input.setPlan({ reacherPlan: 1, actions: { look, hop, walk } } as never);
    press(input, 3, "KeyA", 0);
    press(input, 4, "KeyD");
    input.step(300);
    expect(JSON.stringify(facing)).toBe("[1,0]");
  });

  test("with its devices in another order: what lingers ends with its own, and no other", () => {
    const stick = (device: string) => ({ kind: "stick", device });
    const go = (use: string) => ({ kind: "vector", from: { main: use }, lingerMs: 1000 });
    const actions = { go: go("Thumb"), hop: sw("KeyQ", { needs: "go" }) };
    const input = layerOf(actions, { controls: { Thumb: stick("touch"), Glove: stick("glove") } });
    const on = (t: number) => (input.step(t) as never as { hop: { on: boolean } }).hop.on;
    press(input, 1, "ThumbX");
    press(input, 2, "KeyQ");
    press(input, 3, "ThumbX", 0);
    expect(on(4)).toBe(true);
    input.setPlan({
      reacherPlan: 1,
      controls: { Glove: stick("glove"), Thumb: stick("touch") },
      actions: { ...actions, wave: go("Glove") },
    } as never);
    input.lose("glove" as never, 20);
    expect(on(30)).toBe(true);
    input.lose("touch" as never, 40);
    expect(on(50)).toBe(false);
  });

  test("renames the first event that waits, too", () => {
    const hop = { hop: sw("Space") };
    const input = layerOf(hop, { flags: { wet: false, armed: false } });
    input.setFlag("armed" as never, true, 50);
    input.setPlan({ reacherPlan: 1, actions: hop, flags: { armed: false, wet: false } } as never);
    input.step(60);
    expect(input.flags).toEqual({ armed: true, wet: false });
  });
});

test("a worn key's release that waits comes when no key is worn any more, whatever was pressed since", () => {
  const input = layerOf(
    { hop: sw("KeyQ"), duck: sw("KeyE") },
    { bounceMs: 50, player: { bounceMs: [0, 50] } },
  );
  const on = (t: number) => (input.step(t) as never as { hop: { on: boolean } }).hop.on;
  press(input, 1, "KeyQ");
  on(2);
  press(input, 3, "KeyQ", 0);
  press(input, 900, "KeyE");
  expect(on(5)).toBe(true);
  input.setOverrides({ reacherOverrides: 1, settings: { bounceMs: 0 } });
  expect(on(6)).toBe(false);
});

test("a press that waits for its turn is gone when a menu takes its key, and does not come when the menu closes", () => {
  const actions = {
    hop: sw("Space", { bufferMs: 500, beginsIf: "grounded", in: ["play"] }),
    choose: sw("Space", { in: ["menu"] }),
  };
  const more = { flags: { grounded: false }, modes: { play: {}, menu: { covers: "same" } }, start: ["play"] };
  expect(changes(actions, "+Space 10 -Space 10 ^grounded 10", more)).toContain("hop on");
  expect(changes(actions, "+Space 10 -Space 10 >menu 10 <menu 10 ^grounded 10", more)).not.toContain(
    "hop on",
  );
  const waiting = {
    jump: sw({ use: "Space", waits: true }, { in: ["play"] }),
    roll: sw({ taps: 2, of: "Space", gapMs: 100 }),
    choose: sw("Space", { in: ["menu"] }),
  };
  expect(changes(waiting, "+Space 10 -Space 200", more)).toContain("jump on");
  expect(changes(waiting, "+Space 10 -Space 10 >menu 200 <menu 200", more)).not.toContain("jump on");
});

test("a key is in use by whichever of its actions is live, and the mouse by a turn", () => {
  const turn = { kind: "turn", from: { main: { use: "MouseMove", perPixel: 1 } } };
  const actions = { hop: sw("KeyQ", { in: ["play"] }), choose: sw("KeyQ", { in: ["menu"] }), look: turn };
  const input = layerOf(actions, { modes: { play: {}, menu: { covers: "all" } }, start: ["play"] });
  const uses = (t: number) => (input.step(t), [input.uses("KeyQ"), input.uses("MouseMove")]);
  expect(uses(1)).toEqual([true, true]);
  input.enter("menu" as never, 2);
  expect(uses(3)).toEqual([true, true]);
  input.mute("choose" as never, "why", 4);
  input.mute("look" as never, "why", 4);
  expect(uses(5)).toEqual([false, false]);
});

test("what the game alone holds still does not move, though keys ramp beneath", () => {
  const walk = { kind: "vector", from: { main: WASD }, ease: { riseMs: 200 } };
  const input = layerOf({ walk, hop: sw("KeyQ", { needs: "walk" }) });
  const on = (t: number) => (input.step(t) as never as { hop: { on: boolean } }).hop.on;
  input.drive("walk" as never, [0, 0] as never, "scene", { how: "alone", t: 1 } as never);
  press(input, 2, "KeyQ");
  press(input, 3, "KeyD");
  expect(on(50)).toBe(false);
  input.drive("walk" as never, null as never, "scene", 60);
  expect(on(70)).toBe(true);
});
