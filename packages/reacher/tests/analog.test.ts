/** Sticks, triggers, ramps and turns: numbers worked by hand, at the ends of every zone. */
import fc from "fast-check";
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import { play } from "reacher/testing";
import { WASD } from "./plans";
import { runs } from "./runs";

const vector = (more: object) => ({ kind: "vector", from: { main: WASD, pad: "PadLeftStick" }, ...more });

function handsFor(actions: object, more: object = {}) {
  return play(createInputLayer({ reacherPlan: 1, actions, ...more } as unknown as Plan));
}

interface Moved {
  x: number;
  y: number;
  length: number;
  gait: string | null;
}

/** Where a tilt moves to. */
function tilted(shape: object, x: number, y: number, more: object = {}): Moved {
  return handsFor({ swim: vector({ shape, ...more }) })
    .tilt("PadLeftStick", x, y)
    .wait(10).now["swim"] as unknown as Moved;
}

describe("shape", () => {
  const zone = { inner: 0.2, outer: 0.1 };

  // The travel between the zones is 0.7; the curve has (0.5, 0.2) in it.
  test.each<[string, object, number, number]>([
    ["round, at the inner end", { deadZone: zone }, 0.2, 0],
    ["round, just past it", { deadZone: zone }, 0.207, 0.01],
    ["round, half way", { deadZone: zone }, 0.55, 0.5],
    ["round, at the outer end", { deadZone: zone }, 0.9, 1],
    [
      "points, on a point",
      {
        deadZone: zone,
        curve: {
          points: [
            [0, 0],
            [0.5, 0.2],
            [1, 1],
          ],
        },
      },
      0.55,
      0.2,
    ],
    [
      "points, between two",
      {
        deadZone: zone,
        curve: {
          points: [
            [0, 0],
            [0.5, 0.2],
            [1, 1],
          ],
        },
      },
      0.725,
      0.6,
    ],
    [
      "points that end below 1",
      {
        curve: {
          points: [
            [0, 0],
            [1, 0.5],
          ],
        },
      },
      1,
      0.5,
    ],
    ["gain after the curve", { deadZone: zone, curve: { power: 2 }, gain: 2 }, 0.55, 0.5],
    ["gain is cut at 1", { deadZone: zone, gain: 1.5 }, 0.76, 1],
    ["gain at full tilt", { deadZone: zone, gain: 0.6 }, 1, 0.6],
  ])("%s", (_, shape, tilt, length) => {
    const { x, y } = tilted(shape, tilt, 0);
    expect(x).toBeCloseTo(length, 6);
    expect(y).toBe(0);
    // The same the other ways, with nothing lost on the slant.
    const slant = tilted(shape, -0.6 * tilt, 0.8 * tilt);
    expect([slant.x, slant.y]).toEqual([expect.closeTo(-0.6 * length, 5), expect.closeTo(0.8 * length, 5)]);
  });

  test.each<[number, number, number, number]>([
    // Each axis on its own: what is below 0.2 on one of them is nothing there.
    [0.55, 0.15, 0.5, 0],
    [0.2, 0.55, 0, 0.5],
    [0.55, 0.55, 0.5, 0.5],
    // Both full: cut at length 1.
    [0.9, 0.9, Math.SQRT1_2, Math.SQRT1_2],
    [0.62, -0.76, 0.6, -0.8],
  ])("a cross: (%d, %d) gives (%d, %d)", (x, y, toX, toY) => {
    const moved = tilted({ deadZone: { kind: "cross", ...zone } }, x, y);
    expect([moved.x, moved.y]).toEqual([expect.closeTo(toX, 6), expect.closeTo(toY, 6)]);
  });

  test.each([
    ["x", -0.6, 0.8],
    ["y", 0.6, -0.8],
    ["both", -0.6, -0.8],
  ])("invert %s", (invert, x, y) => {
    const moved = tilted({ invert, deadZone: { inner: 0, outer: 0 } }, 0.6, 0.8);
    expect([moved.x, moved.y]).toEqual([expect.closeTo(x, 9), expect.closeTo(y, 9)]);
  });

  test("invert turns a tapped direction round as well", () => {
    const actions = {
      swim: vector({ shape: { invert: "x" } }),
      left: { kind: "switch", from: { pad: "swim.left" } },
    };
    expect(handsFor(actions).tilt("PadLeftStick", 0.5, 0).wait(5).now["left"]).toMatchObject({ on: true });
  });

  test("an entry's own shape is laid over the action's", () => {
    const shape = { deadZone: { inner: 0.2, outer: 0.1 }, curve: { power: 2 } };
    const own = { use: "PadRightStick", shape: { deadZone: { inner: 0.4 }, gain: 0.5 } };
    const swim = vector({ shape, from: { pad: ["PadLeftStick", own] } });
    const x = (stick: string, tilt: number) =>
      (handsFor({ swim }).tilt(stick, tilt, 0).wait(5).now["swim"] as unknown as Moved).x;
    expect(x("PadLeftStick", 0.55)).toBeCloseTo(0.25, 4);
    // Its inner zone is 0.4, the outer one and the curve the action's, the gain its own.
    expect([x("PadRightStick", 0.4), x("PadRightStick", 0.65)]).toEqual([0, expect.closeTo(0.125, 4)]);
  });

  test("an axis of a trigger each way, and one turned round", () => {
    const depth = { kind: "axis", from: { pad: { minus: "PadLeftTrigger", plus: "PadRightTrigger" } } };
    const dial = { kind: "axis", from: { pad: "PadLeftStickY" }, shape: { invert: "y" } };
    const hands = handsFor({ depth, dial });
    const value = (action: string) => (hands.wait(5).now[action] as unknown as { value: number }).value;
    hands.pull("PadRightTrigger", 0.515);
    expect(value("depth")).toBeCloseTo(0.5, 6);
    hands.pull("PadLeftTrigger", 0.98);
    expect(value("depth")).toBeCloseTo(-0.5, 6);
    expect(hands.tilt("PadLeftStick", 0, 1).wait(5).now["dial"]).toMatchObject({ value: -1 });
  });

  const shapes = fc.record({
    deadZone: fc.record({
      kind: fc.constantFrom("round", "cross"),
      inner: fc.integer({ min: 0, max: 40 }).map((n) => n / 100),
      outer: fc.integer({ min: 0, max: 40 }).map((n) => n / 100),
    }),
    gain: fc.constantFrom(0.5, 1, 2.5),
    curve: fc.constantFrom(
      { power: 0.5 },
      { power: 1 },
      { power: 2.2 },
      {
        points: [
          [0, 0],
          [0.3, 0],
          [0.6, 0.7],
          [1, 1],
        ],
      },
    ),
  });

  test("shaped length is never above 1, never falls while the tilt grows, and does not jump at the zone's edge", () => {
    fc.assert(
      fc.property(shapes, fc.double({ min: 0, max: 6.28, noNaN: true }), (shape, angle) => {
        const hands = handsFor({ swim: vector({ shape }) });
        let before = 0;
        let outward = 0;
        for (let n = 0; n <= 1000; n++) {
          const tilt = n / 1000;
          const { length, x, y } = hands
            .tilt("PadLeftStick", tilt * Math.cos(angle), tilt * Math.sin(angle))
            .wait(1).now["swim"] as unknown as Moved;
          if (length > 1 + 1e-12 || length < before - 1e-12) return false;
          // A thousandth of tilt moves it by a little; the root's curve is steep where it begins.
          if (length - before > (shape.curve.power === 0.5 ? 0.35 : 0.06)) return false;
          if (length > 0 && shape.deadZone.kind === "round")
            outward = Math.max(outward, Math.abs(x * Math.sin(angle) - y * Math.cos(angle)));
          before = length;
        }
        return outward < 1e-6;
      }),
      runs(30),
    );
  });
});

describe("thresholds", () => {
  test.each([
    [undefined, [0.499, 0.5, 0.4, 0.399], [false, true, true, false]],
    [{ press: 0.2 }, [0.199, 0.2, 0.16, 0.159], [false, true, true, false]],
    [{ press: 0.7, release: 0.3 }, [0.69, 0.7, 0.3, 0.29], [false, true, true, false]],
  ])("%j", (threshold, values, on) => {
    const haul = {
      kind: "switch",
      from: { pad: { use: "PadRightTrigger", ...(threshold && { threshold }) } },
    };
    const hands = handsFor({ haul });
    expect(
      values.map((value) => (hands.pull("PadRightTrigger", value).wait(5).now["haul"] as { on: boolean }).on),
    ).toEqual(on);
  });

  test.each([
    ["right", 1, 0],
    ["left", -1, 0],
    ["up", 0, 1],
    ["down", 0, -1],
  ])("a stick presses its direction %s from a half on, and lets it go below 0.4", (end, x, y) => {
    const hands = handsFor({
      swim: vector({ from: { pad: "PadLeftStick" } }),
      haul: { kind: "switch", from: { pad: `swim.${end}` } },
    });
    const isOn = (tilt: number) =>
      (hands.tilt("PadLeftStick", x * tilt, y * tilt).wait(5).now["haul"] as { on: boolean }).on;
    expect([0.499, 0.5, 0.4, 0.399].map(isOn)).toEqual([false, true, true, false]);
  });
});

describe("keys and sticks together", () => {
  test("combine sum adds and cuts at length 1", () => {
    const hands = handsFor({ swim: vector({ combine: "sum", shape: { deadZone: { inner: 0, outer: 0 } } }) });
    const now = () => hands.wait(5).now["swim"] as unknown as Moved;
    hands.tilt("PadLeftStick", -0.25, 0).press("KeyD");
    expect(now()).toMatchObject({ x: 0.75, y: 0, length: 0.75 });
    hands.tilt("PadLeftStick", 0, 1);
    expect([now().x, now().y, now().length]).toEqual([
      expect.closeTo(Math.SQRT1_2, 9),
      expect.closeTo(Math.SQRT1_2, 9),
      1,
    ]);
  });
});

describe("ease", () => {
  const ease = { riseMs: 100, fallMs: 50 };

  // Each row: what is pressed (+), let go (-) and waited (ms), and x after it.
  test.each<[string, object, string, number]>([
    ["rises", {}, "+KeyD 30", 0.3],
    ["is there at its time", {}, "+KeyD 100", 1],
    ["falls", {}, "+KeyD 200 -KeyD 20", 0.6],
    ["is at rest at its time", {}, "+KeyD 200 -KeyD 50", 0],
    ["falls from where it was", {}, "+KeyD 30 -KeyD 5", 0.2],
    ["rises again from there", {}, "+KeyD 30 -KeyD 5 +KeyD 10", 0.3],
    ["instant: a turn starts from zero", {}, "+KeyD 200 +KeyA 30", -0.3],
    ["through: a turn runs through zero", { turn: "through" }, "+KeyD 200 +KeyA 20", 0.6],
    ["through, past zero", { turn: "through" }, "+KeyD 200 +KeyA 80", -0.3],
    ["no rise at all", { riseMs: 0 }, "+KeyD 0.5", 1],
    ["a lost focus ends it at once", {}, "+KeyD 200 blur 0.5", 0],
    ["a mute ends it at once", {}, "+KeyD 200 !swim 0.5", 0],
    ["and back it rises from zero", {}, "+KeyD 200 !swim 20 ~swim 30", 0.3],
  ])("%s", (_, more, script, x) => {
    const input = createInputLayer({
      reacherPlan: 1,
      actions: { swim: vector({ ease: { ...ease, ...more } }) },
    } as unknown as Plan);
    const hands = play(input);
    for (const word of script.split(" ")) {
      if (word.startsWith("+")) hands.press(word.slice(1));
      else if (word.startsWith("-")) hands.release(word.slice(1));
      else if (word === "blur") hands.loseFocus();
      else if (word.startsWith("!")) input.mute(word.slice(1), "reel", hands.t);
      else if (word.startsWith("~")) input.unmute(word.slice(1), "reel", hands.t);
      else hands.wait(Number(word));
    }
    expect((hands.now["swim"] as unknown as Moved).x).toBeCloseTo(x, 9);
  });

  test("gaits begin and end where the ramp crosses them, facing turns at once, and it counts as moving to the end", () => {
    const plan = {
      reacherPlan: 1,
      actions: {
        swim: vector({ ease, gaits: { drift: 0.1, cruise: 0.5 }, gaitMargin: 0.1, pace: { base: 3 } }),
        wake: { kind: "switch", style: "hold", needs: "swim", from: { main: "Space" } },
      },
    };
    const input = createInputLayer(plan as unknown as Plan);
    const told: string[] = [];
    let before: string | null = "none";
    input.watch({
      changed: (t, action) => {
        const { gait } = input.now["swim"] as unknown as Moved;
        if (action === "swim" && gait !== before) told.push(`${gait} ${Math.round(t * 1e6) / 1e6}`);
        if (action === "swim") before = gait;
      },
    });
    input.on("wake" as never, "on", (t) => told.push(`wake ${t}`));
    input.on("wake" as never, "off", (t) => told.push(`rest ${t}`));
    input.feed({ t: 0, control: "Space", value: 1 });
    input.feed({ t: 10, control: "KeyA", value: 1 });
    input.step(10);
    expect((input.now["swim"] as unknown as { facing: { x: number } }).facing.x).toBe(-1);
    input.feed({ t: 210, control: "KeyA", value: 0 });
    input.step(1000);
    // Up at 0.1 and 0.5 of 100 ms; down below 0.4 and 0 of 50 ms, both counted from the full length.
    expect(told.join(", ")).toBe("wake 10, null 10, drift 20, cruise 60, drift 240, rest 260, null 260");
  });

  test("two keys of a diagonal ramp each on its own, and a stick beats a slow ramp", () => {
    const hands = handsFor({ swim: vector({ ease, shape: { deadZone: { inner: 0, outer: 0 } } }) });
    hands.press("KeyD").wait(50).press("KeyW").wait(20);
    const { x, y } = hands.now["swim"] as unknown as Moved;
    expect([x, y]).toEqual([expect.closeTo(0.7, 9), expect.closeTo(0.2, 9)]);
    hands.tilt("PadLeftStick", 0, -0.9);
    expect(hands.now["swim"]).toMatchObject({ x: 0, y: -0.9 });
  });
});

describe("turns", () => {
  const look = {
    kind: "turn",
    from: { main: { use: "MouseMove", perPixel: 0.15 }, pad: { use: "PadRightStick", perSecond: 180 } },
    shape: { deadZone: { inner: 0, outer: 0 } },
  };
  const turned = (input: { now: object }) => (input.now as { look: { dx: number; dy: number } }).look;

  test("the mouse is an amount, a stick a rate; up is up", () => {
    const input = createInputLayer({ reacherPlan: 1, actions: { look } } as unknown as Plan);
    input.feed({ t: 1, control: "MouseMoveX", value: 20 });
    input.feed({ t: 1, control: "MouseMoveY", value: 40 });
    input.feed({ t: 2, control: "MouseMoveX", value: 20 });
    input.step(10);
    expect([turned(input).dx, turned(input).dy]).toEqual([expect.closeTo(6, 9), expect.closeTo(-6, 9)]);
    input.step(20);
    expect([turned(input).dx, turned(input).dy]).toEqual([0, 0]);
    input.feed({ t: 30, control: "PadRightStickX", value: 0.5 });
    input.step(40);
    // 10 ms at half of 180 a second, then 100 ms.
    expect(turned(input).dx).toBeCloseTo(0.9, 9);
    input.step(140);
    expect(turned(input).dx).toBeCloseTo(9, 9);
    input.mute("look", "scene", 150);
    input.feed({ t: 155, control: "MouseMoveX", value: 500 });
    input.step(190);
    expect(turned(input).dx).toBeCloseTo(0.9, 9);
  });

  test("ten minutes without a step: the mouse's moves wait as sums, and none is lost", () => {
    const input = createInputLayer({ reacherPlan: 1, actions: { look } } as unknown as Plan);
    let handled = 0;
    input.watch({ event: () => handled++ });
    for (let t = 1; t <= 600_000; t++)
      input.feed({ t, control: t % 2 === 0 ? "MouseMoveX" : "MouseMoveY", value: 1 });
    input.step(600_000);
    expect([turned(input).dx, turned(input).dy]).toEqual([
      expect.closeTo(300_000 * 0.15, 6),
      expect.closeTo(-300_000 * 0.15, 6),
    ]);
    // The first ten seconds one by one, the rest by tenths of a second, two of each.
    expect(handled).toBeLessThan(10_000 + 2 * 6000);
  });

  test("invert turns mouse and stick round, and yAxis down makes down positive", () => {
    const plan = {
      reacherPlan: 1,
      yAxis: "down",
      actions: { look: { ...look, shape: { ...look.shape, invert: "x" } } },
    };
    const input = createInputLayer(plan as unknown as Plan);
    input.feed({ t: 1, control: "MouseMoveX", value: 20 });
    input.feed({ t: 1, control: "MouseMoveY", value: 20 });
    input.feed({ t: 1, control: "PadRightStickX", value: 1 });
    input.step(101);
    expect([turned(input).dx, turned(input).dy]).toEqual([expect.closeTo(-21, 9), expect.closeTo(3, 9)]);
  });

  test("the amounts of all steps add up to the same at any step rate", () => {
    const event = fc.record({
      t: fc.integer({ min: 1, max: 900 }),
      control: fc.constantFrom("MouseMoveX", "PadRightStickX"),
      value: fc.integer({ min: -10, max: 10 }).map((n) => n / 10),
    });
    fc.assert(
      fc.property(fc.array(event, { maxLength: 40 }), fc.constantFrom(7, 20, 60, 1000), (list, hz) => {
        const events = list.sort((a, b) => a.t - b.t);
        const sum = (steps: number[]) => {
          const input = createInputLayer({ reacherPlan: 1, actions: { look } } as unknown as Plan);
          let total = 0;
          let next = 0;
          for (const t of steps) {
            while (next < events.length && events[next]!.t <= t) input.feed(events[next++]!);
            input.step(t);
            total += turned(input).dx;
          }
          return total;
        };
        const steps = Array.from({ length: hz }, (_, n) => (n * 1000) / hz);
        expect(sum([...steps, 1000])).toBeCloseTo(sum([1000]), 7);
      }),
      runs(100),
    );
  });
});

/** The ramp as anybody would write it: in many small steps. */
function slowly(
  script: { t: number; keys: readonly [number, number] }[],
  ease: { riseMs: number; fallMs: number },
  end: number,
) {
  const each = 0.25;
  const gaits: (string | null)[] = [];
  const at = [0, 0];
  let gait: string | null = null;
  let next = 0;
  let to: readonly [number, number] = [0, 0];
  for (let t = 0; t <= end; t += each) {
    while (next < script.length && script[next]!.t <= t) to = script[next++]!.keys;
    for (const n of [0, 1]) {
      const [now, goal] = [at[n]!, to[n]!];
      if (now * goal < 0) at[n] = 0;
      const step = each / (Math.abs(goal) > Math.abs(at[n]!) ? ease.riseMs : ease.fallMs);
      at[n] = Math.abs(goal - at[n]!) <= step ? goal : at[n]! + Math.sign(goal - at[n]!) * step;
    }
    const length = Math.min(1, Math.hypot(at[0]!, at[1]!));
    if (length < (gait === "race" ? 0.76 : 0.26)) gait = length < 0.26 ? null : "cruise";
    if (length >= 0.8) gait = "race";
    else if (length >= 0.3 && gait === null) gait = "cruise";
    gaits.push(gait);
  }
  return gaits;
}

test("gaits of a ramp are those of a slow reckoning in small steps, but for the moment of the change itself", () => {
  const WAYS: Record<string, readonly [number, number]> = {
    KeyD: [1, 0],
    KeyA: [-1, 0],
    KeyW: [0, 1],
    KeyS: [0, -1],
  };
  const presses = fc.array(
    fc.record({
      // Off whole ms by a quarter: a ramp let go at the very border of a gait is a matter of rounding.
      wait: fc.integer({ min: 5, max: 160 }).map((ms) => ms + 0.25),
      key: fc.constantFrom(...Object.keys(WAYS)),
    }),
    { minLength: 1, maxLength: 10 },
  );
  const eases = fc.record({ riseMs: fc.constantFrom(40, 90, 200), fallMs: fc.constantFrom(30, 60, 150) });
  fc.assert(
    fc.property(presses, eases, (list, ease) => {
      const swim = vector({ ease, gaits: { cruise: 0.3, race: 0.8 }, gaitMargin: 0.04 });
      const input = createInputLayer({ reacherPlan: 1, actions: { swim } } as unknown as Plan);
      const script: { t: number; keys: readonly [number, number] }[] = [];
      let t = 0;
      let held: string | undefined;
      // One key at a time: what two give together is tested elsewhere.
      for (const { wait, key } of list) {
        t += wait;
        if (held !== undefined) input.feed({ t, control: held, value: 0 });
        held = held === key ? undefined : key;
        if (held !== undefined) input.feed({ t, control: held, value: 1 });
        script.push({ t, keys: held === undefined ? [0, 0] : WAYS[held]! });
      }
      const end = t + 300;
      const expected = slowly(script, ease, end);
      let apart = 0;
      expected.forEach((gait, n) => {
        input.step(n * 0.25);
        if ((input.now["swim"] as unknown as Moved).gait !== gait) apart++;
      });
      // Each change may come some quarters of a millisecond sooner or later.
      expect(apart).toBeLessThan(8 * list.length);
      expect((input.now["swim"] as unknown as Moved).gait).toBe(expected.at(-1));
    }),
    runs(30),
  );
});

test("a turn goes slower while aiming: mouse and stick, at the exact moment, by a number that the game changes", () => {
  const plan = {
    reacherPlan: 1,
    numbers: { fine: 0.5 },
    actions: {
      look: {
        kind: "turn",
        from: { main: { use: "MouseMove", perPixel: 0.1 }, pad: { use: "PadRightStick", perSecond: 100 } },
        pace: {
          rules: [
            { when: "aim", times: "fine" },
            { when: "not calm", times: 2 },
          ],
        },
      },
      aim: { kind: "switch", from: { main: "MouseSecondary" } },
    },
    flags: { calm: true },
  } as unknown as Plan;
  const input: InputLayer = createInputLayer(plan);
  const dx = () => Math.round((input.now["look"] as unknown as { dx: number }).dx * 1e6) / 1e6;
  const feed = (t: number, control: string, value: number) => input.feed({ t, control, value });
  input.step(0);
  feed(0, "PadRightStickX", 1);
  feed(400, "MouseSecondary", 1);
  input.step(1000);
  // 40 degrees before, 30 while aiming.
  expect(dx()).toBe(70);
  input.setNumber("fine", 0.1, 1500);
  feed(1600, "MouseMoveX", 100);
  input.step(2000);
  expect(dx()).toBe(25 + 5 + 1);
  input.setFlag("calm", false);
  feed(2000, "MouseSecondary", 0);
  input.step(3000);
  expect(dx()).toBe(200);
});

test("ends that give amounts move as keys do where they are all or nothing", () => {
  const ENDS = ["up", "left", "down", "right"];
  const options = fc.record({
    directions: fc.constantFrom("free", 8, 4),
    diagonal: fc.constantFrom("round", "square"),
    // Amounts of opposite ends are taken from each other.
    opposed: fc.constant("neutral"),
  });
  const events = fc.array(fc.tuple(fc.nat(3), fc.constantFrom(0, 1), fc.nat(15)), { maxLength: 25 });
  fc.assert(
    fc.property(options, fc.constantFrom("up", "down"), events, (options, yAxis, events) => {
      const layerOf = (kind: string): InputLayer =>
        createInputLayer({
          reacherPlan: 1,
          yAxis,
          controls: Object.fromEntries(ENDS.map((end) => [`To${end}`, kind])),
          slots: { own: {} },
          actions: {
            swim: {
              kind: "vector",
              from: { own: Object.fromEntries(ENDS.map((end) => [end, `To${end}`])) },
              ...options,
            },
          },
        } as unknown as Plan);
      const both = [layerOf("trigger"), layerOf("button")];
      let t = 0;
      for (const [end, value, wait] of events) {
        for (const input of both) input.feed({ t, control: `To${ENDS[end]!}`, value });
        t += wait;
        const [amounts, keys] = both.map((input) => input.step(t)["swim"] as unknown as Moved);
        expect([amounts!.x, amounts!.y, amounts!.length]).toEqual([keys!.x, keys!.y, keys!.length]);
      }
    }),
    runs(60),
  );
});
