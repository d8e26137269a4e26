import { createInputLayer, definePlan, parsePlan, type InputLayer, type Plan } from "reacher";
import { play } from "reacher/testing";
import { ARROWS, swimPlan, WASD } from "./plans";

const HALF = Math.SQRT1_2;

function hands(more: object = {}) {
  return play(createInputLayer(swimPlan(more)));
}

describe("keys", () => {
  test.each([
    [["KeyW"], 0, 1],
    [["KeyA"], -1, 0],
    [["KeyS"], 0, -1],
    [["ArrowRight"], 1, 0],
    [["KeyW", "KeyD"], HALF, HALF],
    [["KeyW", "KeyD", "ArrowUp"], HALF, HALF],
    [["KeyA", "KeyS"], -HALF, -HALF],
  ])("%j moves to (%d, %d), no faster on a diagonal, and stops on release", (keys, x, y) => {
    const { now } = hands()
      .press(...keys)
      .wait(50);
    expect([now.swim.x, now.swim.y]).toEqual([expect.closeTo(x, 12), expect.closeTo(y, 12)]);
    expect(now.swim.length).toBe(1);
    const after = hands()
      .press(...keys)
      .wait(50)
      .release(...keys)
      .wait(5).now.swim;
    expect([after.x, after.y, after.length]).toEqual([0, 0, 0]);
  });

  test("yAxis down turns y, and the angle stays counter-clockwise from right", () => {
    const input = createInputLayer({ ...swimPlan({}), yAxis: "down" });
    const { swim } = play(input).press("KeyW").wait(10).now;
    expect([swim.y, swim.angle, swim.facing.y]).toEqual([-1, Math.PI / 2, -1]);
    const tilted = play(createInputLayer({ ...swimPlan({}), yAxis: "down" }))
      .tilt("PadLeftStick", 0, 1)
      .wait(10).now.swim;
    expect([tilted.y, tilted.x]).toEqual([-1, 0]);
  });

  test("a square diagonal has both components 1", () => {
    const { swim } = hands({ diagonal: "square" }).press("KeyW", "KeyD").wait(10).now;
    expect([swim.x, swim.y, swim.length]).toEqual([1, 1, Math.SQRT2]);
  });

  // Each row: what is pressed and, with a minus, let go, one after the other; and x after it.
  test.each([
    ["latest", "KeyA", -1],
    ["latest", "KeyA KeyD", 1],
    ["latest", "KeyA KeyD -KeyD", -1],
    ["latest", "KeyA KeyD -KeyA", 1],
    ["latest", "KeyA KeyD ArrowLeft", -1],
    ["latest", "KeyA KeyD ArrowLeft -ArrowLeft", -1],
    ["earliest", "KeyA KeyD", -1],
    ["earliest", "KeyA KeyD -KeyA", 1],
    ["earliest", "KeyA KeyD -KeyA KeyA", 1],
    ["neutral", "KeyA KeyD", 0],
    ["neutral", "KeyA KeyD -KeyD", -1],
  ])("opposed %s: %s gives x %d", (opposed, script, x) => {
    const player = hands({ opposed });
    for (const move of script.split(" ")) {
      if (move.startsWith("-")) player.release(move.slice(1)).wait(7);
      else player.press(move).wait(7);
    }
    expect(player.now.swim.x).toBe(x);
  });

  test.each([
    ["KeyW KeyD", 1, 0],
    ["KeyD KeyW", 0, 1],
    ["KeyD KeyW -KeyW", 1, 0],
    ["KeyD KeyW KeyS -KeyS", 0, 1],
  ])("of 4 directions the one pressed last wins: %s gives (%d, %d)", (script, x, y) => {
    const player = hands({ directions: 4 });
    for (const move of script.split(" ")) {
      if (move.startsWith("-")) player.release(move.slice(1)).wait(7);
      else player.press(move).wait(7);
    }
    expect([player.now.swim.x, player.now.swim.y]).toEqual([x, y]);
  });
});

describe("sticks", () => {
  // inner 0.2, outer 0.1: the travel between is 0.7; power 2.
  const shape = { deadZone: { inner: 0.2, outer: 0.1 }, curve: { power: 2 } };

  test.each([
    [0, 0],
    [0.2, 0],
    [0.55, 0.25],
    [0.9, 1],
    [1, 1],
  ])("a tilt of %d has the length %d, worked by hand", (tilt, length) => {
    const { swim } = hands({ shape }).tilt("PadLeftStick", tilt, 0).wait(10).now;
    expect(swim.length).toBeCloseTo(length, 4);
    expect(swim.x).toBe(swim.length);
  });

  test("the direction is kept, full tilt is exactly 1, and up is up", () => {
    const { swim } = hands({ shape }).tilt("PadLeftStick", -0.6, 0.8).wait(10).now;
    expect(swim.length).toBe(1);
    expect([swim.x, swim.y]).toEqual([expect.closeTo(-0.6, 9), expect.closeTo(0.8, 9)]);
    expect(swim.device).toBe("pad");
  });

  test("the longest of keys and sticks wins, and the present one on a tie", () => {
    const player = hands();
    expect(player.tilt("PadLeftStick", 0.6, 0).press("KeyW").wait(10).now.swim.y).toBe(1);
    expect(player.tilt("PadLeftStick", 1, 0).wait(10).now.swim.x).toBe(0);
    expect(player.release("KeyW").wait(10).now.swim.x).toBe(1);
    expect(player.press("KeyW").wait(10).now.swim.x).toBe(1);
  });

  test.each([
    [8, 20, 1, 0],
    [8, 25, HALF, HALF],
    [4, 44, 1, 0],
    [4, 46, 0, 1],
  ])("%d directions: a tilt of %d degrees goes to the nearest", (directions, degrees, x, y) => {
    const angle = (degrees * Math.PI) / 180;
    const { swim } = hands({ directions })
      .tilt("PadLeftStick", Math.cos(angle), Math.sin(angle))
      .wait(10).now;
    expect([swim.x, swim.y]).toEqual([expect.closeTo(x, 9), expect.closeTo(y, 9)]);
  });

  test("a direction is left only 5 degrees past its border", () => {
    const player = hands({ directions: 8 }).tilt("PadLeftStick", 1, 0).wait(5);
    const tilt = (degrees: number) => {
      const angle = (degrees * Math.PI) / 180;
      return player.tilt("PadLeftStick", Math.cos(angle), Math.sin(angle)).wait(10).now.swim.y;
    };
    expect([tilt(27.4), tilt(27.6) > 0.7, tilt(17.6) > 0.7, tilt(17.4)]).toEqual([0, true, true, 0]);
  });

  test("a plan without seats takes any pad: buttons together, the longest stick", () => {
    const input = createInputLayer(swimPlan({}));
    input.feed({ t: 1, control: "PadLeftStickX", value: 0.5, pad: 0 });
    input.feed({ t: 1, control: "PadLeftStickX", value: -0.9, pad: 3 });
    expect(input.step(5).swim.x).toBeLessThan(-0.8);
    input.lose("pad", 3, 6);
    expect(input.step(7).swim.x).toBeGreaterThan(0.3);
  });

  test.each([
    [0, 3],
    [3, 0],
  ])(
    "of two sticks that are tilted alike the one that came first goes on: pads %d and %d",
    (first, second) => {
      const input = createInputLayer(swimPlan({}));
      input.feed({ t: 1, control: "PadLeftStickX", value: 1, pad: first });
      input.step(5);
      input.feed({ t: 6, control: "PadLeftStickX", value: -1, pad: second });
      expect(input.step(9).swim.x).toBe(1);
      input.feed({ t: 10, control: "PadLeftStickX", value: 0, pad: first });
      expect(input.step(11).swim.x).toBe(-1);
      input.feed({ t: 12, control: "PadLeftStickX", value: 1, pad: first });
      expect(input.step(13).swim.x).toBe(-1);
    },
  );
});

describe("axis", () => {
  const plan = definePlan({
    reacherPlan: 1,
    actions: {
      depth: {
        kind: "axis",
        opposed: "neutral",
        from: {
          main: { minus: "KeyQ", plus: "KeyE" },
          pad: { minus: "PadLeftTrigger", plus: "PadRightTrigger" },
        },
      },
      lean: { kind: "axis", from: { pad: "PadRightStickY" } },
    },
  });

  test("keys give its ends; triggers keep their value, plus less minus", () => {
    const player = play(createInputLayer(plan));
    expect(player.press("KeyE").wait(5).now.depth.value).toBe(1);
    expect(player.press("KeyQ").wait(5).now.depth.value).toBe(0);
    player.release("KeyQ", "KeyE").pull("PadRightTrigger", 0.515).pull("PadLeftTrigger", 0.2825).wait(5);
    expect(player.now.depth.value).toBeCloseTo(0.25, 9);
    expect(player.pull("PadLeftTrigger", 0).pull("PadRightTrigger", 0.04).wait(5).now.depth.value).toBe(0);
  });

  const walk = {
    kind: "axis",
    ends: ["left", "right"],
    from: { main: { left: "KeyA", right: "KeyD" }, pad: "PadLeftStickX" },
    gaits: { creep: 0.1, run: 0.8 },
    pace: { base: 150, rules: [{ when: "sprint", times: 4 }] },
  };
  const scroller = {
    reacherPlan: 1,
    actions: {
      walk,
      sprint: { kind: "switch", from: { main: "ShiftLeft" } },
      dash: { kind: "switch", from: { main: { taps: 2, of: "walk.each" } } },
      skid: { kind: "switch", from: { main: "walk.left" } },
    },
  } as unknown as Plan;

  test("it has ends by name, pace, gait, facing, directions and double taps, as a vector has", () => {
    const player = play(createInputLayer(scroller) as InputLayer & { now: any });
    const walking = () => ({ ...player.now["walk"] });
    expect(walking()).toMatchObject({
      value: 0,
      length: 0,
      facing: 1,
      gait: null,
      pace: 150,
      v: 0,
      device: null,
    });
    player.press("KeyA").wait(5).step();
    expect(walking()).toMatchObject({ value: -1, length: 1, facing: -1, gait: "run", pace: 150, v: -150 });
    expect((player.now as any).skid.on).toBe(true);
    player.press("ShiftLeft").wait(5).step();
    expect(walking()).toMatchObject({ pace: 600, v: -600 });
    player.release("KeyA").wait(50).step();
    expect(walking()).toMatchObject({ value: 0, facing: -1, gait: null });
    player.press("KeyA").wait(5).step();
    expect((player.now as any).dash).toMatchObject({ on: true, by: "walk.left" });
    player.press("KeyD").wait(5).step();
    expect(walking()).toMatchObject({ value: 1, facing: 1 });
    player.release("KeyA", "KeyD").tilt("PadLeftStick", -0.4, 0).wait(5).step();
    expect(walking()).toMatchObject({ facing: -1, gait: "creep", device: "pad" });
    expect((player.now as any).skid.on).toBe(false);
    player.tilt("PadLeftStick", -0.6, 0).wait(5).step();
    expect((player.now as any).skid.on).toBe(true);
  });

  test.each([
    [{ ends: ["left", "left"] }, "actions.walk.ends: both ends are named left; give each a name of its own"],
    [{ ends: ["each", "right"] }, 'actions.walk.ends: "each" is reserved'],
    [{ ends: ["left"] }, "actions.walk.ends"],
    [{ faces: "up" }, "actions.walk.faces: up is no end; it is left or right"],
    [
      { from: { main: { leftt: "KeyA", right: "KeyD" } } },
      "actions.walk.from.main.leftt: leftt is no end of walk; did you mean left?",
    ],
    [
      { from: { main: { up: "KeyA", right: "KeyD" } } },
      "actions.walk.from.main.up: up is no end of walk; its ends are left and right",
    ],
    [{ required: true, from: { main: { right: "KeyD" } } }, "no control for left"],
  ])("%j is refused", (fields, message) => {
    const raw = {
      ...scroller,
      actions: { walk: { ...walk, ...fields }, sprint: scroller.actions["sprint"] },
    };
    expect(() => parsePlan(raw)).toThrow(message);
  });

  test("players rebind its ends by their names, and clear them", () => {
    const input = createInputLayer(scroller);
    expect(input.setOverrides({ reacherOverrides: 1, controls: { "walk.main.left": "KeyQ" } })).toEqual([]);
    input.feed({ t: 1, control: "KeyQ", value: 1 });
    expect((input.step(2) as any).walk.value).toBe(-1);
    const [fault] = input.setOverrides({ reacherOverrides: 1, controls: { "walk.main.minus": "KeyQ" } });
    expect(fault).toMatchObject({ place: "controls.walk.main.minus", what: "rejected" });
    expect((input.step(3) as any).walk.value).toBe(0);
  });

  test("named numbers: a pace follows them at the exact moment, eased; a reset and a snapshot bring them back", () => {
    const input = createInputLayer(
      definePlan({
        reacherPlan: 1,
        numbers: { easy: 2, fast: 4, half: 0.5 },
        actions: {
          walk: {
            kind: "axis",
            from: { main: { minus: "KeyA", plus: "KeyD" } },
            pace: {
              base: "easy",
              rules: [
                { when: "kick", set: "fast" },
                { when: "tuck", times: "half" },
              ],
              easeMs: 100,
            },
          },
          kick: { kind: "switch", from: { main: "ShiftLeft" } },
          tuck: { kind: "switch", from: { main: "KeyC" } },
        },
      }),
    );
    input.feed({ t: 0, control: "KeyD", value: 1 });
    expect(input.step(10).walk.v).toBe(2);
    input.setNumber("easy", 6, 20);
    expect([input.step(45).walk.v, input.step(120).walk.v, input.number("easy")]).toEqual([3, 6, 6]);
    const kept = input.snapshot();
    input.feed({ t: 130, control: "ShiftLeft", value: 1 });
    input.feed({ t: 130, control: "KeyC", value: 1 });
    expect(input.step(230).walk.pace).toBe(2);
    // In no use now, it changes nothing.
    input.setNumber("easy", 1);
    expect([input.step(500).walk.pace, input.number("easy")]).toEqual([2, 1]);
    input.restore(kept);
    expect([input.number("easy"), input.step(130).walk.v]).toEqual([6, 6]);
    input.reset();
    input.step(140);
    expect([input.number("easy"), input.now.walk.pace]).toEqual([2, 2]);
    expect(() => input.setNumber("easy", NaN)).toThrow("NaN is no value for easy; give a number");
    expect(() => input.setNumber("esay" as never, 1)).toThrow(
      'the plan has no number "esay"; it has easy, fast, half',
    );
    const plan = { ...input.plan, numbers: { eas: 2, fast: 4, half: 0.5 } };
    expect(() => parsePlan(plan)).toThrow(
      'actions.walk.pace.base: "easy" is none of the plan\'s numbers; did you mean eas?',
    );
  });

  test("a raw stick axis has up as +1", () => {
    expect(play(createInputLayer(plan)).pull("PadRightStickY", -1).wait(5).now.lean.value).toBe(1);
  });
});

describe("facing", () => {
  test("it stays when the movement ends", () => {
    const { swim } = hands().tap("KeyA").wait(200).now;
    expect([swim.facing.x, swim.facing.y]).toEqual([-1, 0]);
  });

  test.each([
    [59.5, true],
    [60, false],
  ])("a diagonal let go %d ms apart keeps the diagonal: %s", (apart, kept) => {
    const player = hands()
      .press("KeyW", "KeyD")
      .wait(100)
      .release("KeyW")
      .wait(apart)
      .release("KeyD")
      .wait(200);
    expect(player.now.swim.facing.x).toBeCloseTo(kept ? HALF : 1, 9);
  });

  test.each(["free", 4, 8] as const)(
    "with directions %s a stick turns it from a shaped length of facingFrom",
    (directions) => {
      const straight = { shape: { deadZone: { inner: 0, outer: 0 } }, directions };
      expect(hands(straight).tilt("PadLeftStick", 0.249, 0).wait(5).now.swim.facing.y).toBe(-1);
      expect(hands(straight).tilt("PadLeftStick", 0.25, 0).wait(5).now.swim.facing.x).toBe(1);
    },
  );
});

describe("gaits and pace", () => {
  const straight = {
    shape: { deadZone: { inner: 0, outer: 0 } },
    gaits: { drift: 0.05, cruise: 0.45, race: 0.9 },
  };

  test.each([
    [[0.049], null],
    [[0.05], "drift"],
    [[0.45], "cruise"],
    [[0.9], "race"],
    [[0.9, 0.86], "race"],
    [[0.9, 0.859], "cruise"],
    [[0.9, 0.42], "cruise"],
    [[0.45, 0.41], "cruise"],
    [[0.45, 0.4095], "drift"],
    [[0.9, 0], null],
  ])("tilts of %j end in the gait %s", (tilts, gait) => {
    const player = hands(straight);
    for (const tilt of tilts) player.tilt("PadLeftStick", tilt, 0).wait(5);
    expect(player.now.swim.gait).toBe(gait);
  });

  const plan = definePlan({
    reacherPlan: 1,
    flags: { hasAir: true },
    actions: {
      swim: {
        kind: "vector",
        from: { main: WASD, spare: ARROWS },
        pace: {
          unit: "m/s",
          base: 2.4,
          rules: [
            { when: ["kick", "hasAir"], set: 4.8 },
            { when: "not hasAir", times: 0.5 },
          ],
          easeMs: 100,
        },
      },
      kick: { kind: "switch", from: { main: "ShiftLeft" } },
    },
  });

  test("rules apply in order, and the pace moves in a straight line to its value", () => {
    const input = createInputLayer(plan);
    const player = play(input).press("KeyD", "ShiftLeft").wait(50);
    expect(player.now.swim.pace).toBeCloseTo(3.6, 9);
    expect(player.wait(50).now.swim.vx).toBeCloseTo(4.8, 9);
    input.setFlag("hasAir", false);
    expect(player.wait(50).now.swim.pace).toBeCloseTo(3, 9);
    expect(player.wait(200).now.swim.pace).toBeCloseTo(1.2, 9);
  });
});

test.each([
  ["PadDpadX", "PadDpadRight", "up", 1],
  ["PadDpadX", "PadDpadLeft", "down", -1],
  ["PadDpadY", "PadDpadUp", "up", 1],
  ["PadDpadY", "PadDpadUp", "down", -1],
  ["PadDpadY", "PadDpadDown", "down", 1],
] as const)("%s of an axis: %s with yAxis %s gives %d", (control, pressed, yAxis, value) => {
  const plan = definePlan({
    reacherPlan: 1,
    yAxis,
    actions: { walk: { kind: "axis", ends: ["left", "right"], from: { pad: control } } },
  });
  const hands = play(createInputLayer(plan)).press(pressed);
  expect(hands.now.walk.value).toBe(value);
  expect(hands.release(pressed).now.walk.value).toBe(0);
});
