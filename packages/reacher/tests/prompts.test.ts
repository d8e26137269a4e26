/** What players read: labels by their own keyboard, prompts by the device they used last, signs of the pad. */
import { allControls, createInputLayer, type InputLayer } from "reacher";
import { createKeyLabels, padSign, prompt } from "reacher/rebind";
import { play } from "reacher/testing";
import { kelplineForTwo } from "./plans";

/** Each row: an action, and what is shown for it on keys and on a pad. */
test.each([
  ["swim", "W A S D", "Swim: W, A, S and D", "Pad left stick"],
  ["surge", "double tap D", "Surge: double tap W, A, S or D", "Pad right bumper"],
  ["kick", "Left Shift", "Kick: Left Shift", "Pad left stick press"],
  ["depth", "Q E", "Sink and rise: Q and E", "Pad left trigger Pad right trigger"],
  ["grab", "tap G", "Grab a buoy: tap G", "tap Pad west"],
  ["haul", "hold G", "Haul it in: hold G", "hold Pad west"],
  ["flash", "F + G", "Flash the boat: F together with G", "Pad left bumper + Pad north"],
  // Nothing on the pad: what there is.
  ["sweep", "Mouse", "Sweep the lamp: Mouse", "Mouse"],
])("%s: %s, %s; on a pad %s", (action, keys, spoken, pad) => {
  const input = createInputLayer(kelplineForTwo()) as unknown as InputLayer;
  const hands = play(input);
  const now = () => prompt(input, action);
  expect([now().text, now().spoken]).toEqual([keys, spoken]);
  hands.tap("PadNorth").step();
  expect(now().text).toBe(pad);
  hands.tap("KeyT").tap("KeyW").step();
  expect(now().text).toBe(keys);
});

test("a prompt is of the seat's own slots and keys, and says so where there is none", () => {
  const input = createInputLayer(kelplineForTwo()) as unknown as InputLayer;
  const teal = input.seat("teal");
  expect(prompt(teal, "surge").text).toBe("double tap Arrow right");
  teal.setOverrides({
    reacherOverrides: 1,
    controls: { "swim.spare.right": "KeyL", "kick.spare": "KeyM", "snip.spare": null },
  });
  expect([prompt(teal, "surge").text, prompt(teal, "kick").text, prompt(teal, "aim").text]).toEqual([
    "double tap L",
    "M",
    "Pad right stick",
  ]);
  teal.setOverrides({ reacherOverrides: 1, controls: { "kick.spare": null, "kick.pad": null } });
  expect(prompt(teal, "kick")).toMatchObject({ text: "", spoken: "Kick: no control", controls: [] });
  expect(() => prompt(input, "kcik")).toThrow('the plan has no action "kcik"');
});

/** Each row: a code, what it writes, and its label after that. */
test.each([
  ["KeyQ", "a", "A"],
  ["KeyW", "Z", "Z"],
  ["Semicolon", "ö", "Ö"],
  ["Minus", "ß", "ß"],
  ["Digit1", "&", "&"],
  ["KeyQ", "Dead", "Q"],
  ["KeyQ", "aa", "Q"],
  ["KeyQ", " ", "Q"],
  ["ShiftLeft", "s", "Left Shift"],
  ["Space", "x", "Space"],
])("%s that writes %j is labelled %s", (code, key, label) => {
  const labels = createKeyLabels();
  labels.learn(code, key);
  expect(labels.label(code)).toBe(label);
});

test("labels follow the layout the browser tells, then the keys themselves; prompts with them", () => {
  const labels = createKeyLabels();
  let changes = 0;
  const off = labels.onChange(() => changes++);
  labels.use([
    ["KeyQ", "a"],
    ["KeyA", "q"],
    ["KeyW", "z"],
    ["KeyD", "d"],
  ]);
  const input = createInputLayer(kelplineForTwo()) as unknown as InputLayer;
  expect(prompt(input, "swim", labels.label).text).toBe("Z Q S D");
  labels.learn("KeyD", "d");
  expect(changes).toBe(1);
  // The player changed the layout while playing.
  for (const [code, key] of [
    ["KeyA", "a"],
    ["KeyW", "w"],
  ] as const)
    labels.learn(code, key);
  expect([prompt(input, "swim", labels.label).text, changes]).toEqual(["W A S D", 3]);
  off();
  labels.learn("KeyW", "v");
  expect(changes).toBe(3);
});

test("every control of the standard pad has a sign of its own, with its label for screen readers", () => {
  const pads = allControls().filter(({ device }) => device === "pad");
  const signs = pads.map(({ name }) => padSign(name));
  expect(signs.every((sign) => /^<svg [^>]*role="img" aria-label="[^"<]+"[^>]*>.+<\/svg>$/.test(sign!))).toBe(
    true,
  );
  expect(new Set(signs).size).toBe(pads.length);
  // What is meant is filled; of a stick that is only tilted nothing is.
  const filled = (name: string) => padSign(name)!.match(/<[^>]*fill="currentColor"[^>]*>/g) ?? [];
  expect(filled("PadLeftStickPress")).toEqual([expect.stringContaining("<circle")]);
  expect(filled("PadLeftStick").join()).not.toContain("<circle");
  for (const [side, x] of [
    ["Left", 4],
    ["Right", 15.5],
  ] as const)
    expect(filled(`PadCenter${side}`)).toEqual([expect.stringContaining(`x="${x}"`)]);
  expect(new Set(signs.map((sign) => sign!.replace(/aria-label="[^"]*"/, ""))).size).toBe(pads.length);
  expect([padSign("KeyW"), padSign("PadButton17"), padSign("<b>")]).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
});
