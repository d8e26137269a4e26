/** Controls that a plan names itself are worth what keys and sticks are worth. */
import { createInputLayer, ReacherError, type InputLayer, type Overrides, type Plan } from "reacher";
import { capture, editOverrides, prompt } from "reacher/rebind";
import { play } from "reacher/testing";
import { explain, packEvents, parseTrace, record, replay, unpackEvents } from "reacher/trace";
import { checkPlan } from "../src/plan/check";
import { readPlan } from "../src/plan/read";
import { WASD } from "./plans";
import { changes } from "./scripts";

const controls = {
  Fire: { kind: "button", label: "Fire" },
  Hop: "button",
  Pedal: "trigger",
  Steer: "axis",
  Thumb: { kind: "stick", label: "Thumb stick", device: "touch" },
  Tilt: { kind: "amount", device: "sensor", keepsFocus: true },
};
const sw = (main: unknown, more: object = {}) => ({ kind: "switch", from: { main }, ...more });
const own = controls as unknown as NonNullable<Plan["controls"]>;
const plan = (actions: object, more: object = {}): Plan =>
  ({ reacherPlan: 1, controls, actions, ...more }) as unknown as Plan;

describe("what keys do, they do", () => {
  test.each([
    ["Hop", {}],
    [{ taps: 2, of: "Hop", gapMs: 200 }, {}],
    [{ short: "Hop", beforeMs: 100 }, {}],
    [{ long: "Hop", afterMs: 100 }, {}],
    [{ all: ["Hop", "KeyF"] }, {}],
    [{ series: ["Hop", "KeyF"] }, {}],
    ["Hop", { style: "toggle" }],
    ["Hop", { style: "either", tapMs: 100 }],
    ["Hop", { repeat: { everyMs: 50 } }],
    ["Hop", { cooldownMs: 120, bufferMs: 200 }],
  ])("%j %j as a key would", (entry, more) => {
    const script =
      "+Hop 90 -Hop 20 +Hop 150 -Hop 40 +KeyF 10 +Hop 60 -KeyF 10 -Hop 300 +Hop 30 blur 20 -Hop 10 +Hop 5 -Hop";
    const asKey = (value: unknown) => JSON.parse(JSON.stringify(value).replaceAll("Hop", "KeyH")) as object;
    const told = changes({ hop: sw(asKey(entry), more) }, script.replaceAll("Hop", "KeyH"));
    expect(changes({ hop: sw(entry, more) }, script, { controls: own })).toBe(told);
    expect(told).not.toBe("");
  });

  test("sticks, triggers and axes have thresholds, dead zones, curves and ease, and are cut to their range", () => {
    const input: InputLayer = createInputLayer(
      plan({
        swim: {
          kind: "vector",
          from: { main: "Thumb" },
          shape: { deadZone: { inner: 0.5, outer: 0 }, curve: { power: 2 } },
        },
        drive: { kind: "axis", from: { main: "Steer" }, shape: { deadZone: { inner: 0, outer: 0 } } },
        gas: { kind: "axis", from: { main: { plus: "Pedal" } }, shape: { deadZone: { inner: 0, outer: 0 } } },
        brake: sw({ use: "Pedal", threshold: { press: 0.9 } }),
        up: sw("ThumbUp"),
        aim: sw({ taps: 2, of: "swim.right" }),
        look: { kind: "turn", from: { main: { use: "Tilt", perUnit: 2 } } },
      }),
    );
    const feed = (t: number, control: string, value: number) => input.feed({ t, control, value });
    const now = () => JSON.parse(JSON.stringify(input.copy())) as Record<string, Record<string, number>>;
    feed(0, "ThumbX", 0.6);
    feed(0, "ThumbY", -0.8);
    feed(0, "Steer", -7);
    feed(0, "Pedal", 0.95);
    feed(0, "TiltX", 3);
    feed(5, "TiltX", -1);
    input.step(10);
    const { swim, drive, gas, brake, up, look } = now();
    expect([swim!["x"], swim!["y"], swim!["device"], drive!["value"], gas!["value"]]).toEqual([
      0.6,
      0.8,
      "touch",
      -1,
      0.95,
    ]);
    expect([brake!["on"], up!["on"], look!["dx"], input.lastDevice]).toEqual([true, true, 4, "sensor"]);
    feed(20, "ThumbX", 0);
    feed(20, "ThumbY", -0.75);
    input.step(20);
    expect([now()["swim"]!["x"], now()["swim"]!["y"]]).toEqual([0, 0.25]);
    expect(input.lastDevice).toBe("touch");
  });
});

describe("seats, losses, and what remembers", () => {
  const two = plan(
    {
      swim: { kind: "vector", from: { left: WASD, touch: "Thumb" } },
      hop: sw("Hop", { from: { left: "Space", touch: "Hop" } }),
      look: { kind: "turn", from: { touch: { use: "Tilt", perUnit: 1 } } },
    },
    {
      slots: { left: {}, touch: {} },
      seats: { amber: { slots: ["left", "touch"] }, teal: { slots: ["touch"] } },
    },
  );
  const on = (input: InputLayer) =>
    input.seats.map((name) => (input.seat(name).now["hop"] as unknown as { on: boolean }).on);

  test("on the layer it goes to each seat that binds it, on a seat to that one; a recording says so", () => {
    const input: InputLayer = createInputLayer(two);
    const recorder = record(input);
    input.feed({ t: 0, control: "Hop", value: 1 });
    input.step(0);
    expect(on(input)).toEqual([true, true]);
    input.feed({ t: 5, control: "Hop", value: 0 });
    input.seat("teal").feed({ t: 10, control: "Hop", value: 1 });
    input.seat("teal").feed({ t: 10, control: "ThumbX", value: 1 });
    input.step(10);
    expect(on(input)).toEqual([false, true]);
    input.seat("amber").feed({ t: 20, control: "Hop", value: 1 });
    input.seat("teal").lose("own", 30);
    input.step(40);
    expect(on(input)).toEqual([true, false]);
    const text = recorder.text();
    expect(text).toContain('"control":"Hop","value":1,"seat":"teal"');
    expect(text).toContain('{"t":30,"lost":"own","seat":"teal"}');
    const rows = replay(two, parseTrace(text).entries);
    expect(rows.filter((row) => "on" in row).map((row) => `${row.seat} ${JSON.stringify(row)}`)).toHaveLength(
      7,
    );
    expect(rows).toContainEqual({ at: 30, seat: "teal", action: "hop", on: false, endedBy: "lost" });
    expect(rows).toContainEqual(
      expect.objectContaining({ at: 16.666667, seat: "teal", action: "swim", x: 1 }),
    );
    // A recording that begins while it is held says whose it is.
    const late = record(input);
    input.step(50);
    expect(late.text()).toContain('"control":"Hop","value":1,"seat":"amber"');
    // Against a plan that has no such control nothing of it happens.
    expect(replay(plan({ hop: sw("KeyH") }, { controls: {} }), parseTrace(text).entries)).toEqual([]);
    expect(() => input.seat("teal").feed({ t: 60, control: "KeyW", value: 1 })).toThrow(ReacherError);
  });

  test("a lost focus rests it unless it keeps without; a lost device rests what is on it", () => {
    const keeping = plan(
      { hop: sw(["Hop", "Fire"]), glide: sw("ThumbUp"), gas: sw("Pedal") },
      { controls: { ...own, Pedal: { kind: "trigger", keepsFocus: true } } },
    );
    const input: InputLayer = createInputLayer(keeping);
    const seen: string[] = [];
    for (const name of ["hop", "glide", "gas"])
      input.on(name as never, "off", (t, by) => seen.push(`${name} ${t} ${by}`));
    for (const [control, value] of Object.entries({ Hop: 1, ThumbY: -1, Pedal: 1 }))
      input.feed({ t: 0, control, value });
    input.lose("focus", 10);
    for (const [control, value] of Object.entries({ Hop: 0, ThumbY: 0 }))
      input.feed({ t: 20, control, value });
    for (const [control, value] of Object.entries({ Hop: 1, ThumbY: -1 }))
      input.feed({ t: 30, control, value });
    input.lose("touch", 40);
    input.lose("own", 50);
    input.step(60);
    expect(seen).toEqual(["hop 10 lost", "glide 10 lost", "glide 40 lost", "hop 50 lost", "gas 50 lost"]);
    expect(() => input.lose("tuoch")).toThrow(
      'it is "focus", "own", "touch", "sensor", or "pad" with its index',
    );
  });

  test("packed events know them, with the plan on both sides", () => {
    const events = [
      { t: 1, control: "Hop", value: 1 },
      { t: 2, control: "ThumbY", value: -0.25 },
      { t: 3, lost: "touch" },
      { t: 4, control: "KeyW", value: 1 },
    ];
    const bytes = packEvents(events, 0, 16, two);
    expect(unpackEvents(bytes, 0, two)).toMatchObject(events);
    expect(() => packEvents(events, 0, 16)).toThrow("own ones need the plan");
    expect(() => unpackEvents(bytes, 0)).toThrow(ReacherError);
  });

  test("another plan keeps what is held by its name; one that has it as another kind loses it", () => {
    const actions = { hop: sw("Hop"), fire: sw("Fire"), swim: { kind: "vector", from: { main: "Thumb" } } };
    const input: InputLayer = createInputLayer(plan(actions));
    const seen: string[] = [];
    for (const name of ["hop", "fire"])
      input.on(name as never, "off", (t, by) => seen.push(`${name} ${t} ${by}`));
    for (const [control, value] of Object.entries({ Hop: 1, Fire: 1, ThumbX: 1 }))
      input.feed({ t: 0, control, value });
    input.step(0);
    input.feed({ t: 20, control: "Hop", value: 0 });
    const { Hop, Thumb, ...rest } = own as Record<string, object>;
    input.setPlan(plan(actions, { controls: { Extra: "trigger", Thumb, Hop, ...rest, Fire: "trigger" } }));
    input.step(10);
    expect(seen).toEqual(["fire 0 bindings"]);
    expect((input.now["swim"] as unknown as { x: number }).x).toBe(1);
    expect(input.lastDevice).toBe("touch");
    input.step(30);
    expect(seen).toEqual(["fire 0 bindings", "hop 20 released"]);
  });

  test("why, prompts, capture, clashes and overrides speak of them", async () => {
    const all = plan(
      {
        swim: { kind: "vector", from: { main: WASD, touch: "Thumb" } },
        fire: sw("KeyF", { from: { main: "KeyF", touch: "Fire" } }),
        hop: sw("Space", { from: { main: "Space", touch: "Hop" }, player: { controls: true } }),
      },
      { slots: { main: { device: "keyboard" }, touch: { device: "own" } } },
    );
    const input: InputLayer = createInputLayer(all);
    const hands = play(input).press("Fire").wait(10);
    expect(prompt(input, "fire" as never)).toMatchObject({ text: "Fire", controls: ["Fire"] });
    hands.release("Fire").tilt("Thumb", 0, 1).step();
    expect(prompt(input, "swim" as never).text).toBe("Thumb stick");
    hands.press("KeyF").step();
    expect(prompt(input, "fire" as never).text).toBe("F");
    hands.release("KeyF").tilt("Thumb", 0, 0).step();
    const caught = capture(input, { address: "hop.touch" });
    for (const [t, value] of [
      [100, 1],
      [110, 0],
    ] as const)
      input.feed({ t, control: "Fire", value });
    expect(await caught.done).toEqual({ control: "Fire" });
    // One that is fed to a seat is caught and announced as well.
    const again = capture(input, { address: "hop.touch" });
    const pressed: string[] = [];
    const off = input.onPress(({ control, t }) => pressed.push(`${control} ${t}`));
    for (const [t, value] of [
      [120, 1],
      [130, 0],
    ] as const)
      input.seat("solo").feed({ t, control: "Hop", value });
    expect(await again.done).toEqual({ control: "Hop" });
    input.seat("solo").feed({ t: 140, control: "Hop", value: 1 });
    input.seat("solo").feed({ t: 150, control: "Hop", value: 0 });
    input.step(160);
    expect(pressed).toEqual(["Hop 140"]);
    off();
    const editor = editOverrides(all);
    expect(editor.rebind("hop.touch", "Fire")).toMatchObject({
      clashes: [{ action: "fire", control: "Fire" }],
    });
    const overrides: Overrides = { reacherOverrides: 1, controls: { "hop.touch": "Pedal" } };
    expect(input.setOverrides(overrides)).toEqual([]);
    input.feed({ t: 200, control: "Pedal", value: 1 });
    expect((input.step(200)["hop"] as unknown as { by: string }).by).toBe("Pedal");
    const reasons = explain(all, [{ t: 0, control: "Hop", value: 1, pad: 0 }]);
    expect(reasons.map(({ action, text }) => `${action}: ${text}`)).toEqual(["hop: Hop pressed"]);
  });
});

test.each([
  [{ "Fi-re": "button" }, "bad-name controls.Fi-re: Fi-re is no name of a control: letters and digits alone"],
  [
    { PadFire: "button" },
    "bad-name controls.PadFire: PadFire begins like a control of a device; take another name",
  ],
  [{ Space: "button" }, "same-name controls.Space: Space: a control has that name; take another name"],
  [{ hop: "button" }, "same-name controls.hop: hop: an action has that name; take another name"],
  [
    { Thumb: "stick", ThumbUp: "button" },
    "same-name controls.ThumbUp: ThumbUp: Thumb has a part of that name; take another name",
  ],
  [
    { Fire: { kind: "button", device: "pad" } },
    "wrong-value controls.Fire.device: pad is taken; name a device of the game's own, such as touch",
  ],
  [{ Fire: "lever" }, "wrong-value controls.Fire"],
  [
    Object.fromEntries(Array.from({ length: 65 }, (_, n) => [`B${n}`, "button"])),
    "wrong-value controls: has 65 controls; it has 64 at most",
  ],
])("%j is told: %s", (given, told) => {
  const read = readPlan({ reacherPlan: 1, controls: given, actions: { hop: sw("KeyH") } });
  const findings = read.ok ? [] : read.findings.map(({ id, place, message }) => `${id} ${place}: ${message}`);
  expect(findings.join("; ")).toContain(told);
});

test("names that are near are told, slots may be for their devices, and one that nothing uses is a hint", () => {
  const findings = (actions: object, more: object = {}) =>
    checkPlan(plan(actions, { controls: own, ...more })).findings.map(
      ({ id, place, message }) => `${id} ${place}: ${message}`,
    );
  expect(findings({ hop: sw("Fier") })).toEqual([
    'unknown-control actions.hop.from.main: "Fier" is no control; did you mean Fire?',
  ]);
  expect(findings({ hop: sw("Hop") }, { slots: { main: { device: "tuoch" } } })).toEqual([
    'wrong-value slots.main.device: is "tuoch"; it is keyboard, mouse, pad, own, touch or sensor; did you mean touch?',
  ]);
  expect(
    findings({ hop: sw("Hop") }, { slots: { main: { device: "touch" } }, controls: { Hop: "button" } }),
  ).toEqual(['wrong-value slots.main.device: is "touch"; it is keyboard, mouse, pad or own']);
  const used = { swim: { kind: "vector", from: { main: "Thumb" } }, hop: sw(["Hop", "Fire", "Pedal"]) };
  expect(findings(used).filter((text) => text.startsWith("unused"))).toEqual([
    "unused-control controls.Steer: no action uses it",
    "unused-control controls.Tilt: no action uses it",
  ]);
  expect(findings({ look: { kind: "turn", from: { main: { use: "Tilt", perPixel: 1 } } } })[0]).toBe(
    "turn-unit actions.look.from.main: Tilt is an amount, which adds up: give perUnit, and no perPixel",
  );
});
