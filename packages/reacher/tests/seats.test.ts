/** Several players: each with slots, a pad, modes, flags and mutes of their own. */
import fc from "fast-check";
import { createInputLayer, parsePlan, type InputLayer, type Plan } from "reacher";
import { parseTrace, record, replay, startExplaining, startReplay } from "reacher/trace";
import { ARROWS, WASD } from "./plans";
import { runs } from "./runs";

const two = (more: object = {}) =>
  ({
    reacherPlan: 1,
    name: "two",
    seats: { amber: { slots: ["leftHand", "pad"] }, teal: { slots: ["rightHand", "pad"] } },
    flags: { hasAir: true },
    modes: { dive: {}, menu: { covers: "all" } },
    actions: {
      swim: {
        kind: "vector",
        in: ["dive"],
        ease: { riseMs: 40, fallMs: 30 },
        from: { leftHand: WASD, rightHand: ARROWS, pad: "PadLeftStick" },
      },
      kick: {
        kind: "switch",
        needs: "hasAir",
        in: ["dive"],
        from: { leftHand: "ShiftLeft", rightHand: "Enter", pad: "PadSouth" },
      },
      surge: {
        kind: "switch",
        from: { leftHand: { taps: 2, of: "swim.each" }, rightHand: { taps: 2, of: "swim.each" } },
      },
      pause: { kind: "switch", from: { leftHand: "Escape" } },
    },
    ...more,
  }) as unknown as Plan;

/** A layer for two, and what became of its pads. */
function forTwo() {
  const input = createInputLayer(two());
  const pads: string[] = [];
  input.onPads(({ seat, pad, what }) => pads.push(`${seat} ${pad} ${what}`));
  const amber = input.seat("amber");
  const teal = input.seat("teal");
  const x = () =>
    [amber, teal].map((seat) => Math.round((seat.now["swim"] as unknown as { x: number }).x * 100) / 100);
  return { input, amber, teal, pads, x };
}

test("two players on one keyboard move at once, each by their own keys", () => {
  const { input, amber, teal, x } = forTwo();
  for (const control of ["KeyD", "ArrowLeft", "Enter"]) input.feed({ t: 1, control, value: 1 });
  const first = input.step(100);
  expect(first).toBe(amber.now);
  expect([x(), amber.now["kick"], teal.now["kick"]]).toMatchObject([[1, -1], { on: false }, { on: true }]);
  expect([amber.lastDevice, input.seats, input.uses("ArrowUp"), teal.uses("KeyW")]).toEqual([
    "keyboard",
    ["amber", "teal"],
    true,
    false,
  ]);
});

test("modes, flags and mutes are each seat's own; a lost focus is everybody's", () => {
  const { input, amber, teal, x } = forTwo();
  for (const control of ["KeyD", "ArrowLeft", "Enter", "ShiftLeft"]) input.feed({ t: 1, control, value: 1 });
  teal.enter("menu", 50);
  amber.setFlag("hasAir", false, 50);
  input.step(100);
  expect([x(), amber.now["kick"], teal.now["kick"]]).toMatchObject([[1, 0], { on: false }, { on: false }]);
  teal.leave("menu", 110);
  amber.mute("swim", "reel", 110);
  input.step(200);
  expect([x(), teal.now["kick"]]).toMatchObject([[0, -1], { on: true }]);
  amber.unmute("swim", "reel", 210);
  input.lose("focus", 220);
  input.step(300);
  expect(x()).toEqual([0, 0]);
});

test("a pad joins by a press that is seen, is lost and waited for, and comes back", () => {
  const { input, amber, teal, pads, x } = forTwo();
  // Noise gives a pad to nobody.
  input.feed({ t: 1, control: "PadLeftStickX", value: 0.2, pad: 3 });
  expect([input.step(2), pads, amber.pad]).toMatchObject([{}, [], null]);
  input.feed({ t: 3, control: "PadSouth", value: 1, pad: 3 });
  input.feed({ t: 3, control: "PadLeftStickX", value: 1, pad: 3 });
  input.feed({ t: 4, control: "PadLeftStickX", value: -1, pad: 0 });
  input.step(10);
  expect([amber.pad, teal.pad, x(), amber.now["kick"]]).toMatchObject([3, 0, [1, -1], { on: true }]);
  // A third pad finds no seat.
  input.feed({ t: 11, control: "PadSouth", value: 1, pad: 1 });
  input.lose("pad", 3, 12);
  input.step(20);
  expect([x(), amber.padLost, amber.now["kick"]]).toMatchObject([[0, -1], true, { on: false }]);
  input.feed({ t: 21, control: "PadLeftStickX", value: 0.9, pad: 3 });
  input.step(30);
  expect([amber.padLost, amber.pad]).toEqual([false, 3]);
  expect(pads).toEqual(["amber 3 taken", "teal 0 taken", " 1 unassigned", "amber 3 lost", "amber 3 back"]);
});

test("another pad may take a waiting seat where nobody else could use it, and pads change hands by call", () => {
  const { input, amber, teal, pads } = forTwo();
  input.feed({ t: 1, control: "PadSouth", value: 1, pad: 0 });
  input.assignPad("teal", 5);
  input.lose("pad", 0, 2.5);
  // Not by a press from before its own was lost.
  input.feed({ t: 2, control: "PadSouth", value: 1, pad: 6 });
  expect(amber.pad).toBe(0);
  input.feed({ t: 3, control: "PadSouth", value: 1, pad: 7 });
  input.step(10);
  expect([amber.pad, amber.padLost, amber.now["kick"]]).toMatchObject([7, false, { on: true }]);
  input.assignPad("teal", 7);
  expect([amber.pad, teal.pad, input.step(20)["kick"]]).toMatchObject([null, 7, { on: false }]);
  input.assignPad("teal", null);
  expect([teal.pad, pads.at(-1)]).toEqual([null, "teal 7 freed"]);
  expect(() => input.assignPad("coral", 1)).toThrow('there is no seat "coral"; this plan has amber, teal');
  expect(() => input.assignPad("teal", -1)).toThrow("-1 is no pad; give the index of a pad, or null");
});

test("values that no pad gives are cut or ignored, and counted", () => {
  const { input, x } = forTwo();
  input.feed({ t: 1, control: "PadLeftStickX", value: 40, pad: 0 });
  input.feed({ t: 1, control: "PadLeftStickY", value: NaN, pad: 0 });
  input.feed({ t: 1, control: "PadSouth", value: 1, pad: 0.5 });
  input.feed({ t: 1, control: "PadFront", value: 1, pad: 0 });
  input.step(2);
  expect([x(), input.counters.ignored]).toEqual([[1, 0], 3]);
});

test("a recording of two players replays as it was, their pads and what the game told each included", () => {
  const { input, teal } = forTwo();
  const recorder = record(input);
  const seen: string[] = [];
  for (const name of ["amber", "teal"])
    for (const change of ["on", "off"] as const)
      input.seat(name).on("kick" as never, change, (t) => seen.push(`${t} ${name} ${change}`));
  input.step(0);
  input.feed({ t: 10, control: "Enter", value: 1 });
  input.feed({ t: 20, control: "ShiftLeft", value: 1 });
  teal.setFlag("hasAir", false, 30);
  input.feed({ t: 40, control: "PadEast", value: 1, pad: 2 });
  input.feed({ t: 45, control: "ShiftLeft", value: 0 });
  input.feed({ t: 50, control: "PadSouth", value: 1, pad: 2 });
  teal.enter("menu", 60);
  input.lose("focus", 70);
  input.step(100);
  const text = recorder.text({ now: 100 });
  // Its times count from the first event, at 10 ms.
  expect(text).toContain('{"t":20,"flag":"hasAir","value":false,"seat":"teal"}');
  expect(text).toContain('{"t":30,"seatPad":"amber","pad":2}');
  expect(text.match(/"lost":"focus","seat"/g)).toHaveLength(2);
  const rows = replay(two(), parseTrace(text).entries, {
    action: "kick",
  });
  const again = rows.map((row) => `${row.at + 10} ${row.seat} ${"on" in row && row.on ? "on" : "off"}`);
  expect(again.sort()).toEqual(seen.sort());
  expect(seen).toHaveLength(6);
});

const keys = { amber: [...Object.values(WASD), "ShiftLeft"], teal: [...Object.values(ARROWS), "Enter"] };

/** What one player does: keys, the pad of theirs, and what the game tells them. */
function doing(seat: "amber" | "teal", pad: number) {
  const t = fc.integer({ min: 1, max: 900 });
  return fc.array(
    fc.oneof(
      fc.record({ t, control: fc.constantFrom(...keys[seat]), value: fc.constantFrom(0, 1) }),
      fc.record({
        t,
        control: fc.constantFrom("PadLeftStickX", "PadSouth"),
        value: fc.constantFrom(0, 0.3, 1),
        pad: fc.constant(pad),
      }),
      fc.record({ t, flag: fc.boolean() }),
      fc.record({ t, enter: fc.boolean() }),
      fc.record({ t, mute: fc.boolean() }),
      fc.record({ t, lost: fc.constant(pad) }),
    ),
    { maxLength: 40 },
  );
}

test("two seats never influence each other", () => {
  fc.assert(
    fc.property(doing("amber", 0), doing("teal", 1), fc.constantFrom(20, 60, 144), (mine, others, hz) => {
      const run = (lists: ["amber" | "teal", typeof mine][]) => {
        const input = createInputLayer(two());
        input.assignPad("amber", 0);
        input.assignPad("teal", 1);
        const seen: string[] = [];
        const amber = input.seat("amber");
        const all = lists.flatMap(([name, list]) => list.map((event) => ({ name, event })));
        all.sort((a, b) => a.event.t - b.event.t);
        let next = 0;
        for (let n = 0; n <= hz; n++) {
          const now = (n * 1000) / hz;
          for (; next < all.length && all[next]!.event.t <= now; next++) {
            const { name, event } = all[next]!;
            const seat = input.seat(name);
            if ("control" in event) input.feed(event);
            else if ("flag" in event) seat.setFlag("hasAir", event.flag, event.t);
            else if ("enter" in event) seat[event.enter ? "enter" : "leave"]("menu", event.t);
            else if ("mute" in event) seat[event.mute ? "mute" : "unmute"]("swim", "reel", event.t);
            else input.lose("pad", event.lost, event.t);
          }
          input.step(now);
          seen.push(JSON.stringify(amber.now));
        }
        return seen;
      };
      expect(
        run([
          ["amber", mine],
          ["teal", others],
        ]),
      ).toEqual(run([["amber", mine]]));
    }),
    runs(50),
  );
});

test("one who plays alone has all slots; a second joins and leaves while keys are held", () => {
  const { input, amber, teal, pads, x } = forTwo();
  input.openSeats(["amber"]);
  for (const control of ["ArrowRight", "ShiftLeft"]) input.feed({ t: 1, control, value: 1 });
  input.feed({ t: 1, control: "PadSouth", value: 1, pad: 4 });
  input.step(100);
  expect([x(), amber.now["kick"], teal.pad, input.open]).toMatchObject([
    [1, 0],
    { on: true },
    null,
    ["amber"],
  ]);
  // Teal's keys are teal's from now on: amber lets go of them, and what amber holds goes on, in its mid-press too.
  input.openSeats(["amber", "teal"]);
  input.feed({ t: 110, control: "PadSouth", value: 1, pad: 9 });
  input.step(200);
  expect([x(), amber.now["kick"], teal.pad]).toMatchObject([[0, 0], { on: true, presses: 0 }, 9]);
  input.feed({ t: 210, control: "ArrowRight", value: 0 });
  input.feed({ t: 220, control: "ArrowLeft", value: 1 });
  input.step(300);
  expect(x()).toEqual([0, -1]);
  input.openSeats(["amber"]);
  input.step(400);
  // A key that is down already counts when it is pressed anew.
  expect([x(), teal.pad, pads.at(-1)]).toEqual([[0, 0], null, "teal 9 freed"]);
  input.feed({ t: 410, control: "ArrowLeft", value: 0 });
  input.feed({ t: 420, control: "ArrowLeft", value: 1 });
  input.step(500);
  expect(x()).toEqual([-1, 0]);
  expect(() => input.openSeats([])).toThrow("no seat is named; at least one has to play");
});

test("a change of slots that changes no control of a seat changes nothing for it", () => {
  const plan = two({
    slots: { leftHand: {}, pad: {}, nothing: {} },
    seats: { amber: { slots: ["leftHand", "pad"] }, teal: { slots: ["nothing"] } },
    actions: {
      ...Object.fromEntries(
        Object.entries(two().actions).map(([name, { from, ...action }]: [string, any]) => {
          const { leftHand, pad } = from;
          return [name, { ...action, from: { leftHand, ...(pad && { pad }) } }];
        }),
      ),
      grab: { kind: "switch", from: { leftHand: { short: "KeyG" } } },
      haul: { kind: "switch", from: { leftHand: { long: "KeyG", afterMs: 200 } } },
      lamp: { kind: "switch", style: "either", from: { leftHand: { use: "KeyF", waits: true } } },
      flash: { kind: "switch", from: { leftHand: { all: ["KeyF", "KeyG"] } } },
      snip: { kind: "switch", repeat: { everyMs: 70 }, cooldownMs: 100, from: { leftHand: "KeyX" } },
      look: { kind: "turn", from: { pad: { use: "PadLeftStick", perSecond: 90 } } },
    },
  });
  const t = fc.integer({ min: 1, max: 180 }).map((n) => n * 5);
  const events = fc.array(
    fc.oneof(
      fc.record({
        t,
        control: fc.constantFrom(...keys.amber, "KeyG", "KeyF", "KeyX"),
        value: fc.constantFrom(0, 1),
      }),
      fc.record({
        t,
        control: fc.constantFrom("PadLeftStickX", "PadSouth"),
        value: fc.constantFrom(0, 0.4, 1),
      }),
      fc.record({ t, flag: fc.boolean() }),
      fc.record({ t, enter: fc.boolean() }),
    ),
    { maxLength: 50 },
  );
  fc.assert(
    fc.property(events, fc.array(fc.integer({ min: 0, max: 50 }), { maxLength: 6 }), (list, changes) => {
      const run = (changing: boolean) => {
        const input = createInputLayer(plan);
        input.assignPad("amber", 0);
        const seen: string[] = [];
        for (const [name, { kind }] of Object.entries(plan.actions))
          for (const change of kind === "switch" ? (["on", "off", "pulse"] as const) : [])
            input.on(name as never, change, (at) => seen.push(`${at} ${name} ${change}`));
        const events = [...list].sort((a, b) => a.t - b.t);
        let next = 0;
        for (let n = 0; n <= 50; n++) {
          for (; next < events.length && events[next]!.t <= n * 20; next++) {
            const event = events[next]!;
            if ("control" in event) input.feed(event);
            else if ("flag" in event) input.setFlag("hasAir" as never, event.flag, event.t);
            else input[event.enter ? "enter" : "leave"]("menu", event.t);
          }
          input.step(n * 20);
          seen.push(JSON.stringify(input.now));
          if (changing && changes.includes(n)) {
            input.openSeats(["amber"]);
            input.openSeats(["amber", "teal"]);
          }
        }
        return seen;
      };
      expect(run(true)).toEqual(run(false));
    }),
    runs(60),
  );
});

const trace = (...lines: object[]) =>
  parseTrace(['{"reacherTrace":1}', ...lines.map((line) => JSON.stringify(line))].join("\n")).entries;

test("a trace says who plays, and whom the game told something: one seat, or all", () => {
  const entries = trace(
    { t: 0, openSeats: ["amber"] },
    { t: 10, control: "Enter", value: 1 },
    { t: 50, openSeats: ["amber", "teal"] },
    { t: 60, control: "Enter", value: 0 },
    { t: 70, control: "Enter", value: 1 },
    { t: 80, control: "ShiftLeft", value: 1 },
    { t: 90, flag: "hasAir", value: false, seat: "teal" },
    { t: 100, flag: "hasAir", value: false },
    { t: 110, end: true },
  );
  const rows = replay(two(), entries, { action: "kick", hz: 100 });
  expect(rows.map((row) => `${row.at} ${row.seat} ${"on" in row && row.on}`)).toEqual([
    "10 amber true",
    // Enter is teal's from 50 on; amber lets go of it, and teal's press counts when it comes.
    "50 amber false",
    "70 teal true",
    "80 amber true",
    "90 teal false",
    "100 amber false",
  ]);
});

test("lines of a trace that name no seat of the plan are skipped and counted", () => {
  const skipped = (...lines: object[]) => {
    const running = startReplay(two(), {}, () => {});
    for (const entry of trace(...lines)) running.push(entry);
    running.finish();
    return [...running.skipped];
  };
  expect(skipped({ t: 1, enter: "menu", seat: "coral" }, { t: 2, seatPad: "coral", pad: 1 })).toEqual([
    ["seat coral", 2],
  ]);
  expect(skipped({ t: 1, openSeats: ["amber", "coral"] })).toEqual([["seat coral", 1]]);
  for (const seats of [[], "amber", [1]])
    expect(() => trace({ t: 1, openSeats: seats })).toThrow(
      /line 2: openSeats is .*; it is a list of seats, one at least/,
    );
});

test("why is told of one seat at a time", () => {
  const entries = trace(
    { t: 10, mute: "kick", reason: "reel", seat: "teal" },
    { t: 20, control: "Enter", value: 1 },
    { t: 30, control: "ShiftLeft", value: 1 },
  );
  const told = (seat?: string) => {
    const reasons: string[] = [];
    const running = startExplaining(
      two(),
      ({ at, action, text }) => void reasons.push(`${at} ${action}: ${text}`),
      seat,
    );
    for (const entry of entries) running.push(entry);
    running.finish();
    return reasons;
  };
  expect(told()).toEqual(["30 kick: ShiftLeft pressed"]);
  expect(told("teal")).toEqual(["20 kick: muted: reel"]);
  expect(() => told("coral")).toThrow('there is no seat "coral"');
});

test("while a ramp or a turn flows, a replay gives one row a step, and none after", () => {
  const flowing = parsePlan({
    reacherPlan: 1,
    actions: {
      swim: { kind: "axis", from: { main: { plus: "KeyD" } }, ease: { riseMs: 30, fallMs: 20 } },
      look: {
        kind: "turn",
        from: { main: { use: "MouseMove", perPixel: 1 }, pad: { use: "PadRightStick", perSecond: 100 } },
      },
    },
  });
  const rows = replay(
    flowing,
    trace(
      { t: 0, control: "KeyD", value: 1 },
      { t: 15, control: "MouseMoveX", value: 4 },
      { t: 60, control: "PadRightStickX", value: -1 },
      { t: 80, control: "PadRightStickX", value: 0 },
      { t: 90, control: "KeyD", value: 0 },
      { t: 200, end: true },
    ),
    { hz: 100 },
  );
  expect(rows.map((row) => [row.at, "value" in row ? row.value : "dx" in row && [row.dx, row.dy]])).toEqual([
    [10, 0.333333],
    [20, 0.666667],
    [20, [4, 0]],
    [30, 1],
    [70, [-1, 0]],
    [80, [-1, 0]],
    [100, 0.5],
    [110, 0],
  ]);
});

describe("seats that sleep", () => {
  const lamp = (seat: { now: object }) =>
    (seat.now as { kick: { on: boolean; onMs: number; turnedOn: boolean } }).kick;

  test("read as of the layer's last step, and wake by their own events alone", () => {
    const { input, amber, teal } = forTwo();
    input.feed({ t: 10, control: "Enter", value: 1 });
    input.step(20);
    expect([lamp(teal).turnedOn, lamp(teal).onMs]).toEqual([true, 10]);
    for (let t = 30; t <= 500; t += 10) {
      input.feed({ t: t - 5, control: "ShiftLeft", value: (t / 10) % 2 });
      input.step(t);
    }
    expect([lamp(teal).turnedOn, lamp(teal).onMs, lamp(amber).on]).toEqual([false, 490, false]);
    input.feed({ t: 505, control: "Enter", value: 0 });
    input.step(510);
    expect(lamp(teal).on).toBe(false);
  });

  test("a callback of one seat that tells another is heard by the next step at the latest", () => {
    for (const [control, first, other] of [
      ["ShiftLeft", "amber", "teal"],
      ["Enter", "teal", "amber"],
    ] as const) {
      const { input } = forTwo();
      input.feed({ t: 1, control: "ShiftLeft", value: 1 });
      input.feed({ t: 1, control: "Enter", value: 1 });
      input.step(10);
      input.seat(first).on("kick" as never, "off", () => input.seat(other).setFlag("hasAir" as never, false));
      input.feed({ t: 20, control, value: 0 });
      input.step(30);
      input.step(31);
      expect(lamp(input.seat(other)).on).toBe(false);
    }
  });

  test("a callback that throws harms neither its own seat nor another", () => {
    const { input, amber, teal } = forTwo();
    const off = amber.on("kick" as never, "on", () => {
      throw new Error("the game's own fault");
    });
    for (const control of ["ShiftLeft", "Enter", "ArrowUp"]) input.feed({ t: 1, control, value: 1 });
    expect(() => input.step(10)).toThrow("the game's own fault");
    off();
    input.step(60);
    expect([lamp(amber).on, lamp(teal).on, (teal.now["swim"] as unknown as { y: number }).y]).toEqual([
      true,
      true,
      1,
    ]);
    for (const control of ["ShiftLeft", "Enter", "ArrowUp"]) input.feed({ t: 70, control, value: 0 });
    input.step(200);
    expect([lamp(amber).on, lamp(teal).on, (teal.now["swim"] as unknown as { y: number }).y]).toEqual([
      false,
      false,
      0,
    ]);
  });

  test("a snapshot of each, taken back, goes on from there", () => {
    const { input, amber, teal } = forTwo();
    for (const control of ["ShiftLeft", "ArrowUp"]) input.feed({ t: 1, control, value: 1 });
    input.step(20);
    const kept = [amber.snapshot(), teal.snapshot()];
    const goOn = () => {
      input.feed({ t: 30, control: "ShiftLeft", value: 0 });
      input.feed({ t: 40, control: "ArrowUp", value: 0 });
      const seen: string[] = [];
      for (let t = 25; t <= 100; t += 5) {
        input.step(t);
        seen.push(JSON.stringify([amber.now, teal.now]));
      }
      return seen;
    };
    const once = goOn();
    amber.restore(kept[0]!);
    teal.restore(kept[1]!);
    expect(goOn()).toEqual(once);
    expect(() => amber.restore(kept[1]!)).toThrow("the snapshot is not of this plan");
  });
});

test("each of a crowd does what it would do alone and in order, whoever else wakes, sleeps, throws, or comes late", () => {
  const actions = {
    swim: {
      kind: "vector",
      from: { pad: "PadLeftStick" },
      pace: { base: 2, rules: [{ when: "kick", set: 4 }] },
    },
    kick: { kind: "switch", from: { pad: "PadSouth" } },
    haul: { kind: "switch", from: { pad: { long: "PadWest", afterMs: 40 } } },
  };
  // More than are fetched together.
  const names = Array.from({ length: 20 }, (_, n) => `diver${n}`);
  // A pad's number may be any: the last one's is large.
  const padOf = (n: number) => (n === names.length - 1 ? 70_000 : n);
  const events = fc.array(
    fc.record({
      ms: fc.integer({ min: 1, max: 30 }),
      who: fc.nat(names.length - 1),
      // An event may be older than what came before it, and older than the last step.
      back: fc.constantFrom(0, 0, 0, 5, 40),
      control: fc.constantFrom("PadSouth", "PadSouth", "PadWest", "PadLeftStickX", "PadLeftStickY"),
      value: fc.constantFrom(0, 0.3, 1),
    }),
    { maxLength: 120 },
  );
  const shown = ({ now }: { now: object }) => JSON.stringify(now);
  fc.assert(
    fc.property(events, fc.nat(names.length - 1), (list, thrower) => {
      const seats = Object.fromEntries(names.map((name) => [name, { slots: ["pad"] }]));
      const crowd = createInputLayer({ reacherPlan: 1, seats, actions } as unknown as Plan);
      const alone = names.map(() => createInputLayer({ reacherPlan: 1, actions } as unknown as Plan));
      names.forEach((name, n) => crowd.assignPad(name, padOf(n)));
      let angry = true;
      crowd.seat(names[thrower]!).on("kick", "on", () => {
        if (angry) throw new Error("the game's own fault");
      });
      let last = -Infinity;
      const waiting: { t: number; who: number; control: string; value: number }[] = [];
      const step = (t: number) => {
        waiting.sort((one, other) => one.t - other.t);
        for (const { who, ...event } of waiting.splice(0)) alone[who]!.feed(event);
        last = t;
        try {
          crowd.step(t);
        } catch {
          // The step after it takes up what was left.
          angry = false;
          crowd.step(t);
          angry = true;
        }
        for (const layer of alone) layer.step(t);
      };
      let t = 0;
      for (const { ms, who, back, control, value } of list) {
        t += ms;
        crowd.feed({ t: t - back, control, value, pad: padOf(who) });
        waiting.push({ t: Math.max(last, t - back), who, control, value });
        if (ms % 5 === 0) step(t + 1);
      }
      step(t + 100);
      expect(names.map((name) => shown(crowd.seat(name)))).toEqual(alone.map(shown));
    }),
    runs(50),
  );
});

describe("callbacks in a crowd", () => {
  const three = () =>
    createInputLayer({
      reacherPlan: 1,
      slots: { a: {}, b: {}, c: {} },
      seats: { amber: { slots: ["a"] }, teal: { slots: ["b"] }, pearl: { slots: ["c"] } },
      actions: { kick: { kind: "switch", from: { a: "KeyA", b: "KeyB", c: "KeyC" } } },
    } as unknown as Plan);
  const kicks = (input: InputLayer) => input.seats.map((name) => (input.seat(name).now as any).kick);

  test("one may wake those who have had their turn, again and again", () => {
    const input = three();
    let rounds = 0;
    for (const [own, other] of [
      ["amber", "KeyB"],
      ["teal", "KeyA"],
    ] as const) {
      input.seat(own).on("kick", "on", (t) => {
        if (++rounds > 20) return;
        for (const value of [0, 1]) input.feed({ t, control: other, value });
      });
    }
    for (const control of ["KeyA", "KeyB", "KeyC"]) input.feed({ t: 1, control, value: 1 });
    input.step(2);
    input.step(3);
    expect(rounds).toBeGreaterThan(20);
    expect(kicks(input).map(({ on }) => on)).toEqual([true, true, true]);
    for (const control of ["KeyA", "KeyB", "KeyC"]) input.feed({ t: 4, control, value: 0 });
    input.step(5);
    expect(kicks(input).map(({ on }) => on)).toEqual([false, false, false]);
  });

  test("after a throw, who goes back to an earlier snapshot goes on from there", () => {
    const input = three();
    input.step(50);
    const kept = input.seats.map((name) => input.seat(name).snapshot());
    const end = input.seat("teal").on("kick", "on", () => {
      throw new Error("the game's own fault");
    });
    input.step(90);
    for (const control of ["KeyA", "KeyB", "KeyC"]) input.feed({ t: 95, control, value: 1 });
    expect(() => input.step(100)).toThrow("own fault");
    end();
    input.seats.forEach((name, n) => input.seat(name).restore(kept[n]!));
    input.feed({ t: 60, control: "KeyA", value: 1 });
    input.feed({ t: 61, control: "KeyC", value: 1 });
    input.step(70);
    expect(kicks(input).map(({ onMs }) => onMs)).toEqual([10, 0, 9]);
  });
});

// Who binds it before, and who binds it once it is fed and before it counts.
test.each<[string, string[], string[], string[]]>([
  ["nobody", [], ["amber"], ["amber"]],
  ["nobody", [], ["teal"], ["teal"]],
  ["nobody", [], ["teal", "amber"], ["amber", "teal"]],
  ["teal", ["teal"], ["amber"], ["amber", "teal"]],
  ["amber", ["amber"], ["teal"], ["amber", "teal"]],
])(
  "a press that waits comes to all who bind its key by then, once each: %s before, then %j",
  (_, before, then, told) => {
    const input = createInputLayer(two());
    const hand = { amber: "leftHand", teal: "rightHand" };
    const bind = (names: readonly string[]) => {
      for (const name of names)
        input.seat(name as never).setOverrides({
          reacherOverrides: 1,
          controls: { [`kick.${hand[name as "amber"]}`]: "KeyZ" },
        } as never);
    };
    const seen: string[] = [];
    for (const name of ["amber", "teal"] as const)
      input.seat(name as never).on("kick" as never, "on", (t: number) => seen.push(`${name} ${t}`));
    input.step(0);
    bind(before);
    input.feed({ t: 20, control: "KeyZ", value: 1 });
    input.step(10);
    bind(then);
    input.step(30);
    expect(seen).toEqual(told.map((name) => `${name} 20`));
    expect(input.held()).toEqual([{ control: "KeyZ", pad: 0, value: 1 }]);
  },
);

test("a seat loses its own pad by its index, and no other's", () => {
  const input = createInputLayer(two());
  for (const [n, name] of ["amber", "teal"].entries()) input.assignPad(name as never, n);
  for (const pad of [0, 1]) input.feed({ t: 5, control: "PadSouth", value: 1, pad });
  input.step(10);
  input.seat("teal" as never).lose("pad", 0, 15);
  input.seat("amber" as never).lose("pad", 0, 20);
  input.step(30);
  expect(["amber", "teal"].map((name) => input.seat(name as never).now["kick" as never])).toMatchObject([
    { on: false, endedBy: "lost" },
    { on: true },
  ]);
});

test("a pad taken away ends what it holds, also where it was lost before that press by its stamp", () => {
  const input = createInputLayer({
    reacherPlan: 1,
    slots: { main: { device: "keyboard" }, pad: { device: "pad" } },
    seats: { amber: { slots: ["main", "pad"] }, teal: { slots: ["pad"] } },
    actions: { tuck: { kind: "switch", from: { main: "KeyC", pad: "PadEast" } } },
  });
  input.step(0);
  input.feed({ t: 20, control: "PadEast", value: 1, pad: 0 });
  input.lose("pad", 0, 10);
  expect(input.step(20).tuck.on).toBe(true);
  input.assignPad("amber", null);
  expect(input.step(30).tuck.on).toBe(false);
});

test("what a seat held on a pad that was taken away is not held on the next", () => {
  const { input, amber, teal } = forTwo();
  input.openSeats(["amber"]);
  input.feed({ t: 10, control: "PadSouth", value: 1, pad: 1 });
  input.step(20);
  input.assignPad("amber", 0);
  input.openSeats(["teal"]);
  input.feed({ t: 30, control: "PadSouth", value: 1, pad: 0 });
  input.step(40);
  expect([amber.now["kick"], teal.now["kick"]]).toMatchObject([{ on: false }, { on: true }]);
});

test("a seat that opens without a pad holds nothing of a free one", () => {
  const { input, teal } = forTwo();
  input.openSeats(["amber"]);
  for (const pad of [1, 0]) input.feed({ t: 10, control: "PadSouth", value: 1, pad });
  input.step(20);
  input.openSeats(["amber", "teal"]);
  input.assignPad("teal", 5);
  input.feed({ t: 30, control: "PadSouth", value: 1, pad: 5 });
  input.step(40);
  expect(teal.now["kick"]).toMatchObject({ on: true });
});

test("a pad taken away and given back at one moment is both in a recording", () => {
  const plan = two();
  const input: InputLayer = createInputLayer(plan);
  const recorder = record(input);
  input.step(0);
  input.assignPad("amber", 0);
  input.feed({ t: 10, control: "PadSouth", value: 1, pad: 0 });
  input.step(20);
  for (const pad of [1, 0]) input.assignPad("amber", pad);
  input.step(30);
  expect(input.now).toMatchObject({ kick: { on: false } });
  input.assignPad("amber", null);
  input.assignPad("amber", 0);
  input.step(40);
  const { entries } = parseTrace(recorder.text());
  expect(entries.filter((entry) => "seatPad" in entry)).toMatchObject([
    { t: 0, pad: 0 },
    { t: 20, pad: 1 },
    { t: 20, pad: 0 },
    { t: 30, pad: null },
    { t: 30, pad: 0 },
  ]);
  expect(replay(plan, entries)).toMatchObject([{ action: "kick" }, { at: 20, action: "kick", on: false }]);
});

describe("who joins", () => {
  const sw = (pad: string, keys: string) => ({ kind: "switch", from: { left: keys, pad } });
  const plan = {
    reacherPlan: 1,
    seats: { amber: { slots: ["left", "pad"] }, teal: { slots: ["pad"] }, coral: { slots: ["keys"] } },
    actions: {
      kick: { kind: "switch", from: { left: "KeyE", pad: "PadSouth", keys: "Enter" } },
      hop: sw("PadEast", "KeyQ"),
      swim: { kind: "vector", from: { pad: "PadLeftStick" } },
    },
  } as unknown as Plan;

  test("the game is asked, the press that asked is never seen, and sticks count from where they are", () => {
    const input: InputLayer = createInputLayer(plan);
    const pads: string[] = [];
    const joins: (() => void)[] = [];
    input.onPads(({ seat, pad, what }) => {
      pads.push(`${seat} ${pad} ${what}`);
      if (what === "unassigned") joins.shift()?.();
    });
    const now = (seat: string) => {
      const { kick, swim } = input.seat(seat).now as unknown as {
        kick: { on: boolean };
        swim: { x: number };
      };
      return [kick.on, Math.round(swim.x * 100) / 100];
    };
    const feed = (t: number, control: string, value: number, pad: number) =>
      input.feed({ t, control, value, pad });
    input.openSeats(["amber"], { pads: "ask" });
    feed(0, "PadSouth", 1, 3);
    input.step(10);
    // One at the keyboard, to whom nobody has given a pad.
    expect([now("amber"), pads, input.seat("amber").pad]).toEqual([[false, 0], [" 3 unassigned"], null]);
    joins.push(() => input.openSeats(["amber", "teal"], { pad: 3 }));
    feed(20, "PadLeftStickX", 1, 3);
    input.step(30);
    expect([now("teal"), input.seat("teal").pad]).toEqual([[false, 1], 3]);
    feed(40, "PadSouth", 0, 3);
    feed(50, "PadSouth", 1, 3);
    input.step(60);
    expect([now("teal"), now("amber")]).toEqual([
      [true, 1],
      [false, 0],
    ]);
    joins.push(() => input.assignPad("amber", 0));
    feed(70, "PadSouth", 1, 0);
    feed(80, "PadEast", 1, 0);
    input.step(90);
    expect(now("amber")).toEqual([false, 0]);
    expect((input.seat("amber").now["hop"] as unknown as { on: boolean }).on).toBe(true);
    // Given by itself again: that press is seen.
    input.assignPad("teal", null);
    input.openSeats(["amber", "teal"], { pads: "give" });
    feed(100, "PadSouth", 1, 7);
    input.step(110);
    expect(now("teal")).toEqual([true, 0]);
    expect(pads).toEqual([
      " 3 unassigned",
      " 3 unassigned",
      "teal 3 taken",
      " 0 unassigned",
      "amber 0 taken",
      "teal 3 freed",
      "teal 7 taken",
    ]);
  });

  test.each([
    [
      ["amber", "teal"],
      { pad: 1 },
      "pad 1 is for one newly opened seat that takes pads; these are: amber, teal",
    ],
    [["coral"], { pad: 1 }, "pad 1 is for one newly opened seat that takes pads; none is"],
    [["teal"], { pad: -1 }, "-1 is no pad; give the index of one"],
    [["teal"], { pads: "aks" }, 'pads is "aks"; it is "ask" or "give"'],
  ])("%j with %j is refused, and nothing is half applied", (names, options, message) => {
    const input: InputLayer = createInputLayer(plan);
    // One that plays alone has all slots, so two keep theirs.
    input.openSeats(["coral", "teal"]);
    input.openSeats(["coral"]);
    const before = input.open;
    const open = names.includes("coral") ? [...names, "teal"].filter((name) => name !== "teal") : names;
    expect(() => input.openSeats(open, options as never)).toThrow(message);
    expect(input.open).toEqual(before);
  });
});

test("a key that was let go a moment before nothing binds it any more is not held, though its release was held back", () => {
  const hop = { kind: "switch", from: { main: "Space" } };
  const kick = { kind: "switch", from: { main: "KeyQ" } };
  const input = createInputLayer({ reacherPlan: 1, bounceMs: 15, actions: { kick, hop } } as unknown as Plan);
  const others = { reacherOverrides: 1, controls: { "hop.main": "KeyZ" } } as const;
  input.on("kick" as never, "off", () => void input.setOverrides(others));
  for (const [t, value] of [
    [0, 1],
    [100, 0],
  ] as const)
    for (const control of ["KeyQ", "Space"]) input.feed({ t, control, value });
  input.step(200);
  expect(input.held()).toEqual([]);
});
