/** The pointer as a direction. */
import * as fc from "fast-check";
import { createInputLayer, parsePlan, type InputLayer } from "reacher";
import { parseTrace, record, replay } from "reacher/trace";
import { WASD } from "./plans";
import { runs } from "./runs";

const plan = (more: object = {}, aim: object = {}) =>
  parsePlan({
    reacherPlan: 1,
    spots: { figure: [0, 0] },
    actions: {
      aim: {
        kind: "vector",
        from: {
          main: { use: "MousePoint", around: "figure", ...aim },
          keys: WASD,
          pad: "PadRightStick",
        },
        ...more,
      },
      fire: { kind: "switch", from: { main: { use: "aim.up", result: true } } },
      raw: { kind: "switch", from: { main: "aim.up" } },
    },
  });

function hands(made: ReturnType<typeof plan>) {
  const input = createInputLayer(made);
  let t = 0;
  const now = () =>
    input.now as unknown as {
      aim: { x: number; y: number; length: number; device: string | null };
      fire: { on: boolean };
      raw: { on: boolean };
    };
  return {
    input,
    now,
    point(x: number, y: number) {
      t += 10;
      input.feed({ t, control: "MousePointX", value: x });
      input.feed({ t, control: "MousePointY", value: y });
      input.step(t);
      return now().aim;
    },
    key(control: string, value: number) {
      t += 10;
      input.feed(control.startsWith("Pad") ? { t, control, value, pad: 0 } : { t, control, value });
      input.step(t);
      return now().aim;
    },
    tell(what: () => void) {
      what();
      input.step((t += 10));
      return now().aim;
    },
  };
}

test("the direction from a spot, full from a distance on, with y up, and no raw direction", () => {
  const { input, point, tell, now } = hands(plan());
  expect(point(0.5, 0)).toMatchObject({ x: 1, y: 0, length: 1, device: "mouse" });
  expect(point(0, -0.125)).toMatchObject({ x: 0, y: 0.5, length: 0.5 });
  expect([now().fire.on, now().raw.on]).toEqual([true, false]);
  expect(tell(() => input.setSpot("figure", 0, -0.125))).toMatchObject({ x: 0, y: 0, length: 0 });
  expect(tell(() => input.setSpot("figure", 0.3, -0.525))).toMatchObject({ x: -0.6, y: -0.8, length: 1 });
});

test("it counts from a move until a key or a stick, and these until it moves again", () => {
  const { input, point, key, tell, now } = hands(plan());
  expect(tell(() => undefined)).toMatchObject({ length: 0 });
  point(0, 0.5);
  expect(key("KeyD", 1)).toMatchObject({ x: 1, y: 0, device: "keyboard" });
  // A spot and another size of the page move the direction, and are no move of a hand.
  tell(() => input.setSpot("figure", 0.5, 0));
  expect(tell(() => input.setSpot("pointer", -0.5, 0))).toMatchObject({ x: 1, y: 0 });
  expect(point(-0.25, 0)).toMatchObject({ x: -1, y: 0, device: "mouse" });
  expect(tell(() => input.setSpot("pointer", 0.5, 0.5))).toMatchObject({ x: 0, y: -1 });
  key("KeyD", 0);
  expect(now().aim).toMatchObject({ x: 0, y: -1 });
  expect(key("PadRightStickX", 1)).toMatchObject({ x: 1, y: 0, device: "pad" });
  expect(key("PadRightStickX", 0)).toMatchObject({ length: 0 });
  point(0, 0);
  expect(tell(() => input.lose("focus"))).toMatchObject({ length: 0 });
  expect(point(0, 0.5).length).toBe(1);
  input.reset();
  expect(input.snapshot()).toBeDefined();
});

test("some pixels are noise, more within a second are the device used last", () => {
  const { input, point, key } = hands(plan());
  key("KeyA", 1);
  point(0.005, 0);
  expect(input.lastDevice).toBe("keyboard");
  // A slow drift is noise, however far it goes.
  for (let n = 2; n < 6; n++) {
    input.step(5000 * n);
    input.feed({ t: 5000 * n + 1, control: "MousePointX", value: 0.005 * n });
    input.step(5000 * n + 2);
    expect(input.lastDevice).toBe("keyboard");
  }
  for (const value of [0.03, 0.05]) input.feed({ t: 26_000, control: "MousePointX", value });
  input.step(26_001);
  expect(input.lastDevice).toBe("mouse");
});

test("4 directions keep the nearest, and a shape of the entry has its dead zone", () => {
  const four = hands(plan({ directions: 4 }));
  four.point(0.5, -0.1);
  expect(four.point(0.5, -0.52)).toMatchObject({ x: 1, y: 0 });
  expect(four.point(0.4, -0.52)).toMatchObject({ x: 0, y: 1 });
  const own = hands(plan({}, { fullFrom: 1, shape: { deadZone: { inner: 0.5, outer: 0 } } }));
  expect(own.point(0.4, 0)).toMatchObject({ length: 0 });
  expect(own.point(0.75, 0)).toMatchObject({ length: 0.5 });
});

test("a mode that uses the pointer itself hides it from the modes below, and shows it again where it is by then", () => {
  const made = parsePlan({
    reacherPlan: 1,
    modes: { dive: {}, map: {} },
    actions: {
      aim: { kind: "vector", in: ["dive"], from: { main: "MousePoint", pad: "PadRightStick" } },
      mark: { kind: "vector", in: ["map"], from: { main: "MousePoint" } },
    },
  } as never);
  const input = createInputLayer(made) as never as InputLayer;
  const x = (name: string) => (input.now[name] as never as { x: number }).x;
  input.feed({ t: 5, control: "MousePointX", value: 0.8 });
  input.step(10);
  expect([x("aim"), x("mark")]).toEqual([1, 0]);
  input.enter("map", 15);
  input.feed({ t: 20, control: "PadRightStickX", value: -1 });
  input.step(30);
  expect([x("aim"), x("mark")]).toEqual([-1, 1]);
  input.feed({ t: 35, control: "PadRightStickX", value: 0 });
  input.feed({ t: 36, control: "MousePointX", value: -0.8 });
  input.leave("map", 40);
  input.step(50);
  expect([x("aim"), x("mark")]).toEqual([-1, 0]);
});

test.each<[object, RegExp]>([
  [{ use: "MousePoint", around: "figre" }, /none of the plan's spots; did you mean figure\?/],
  [{ use: "PadLeftStick", around: "figure" }, /around is for MousePoint; PadLeftStick has no place/],
  [{ use: "MousePointX" }, /a vector takes it, as MousePoint/],
])("%j is told", (main, message) => {
  const raw = {
    reacherPlan: 1,
    spots: { figure: [0, 0] },
    actions: { aim: { kind: "vector", from: { main } } },
  };
  expect(() => parsePlan(raw)).toThrow(message);
});

test("wrong spots are told, in calls and in traces", () => {
  const input = createInputLayer(plan());
  expect(() => input.setSpot("boat" as never, 0, 0)).toThrow(/no spot "boat"; it has figure, pointer/);
  expect(() => input.setSpot("figure", NaN, 0)).toThrow(/NaN is no place for figure/);
  expect(() => parsePlan({ reacherPlan: 1, spots: { pointer: [0, 0] }, actions: {} })).toThrow(
    /the pointer's own place/,
  );
  expect(() => parseTrace('{"reacherTrace":1}\n{"t":1,"spot":"figure","value":[1]}')).toThrow(
    /line 2: value is/,
  );
});

test("a recording of it, begun at any moment, replays to the same readings", () => {
  const event = fc.oneof(
    fc.tuple(fc.constant("point"), fc.integer({ min: -8, max: 8 }), fc.integer({ min: -8, max: 8 })),
    fc.tuple(
      fc.constantFrom("figure", "pointer"),
      fc.integer({ min: -8, max: 8 }),
      fc.integer({ min: -8, max: 8 }),
    ),
    fc.tuple(
      fc.constantFrom("KeyW", "KeyA", "PadRightStickX", "lose"),
      fc.integer({ min: 0, max: 1 }),
      fc.constant(0),
    ),
  );
  fc.assert(
    fc.property(fc.array(event, { maxLength: 20 }), fc.nat(20), (play, from) => {
      const made = plan({ gaits: { near: 0.1, far: 0.9 } });
      const { input, point, key, tell } = hands(made);
      let recorder = record(input);
      const seen: string[] = [];
      play.forEach(([what, x, y], n) => {
        if (n === from) {
          recorder.stop();
          recorder = record(input);
          seen.length = 0;
        }
        if (what === "point") point(x / 8, y / 8);
        else if (what === "figure" || what === "pointer") tell(() => input.setSpot(what, x / 8, y / 8));
        else if (what === "lose") tell(() => input.lose("focus"));
        else key(what, x);
        const { aim } = input.now as unknown as { aim: { x: number; y: number } };
        seen.push(`${aim.x.toFixed(6)} ${aim.y.toFixed(6)}`);
      });
      const rows = replay(made, parseTrace(recorder.text()).entries, { every: 10 });
      const last = rows
        .flatMap((row) => ("now" in row ? [row.now["aim"] as { x: number; y: number }] : []))
        .at(-1);
      if (seen.length > 0 && last !== undefined)
        expect(
          `${(last.x + 0).toFixed(6)} ${(last.y + 0).toFixed(6)}`.replaceAll("-0.000000", "0.000000"),
        ).toBe(seen.at(-1)!.replaceAll("-0.000000", "0.000000"));
    }),
    runs(150),
  );
});
