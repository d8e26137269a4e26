import * as fc from "fast-check";
import { createInputLayer, parsePlan, type Plan } from "reacher";
import { explain, explainLayer, parseTrace } from "reacher/trace";
import { dive, kelpline, kelplineForTwo } from "./plans";
import { events, SWITCHES } from "./randomEvents";
import { plans } from "./randomPlans";
import { runs } from "./runs";

const sw = (main: unknown, more: object = {}) => ({ kind: "switch", from: { main }, ...more });

/** What is said of one action while keys go down (+), up (-), sticks are tilted (:stick=0.5) and time passes (numbers, ms). */
function said(actions: object, action: string, script: string, more: object = {}): string[] {
  const lines = ['{"reacherTrace":1}'];
  let t = 0;
  for (const word of script.split(" ")) {
    const rest = word.slice(1);
    const [way, tilt] = rest.split("=");
    if (tilt !== undefined) lines.push(JSON.stringify({ t, control: way, value: Number(tilt) }));
    else if (word[0] === "+" || word[0] === "-")
      lines.push(JSON.stringify({ t, control: rest, value: word[0] === "+" ? 1 : 0 }));
    else if (word[0] === "!") lines.push(JSON.stringify({ t, mute: rest, reason: "reel" }));
    else if (word[0] === "~") lines.push(JSON.stringify({ t, unmute: rest }));
    else if (word[0] === ">") lines.push(JSON.stringify({ t, enter: rest }));
    else if (word[0] === "_") lines.push(JSON.stringify({ t, flag: rest, value: false }));
    else if (word === "blur") lines.push(JSON.stringify({ t, lost: "focus" }));
    else t += Number(word);
  }
  lines.push(JSON.stringify({ t, end: true }));
  const plan = parsePlan({ reacherPlan: 1, actions, ...more });
  return explain(plan, parseTrace(lines.join("\n")).entries, action).map(
    ({ at, outcome, text }) => `${at} ${outcome}: ${text}`,
  );
}

const swim = {
  kind: "vector",
  from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" }, spare: { right: "ArrowRight" } },
};
const surge = sw({ taps: 2, of: "swim.right", gapMs: 200 });
const chord = {
  dash: sw({ all: ["ShiftLeft", "KeyE"], spreadMs: 100 }),
  grab: sw("KeyE"),
  lamp: sw({ use: "KeyE", waits: true }, { style: "toggle" }),
};
const hauling = { grab: sw({ short: "KeyE", beforeMs: 200 }), haul: sw({ long: "KeyE", afterMs: 400 }) };
const stance = {
  kick: sw("KeyK", { oneOf: "stance" }),
  tuck: sw("KeyC", { oneOf: "stance", style: "toggle" }),
};

const STORIES: readonly [object, string, string, string[], object?][] = [
  [
    { dash: sw({ flick: "PadLeftStickRight", withinMs: 60 }) },
    "dash",
    ":PadLeftStickX=0.4 90 :PadLeftStickX=0.9 30 :PadLeftStickX=0 10 :PadLeftStickX=1",
    [
      "90 nothing: PadLeftStickRight: 90 ms from rest: 30 ms too slow for 60",
      "130 on: PadLeftStickRight thrown in 0 ms (60 allowed)",
    ],
  ],
  [
    { roll: sw({ taps: 3, of: "KeyJ", gapMs: 200, withinMs: 250 }) },
    "roll",
    "+KeyJ 10 -KeyJ 140 +KeyJ 10 -KeyJ 140 +KeyJ 10 -KeyJ",
    [
      "0 counts: KeyJ: tap 1 of 3",
      "150 counts: KeyJ: tap 2 of 3, 150 ms after the one before",
      "300 counts: KeyJ: 3 presses took longer than 250 ms; 2 of 3 count",
    ],
  ],
  [
    { grab: sw("KeyE") },
    "grab",
    "+KeyE 50 -KeyE 20 +KeyE 60 -KeyE 60",
    [
      "0 on: KeyE pressed",
      "70 nothing: KeyE came up for 20 ms: within the 40 ms that count as no release",
      "170 off: its press ended",
    ],
    { bounceMs: 40 },
  ],
  [
    { swim, surge },
    "surge",
    "+KeyD 40 -KeyD 60 +KeyD 9 -KeyD",
    [
      "0 counts: swim.right: tap 1 of 2",
      "100 on: swim.right: tap 2 of 2, 100 ms after the one before (200 allowed)",
      "109 off: KeyD let go",
    ],
  ],
  [
    { swim, surge },
    "surge",
    "+KeyD 40 -KeyD 160 +KeyD",
    [
      "0 counts: swim.right: tap 1 of 2",
      "200 on: swim.right: tap 2 of 2, 200 ms after the one before (200 allowed)",
    ],
  ],
  [
    { swim, surge },
    "surge",
    "+KeyD 40 -KeyD 207 +KeyD",
    [
      "0 counts: swim.right: tap 1 of 2",
      "247 counts: swim.right: press 247 ms after the one before: 47 ms too late for 200; it counts as the first",
    ],
  ],
  // After a second it is a press of its own; so is the one after two that fired.
  [
    { swim, surge },
    "surge",
    "+KeyD 40 -KeyD 960 +KeyD",
    [
      "0 counts: swim.right: tap 1 of 2",
      "1000 counts: swim.right: press 1000 ms after the one before: 800 ms too late for 200; it counts as the first",
    ],
  ],
  [
    { swim, surge },
    "surge",
    "+KeyD 40 -KeyD 60 +KeyD 9 -KeyD 300 +KeyD",
    [
      "0 counts: swim.right: tap 1 of 2",
      "100 on: swim.right: tap 2 of 2, 100 ms after the one before (200 allowed)",
      "109 off: KeyD let go",
      "409 counts: swim.right: tap 1 of 2",
    ],
  ],
  [
    { swim, surge },
    "surge",
    "+KeyD 40 +ArrowRight",
    ["0 counts: swim.right: tap 1 of 2", "40 nothing: second key of a direction already held: swim.right"],
  ],
  [{ swim, surge }, "surge", "!surge +KeyD 5", ["0 nothing: muted: reel"]],
  [
    { swim, surge: { ...surge, cooldownMs: 600 } },
    "surge",
    "+KeyD -KeyD 80 +KeyD -KeyD 100 +KeyD -KeyD 100 +KeyD",
    [
      "0 counts: swim.right: tap 1 of 2",
      "80 on: swim.right: tap 2 of 2, 80 ms after the one before (200 allowed)",
      "80 off: KeyD let go",
      "180 counts: swim.right: tap 1 of 2",
      "280 nothing: cools down 400 ms more",
    ],
  ],
  [
    { kick: sw("KeyK", { needs: ["hasAir", "not tuck"] }), tuck: sw("KeyC") },
    "kick",
    "_hasAir 5 +KeyC 5 +KeyK",
    ["10 nothing: needs hasAir and not tuck"],
    { flags: { hasAir: true } },
  ],
  [
    { kick: sw("KeyK", { in: ["dive"] }), choose: sw("KeyX", { in: ["menu"] }) },
    "kick",
    "+KeyK 5 >menu 5 -KeyK +KeyK",
    ["0 on: KeyK pressed", "5 off: menu covers it", "10 nothing: menu covers it"],
    { modes: { dive: {}, menu: { covers: "all" } } },
  ],
  [
    { kick: sw("KeyK", { in: ["dive"] }), choose: sw("KeyK", { in: ["menu"] }) },
    "kick",
    ">menu 5 +KeyK",
    ["5 nothing: menu uses KeyK, which hides it"],
    { modes: { dive: {}, menu: {} } },
  ],
  [chord, "grab", "+ShiftLeft 50 +KeyE", ["50 nothing: KeyE is taken by dash"]],
  [
    chord,
    "dash",
    "+ShiftLeft 150 +KeyE",
    [
      "0 counts: ShiftLeft: 1 of 2 held",
      "150 nothing: KeyE: 150 ms after the first: 50 ms too far apart for 100",
    ],
  ],
  [
    chord,
    "lamp",
    "+KeyE 200 -KeyE",
    ["0 counts: KeyE waits: dash may claim it", "100 on: KeyE waited, and no gesture claimed it"],
  ],
  [
    hauling,
    "grab",
    "+KeyE 250 -KeyE",
    [
      "0 counts: KeyE pressed: 200 ms to let go",
      "250 nothing: KeyE let go after 250 ms: 50 ms too late for 200",
    ],
  ],
  [
    hauling,
    "haul",
    "+KeyE 250 -KeyE",
    [
      "0 counts: KeyE pressed: 400 ms to hold",
      "250 nothing: KeyE let go after 250 ms: 150 ms too early for 400",
    ],
  ],
  [
    hauling,
    "haul",
    "+KeyE 500 blur",
    [
      "0 counts: KeyE pressed: 400 ms to hold",
      "400 on: KeyE held for 400 ms",
      "500 off: focus lost: everything at rest",
    ],
  ],
  [stance, "kick", "+KeyK 5 +KeyC", ["0 on: KeyK pressed", "5 off: tuck came on"]],
  [stance, "tuck", "+KeyC -KeyC 5 +KeyC", ["0 on: KeyC pressed", "5 off: KeyC pressed again"]],
  [
    { trick: sw({ series: ["KeyA", "KeyB"], gapMs: 100 }) },
    "trick",
    "+KeyA -KeyA 150 +KeyB",
    [
      "0 counts: KeyA: 1 of 2 in order",
      "150 counts: KeyB: 150 ms after the one before: 50 ms too late for 100; 0 of 2 again",
    ],
  ],
  [
    { kick: sw("KeyK", { needs: "not tuck" }), tuck: sw("KeyC") },
    "kick",
    "+KeyK 5 +KeyC 5 -KeyC",
    ["0 on: KeyK pressed", "5 off: needs not tuck", "10 on: all that it needs is so, and it is still held"],
  ],
  [
    { kick: sw("KeyK") },
    "kick",
    "+KeyK 5 !kick 5 ~kick 5",
    ["0 on: KeyK pressed", "5 off: muted: reel", "10 on: it is live again, and was kept"],
  ],
  [
    { kick: sw(["KeyK", "KeyJ"]) },
    "kick",
    "+KeyK 5 +KeyJ 5 -KeyK",
    ["0 on: KeyK pressed", "5 nothing: KeyJ is a second key: another of its keys is down already"],
  ],
  [
    { kick: sw({ use: "KeyK", waits: true }), roll: sw({ taps: 2, of: "KeyK" }) },
    "kick",
    "+KeyK -KeyK 100 +KeyK",
    ["0 counts: KeyK waits: roll may claim it", "100 nothing: KeyK is claimed by roll"],
  ],
  [
    { choose: sw("KeyX", { in: ["menu"] }), snip: sw("KeyX", { in: ["dive"] }) },
    "choose",
    "+KeyX",
    ["0 nothing: menu is not on"],
    { modes: { dive: {}, menu: {} } },
  ],
];

test.each(STORIES.map((story) => [story] as const))("%j", ([actions, action, script, lines, more]) => {
  expect(said(actions, action, script, more)).toEqual(lines);
});

test.each([
  ["surge", "too-late"],
  ["surge", "needs"],
  ["surge", "cooldown"],
  ["snip", "muted"],
  ["snip", "covered"],
  ["grab", "taken"],
  ["kick", "needs"],
])("the demo's dive has a press of %s that shows: %s", (action, rule) => {
  const reasons = explain(parsePlan(kelplineForTwo()), parseTrace(dive("night-round")).entries, action);
  expect(reasons.map((reason) => reason.rule)).toContain(rule);
});

test("a layer that is explained gives the same changes", () => {
  const { entries } = parseTrace(dive("night-round"));
  const on = explain(parsePlan(kelpline()), entries).filter(
    ({ outcome }) => outcome === "on" || outcome === "off",
  );
  expect(on.length).toBeGreaterThan(20);
});

test("a kept press is told, and the call that takes it", () => {
  const input = createInputLayer({
    reacherPlan: 1,
    flags: { grounded: false },
    actions: { hop: sw("Space", { needs: "grounded", bufferMs: 120 }) },
  } as unknown as Plan);
  const told: string[] = [];
  const end = explainLayer(input, ({ at, outcome, text }) => told.push(`${at} ${outcome}: ${text}`));
  input.feed({ t: 10, control: "Space", value: 1 });
  input.feed({ t: 40, control: "Space", value: 0 });
  input.step(50);
  expect(input.take("hop")).toBe(false);
  input.setFlag("grounded", true, 100);
  input.step(110);
  expect([input.take("hop"), input.take("hop")]).toEqual([true, false]);
  expect(told).toEqual([
    "10 counts: needs grounded; kept for 120 ms to begin later",
    "100 on: pressed 90 ms before, and kept until it may begin",
    "110 counts: taken by call",
  ]);
  end();
});

test("how a switch ended and the reason that is told of it are one thing", () => {
  const RULES: Record<string, RegExp> = {
    released: /^(released|driven)$/,
    pressed: /^pressed-again$/,
    lost: /^lost$/,
    muted: /^muted$/,
    mode: /^(covered|mode-off)$/,
    needs: /^needs$/,
    oneOf: /^one-of$/,
    reset: /^reset$/,
    game: /^set$/,
  };
  fc.assert(
    fc.property(plans, events, (plan, list) => {
      const input = createInputLayer(plan);
      const ended = new Map<string, string>();
      for (const name of SWITCHES)
        input.on(name as never, "off", (at, by) => void ended.set(`${at} ${name}`, by));
      explainLayer(input, ({ at, action, outcome, rule }) => {
        const by = ended.get(`${at} ${action}`);
        if (outcome === "off" && by !== undefined)
          expect(`${by}: ${rule}`).toMatch(new RegExp(`${by}: ${RULES[by]!.source.slice(1)}`));
      });
      for (const { t, tell } of list) {
        tell(input);
        input.step(t);
        ended.clear();
      }
      input.step(1300);
    }),
    runs(100),
  );
});

test.each([
  [
    { lamp: sw("KeyL", { in: ["cave"], bufferMs: 50 }) },
    "lamp",
    "+KeyL 100",
    { modes: { sea: {}, cave: {} } },
    ["0 nothing: cave is not on"],
  ],
  [
    { lamp: sw({ long: "KeyL", afterMs: 50 }, { style: "either" }) },
    "lamp",
    "+KeyL 60 -KeyL 10 +KeyL 60",
    {},
    [
      "0 counts: KeyL pressed: 50 ms to hold",
      "50 on: KeyL held for 50 ms",
      "70 counts: KeyL pressed: 50 ms to hold",
      "120 off: KeyL pressed again",
    ],
  ],
  [
    { kick: sw("KeyK", { needs: "swim" }), swim },
    "kick",
    "+KeyW +KeyK 10 blur 10",
    {},
    ["0 on: KeyK pressed", "10 off: focus lost: everything at rest"],
  ],
  [
    { lamp: sw("KeyL", { in: ["sea"] }) },
    "lamp",
    "+KeyL 10 >cave 5 !lamp 10",
    { modes: { sea: {}, cave: { covers: "all" } } },
    ["0 on: KeyL pressed", "10 off: cave covers it"],
  ],
])("%j %s %s", (actions, action, script, more, told) => {
  expect(said(actions, action, script, more)).toEqual(told);
});

test("a toggle that a waiting press turns off was pressed again", () => {
  const input = createInputLayer({
    reacherPlan: 1,
    actions: {
      lamp: sw({ use: "KeyL", waits: true }, { style: "toggle" }),
      flare: sw({ taps: 2, of: "KeyL", gapMs: 50 }),
    },
  } as unknown as Plan);
  const rules: string[] = [];
  const end = explainLayer(input, ({ at, outcome, rule }) => rules.push(`${at} ${outcome} ${rule}`));
  input.setSwitch("lamp", true, 0);
  input.feed({ t: 10, control: "KeyL", value: 1 });
  input.step(200);
  end();
  expect(rules.slice(-1)).toEqual(["60 off pressed-again"]);
});

test("a switch that the game sets turns another of its oneOf off: that came on", () => {
  const input = createInputLayer({
    reacherPlan: 1,
    actions: {
      one: sw("KeyA", { style: "toggle", oneOf: "x" }),
      two: sw("KeyB", { style: "toggle", oneOf: "x" }),
    },
  } as unknown as Plan);
  const told: string[] = [];
  explainLayer(input, ({ action, outcome, text }) => told.push(`${action} ${outcome}: ${text}`));
  input.setSwitch("one" as never, true, 1);
  input.setSwitch("two" as never, true, 2);
  input.step(5);
  expect(told).toEqual(["one on: set on by the game", "one off: two came on", "two on: set on by the game"]);
});

test("what is in no mode that is on is not called muted", () => {
  const input = createInputLayer({
    reacherPlan: 1,
    modes: { sea: {}, cave: {} },
    actions: { lamp: sw("KeyL", { in: ["cave"] }) },
  } as unknown as Plan);
  const told: string[] = [];
  explainLayer(input, ({ outcome, text }) => told.push(`${outcome}: ${text}`));
  input.drive("lamp" as never, true as never, "helper", 1);
  input.step(5);
  expect(told).toEqual(["nothing: cave is not on"]);
});
