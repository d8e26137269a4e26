import { createInputLayer, definePlan } from "reacher";
import { play } from "reacher/testing";
import { kickPlan } from "./plans";

/** Presses (+), releases (-) and waits (numbers) as a line of text. */
function run(more: object, script: string) {
  const input = createInputLayer(kickPlan(more));
  const changes: string[] = [];
  input.on("kick", "on", (t) => changes.push(`on ${t}`));
  input.on("kick", "off", (t) => changes.push(`off ${t}`));
  const player = play(input);
  for (const word of script.split(" ")) {
    if (word.startsWith("+")) player.press(word.slice(1));
    else if (word.startsWith("-")) player.release(word.slice(1));
    else if (word === "blur") player.loseFocus();
    else player.wait(Number(word));
  }
  player.step();
  return { changes: changes.join(", "), on: player.now.kick.on };
}

test.each([
  ["hold", "10 +ShiftLeft 100 -ShiftLeft", "on 10, off 110"],
  ["hold", "+ShiftLeft 10 +ShiftRight 10 -ShiftLeft 10 -ShiftRight", "on 0, off 30"],
  ["hold", "+ShiftLeft 10 +ShiftLeft 10 +ShiftLeft 10 -ShiftLeft", "on 0, off 30"],
  ["hold", "+ShiftLeft 10 blur 50 -ShiftLeft 5", "on 0, off 10"],
  ["hold", "+ShiftLeft 10 blur 50 +ShiftLeft 5", "on 0, off 10, on 60"],
  ["toggle", "+ShiftLeft 10 -ShiftLeft 10 +ShiftLeft 10 -ShiftLeft", "on 0, off 20"],
  ["toggle", "+ShiftLeft 10 +ShiftRight 10 -ShiftLeft -ShiftRight", "on 0"],
  ["toggle", "+ShiftLeft 10 +ShiftLeft 10 +ShiftLeft 10", "on 0"],
  ["toggle", "+ShiftLeft 10 blur 50 -ShiftLeft 5", "on 0"],
  ["either", "+ShiftLeft 250 -ShiftLeft 100", "on 0"],
  ["either", "+ShiftLeft 250.5 -ShiftLeft 100", "on 0, off 250.5"],
  ["either", "+ShiftLeft 50 -ShiftLeft 100 +ShiftLeft 20 -ShiftLeft", "on 0, off 150"],
  ["either", "+ShiftLeft 50 blur 100 -ShiftLeft", "on 0, off 50"],
  ["either", "+ShiftLeft 50 -ShiftLeft 100 blur 10", "on 0"],
])("%s: %s gives %s", (style, script, changes) => {
  expect(run({ style }, script).changes).toBe(changes);
});

test.each([
  ["hold", "", false],
  ["toggle", "on 0", true],
  ["either", "on 0", true],
])("a %s that startsOn", (style, changes, on) => {
  expect(run({ style, startsOn: true }, "100")).toEqual({ changes, on });
});

test("a press and a release inside one step are both seen", () => {
  const input = createInputLayer(kickPlan({}));
  for (const [t, value] of [
    [1, 1],
    [2, 0],
    [3, 1],
    [4, 0],
  ] as const)
    input.feed({ t, control: "ShiftLeft", value });
  const { kick } = input.step(16);
  expect(kick).toMatchObject({ on: false, turnedOn: true, turnedOff: true, presses: 2, by: "ShiftLeft" });
  expect(input.step(32).kick).toMatchObject({ turnedOn: false, turnedOff: false, presses: 0 });
});

test("onMs counts from the exact moment", () => {
  const input = createInputLayer(kickPlan({}));
  input.feed({ t: 3.25, control: "ShiftLeft", value: 1 });
  expect(input.step(16).kick.onMs).toBe(12.75);
});

test("an analog trigger is pressed from 0.5 and released below 0.4", () => {
  const plan = definePlan({
    reacherPlan: 1,
    actions: { haul: { kind: "switch", from: { pad: "PadRightTrigger" } } },
  });
  const player = play(createInputLayer(plan));
  const at = (value: number) => player.pull("PadRightTrigger", value).wait(5).now.haul.on;
  expect([at(0.499), at(0.5), at(0.4), at(0.399)]).toEqual([false, true, true, false]);
});

test("reset brings toggles to their start; what is held moves nothing until pressed anew", () => {
  const plan = definePlan({
    reacherPlan: 1,
    flags: { hasAir: true },
    actions: {
      swim: {
        kind: "vector",
        from: { main: { right: "KeyD", left: "KeyA" } },
        pace: { base: 1, rules: [{ when: "not hasAir", set: 9 }] },
      },
      lamp: { kind: "switch", style: "toggle", startsOn: true, from: { main: "KeyF" } },
      kick: { kind: "switch", from: { main: "ShiftLeft" } },
    },
  });
  const input = createInputLayer(plan);
  input.setFlag("hasAir", false);
  const player = play(input).press("KeyD", "ShiftLeft").tap("KeyF").wait(20);
  expect([player.now.lamp.on, player.now.kick.on, player.now.swim.pace]).toEqual([false, true, 9]);
  input.reset();
  player.wait(20);
  expect([player.now.lamp.on, player.now.kick.on, player.now.swim.pace, player.now.swim.x]).toEqual([
    true,
    false,
    1,
    1,
  ]);
  expect(player.release("ShiftLeft").wait(5).press("ShiftLeft").wait(5).now.kick.on).toBe(true);
});
