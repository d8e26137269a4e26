/** The built game in a real browser, worked by real keys, the mouse and a simulated pad. */
import type { Page } from "playwright-core";
import { eachPage, hasText, hold, pass, saved, textOf, turnsTo, until } from "../../../tests/support/browser";
import { fingersOn } from "../../../tests/support/fingers";

let page: Page;
eachPage("kelpline", (opened) => (page = opened), { ready: "html[data-rules]" });

const shown = (id: string) => textOf(page, id);
/** Waits until the panel shows this text. */
const shows = (id: string, text: string) => hasText(page, id, text);
const player = (name: string) => page.getByRole("button", { name: new RegExp(`^${name} `) });
/** Waits until the panel shows a switch on or off. */
const turns = (name: string, on: boolean) => turnsTo(page, name, on);

/** Metres, once the panel has caught up. */
async function place(): Promise<{ x: number; y: number }> {
  await pass(page, 250);
  const [x, y] = (await shown("place")).split(/[ ,m]+/).map(Number);
  return { x: x!, y: y! };
}

test("the diver moves while a key is held and stops on its release", async () => {
  const start = await place();
  await page.keyboard.down("KeyD");
  await pass(page, 400);
  await page.keyboard.up("KeyD");
  const stopped = await place();
  expect(stopped.x).toBeGreaterThan(start.x + 0.5);
  expect(stopped.y).toBe(start.y);
  expect(await place()).toEqual(stopped);
  expect(await shown("held")).toBe("nothing");
});

test("W and D together are no faster", async () => {
  await page.keyboard.down("KeyW");
  await page.keyboard.down("KeyD");
  await shows("vector", "0.71, 0.71");
});

test("A then D then releasing D goes left again", async () => {
  await page.keyboard.down("KeyA");
  await page.keyboard.down("KeyD");
  await shows("vector", "1.00, 0.00");
  await page.keyboard.up("KeyD");
  await shows("vector", "-1.00, 0.00");
});

test("a held Shift ends when the page loses focus, and its late release harms nothing", async () => {
  await page.keyboard.down("KeyD");
  await page.keyboard.down("ShiftLeft");
  await pass(page, 200);
  await turns("kick", true);
  await page.evaluate(() => window.dispatchEvent(new FocusEvent("blur")));
  await pass(page, 200);
  await turns("kick", false);
  for (const key of ["ShiftLeft", "KeyD"]) await page.keyboard.up(key);
  for (const key of ["KeyD", "ShiftLeft"]) await page.keyboard.down(key);
  await pass(page, 200);
  await turns("kick", true);
});

test("typing in the chat moves nobody, and a key let go there is let go", async () => {
  await page.keyboard.down("KeyD");
  await pass(page, 100);
  await page.getByLabel("To the boat").click();
  await pass(page, 10);
  const before = await place();
  await pass(page, 200);
  expect(await place()).toEqual(before);
  await page.keyboard.up("KeyD");
  await page.keyboard.type("wasd");
  await page.keyboard.down("Shift");
  await pass(page, 200);
  await turns("kick", false);
  await page.keyboard.up("Shift");
  expect(await place()).toEqual(before);
  await hold(page, "Enter");
  expect(await page.getByLabel("Said").innerText()).toBe("wasd");
  await page.keyboard.down("KeyW");
  expect((await place()).y).toBeGreaterThan(before.y);
});

test("the operating system's key repeat is not a press", async () => {
  const repeat = () =>
    page.evaluate(() =>
      window.dispatchEvent(
        new KeyboardEvent("keydown", { code: "KeyF", key: "f", repeat: true, bubbles: true }),
      ),
    );
  await page.keyboard.down("KeyF");
  for (let n = 0; n < 3; n++) await repeat();
  await pass(page, 200);
  await turns("lamp", false);
});

// Each row: events whose release the browser loses, and what later event makes it good.
test.each([
  [
    "the other key of two Shifts",
    ["keydown ShiftLeft shift", "keydown ShiftRight shift", "keyup ShiftRight", "keydown KeyD"],
    "D",
  ],
  [
    "but not by the release of one of them, after which some systems say that none is held",
    ["keydown ShiftLeft shift", "keydown ShiftRight shift", "keyup ShiftRight"],
    "Left Shift",
  ],
  ["a Shift that a later key knows to be up", ["keydown ShiftLeft shift", "keydown KeyD"], "D"],
  ["a key let go while Meta is held", ["keydown KeyD", "keydown MetaLeft meta", "keyup MetaLeft"], "nothing"],
  [
    "Meta itself, which a later key knows to be up",
    ["keydown MetaLeft meta", "keydown KeyD meta", "keydown KeyW"],
    "W",
  ],
])("a release that was lost is made good: %s", async (_, events, held) => {
  await page.evaluate((list) => {
    for (const line of list) {
      const [type, code, modifier] = line.split(" ");
      window.dispatchEvent(
        new KeyboardEvent(type!, {
          code: code!,
          shiftKey: modifier === "shift",
          metaKey: modifier === "meta",
          bubbles: true,
        }),
      );
    }
  }, events);
  await pass(page, 250);
  expect(await shown("held")).toBe(held);
});

test("a simulated stick swims, and a lost pad is at rest", async () => {
  const start = await place();
  await page.evaluate(() => {
    const [pad] = (globalThis as any).pads;
    pad.connected = true;
    pad.tilt("PadLeftStick", -0.6, 0.6);
  });
  const moved = await place();
  expect(moved.x).toBeLessThan(start.x - 0.1);
  expect(moved.y).toBeGreaterThan(start.y + 0.1);
  await page.evaluate(() => {
    (globalThis as any).pads[0].connected = false;
    window.dispatchEvent(Object.assign(new Event("gamepaddisconnected"), { gamepad: { index: 0 } }));
  });
  await shows("vector", "0.00, 0.00");
});

test("a double tap surges, and holding the key does not", async () => {
  await page.keyboard.down("KeyD");
  await pass(page, 500);
  await turns("surge", false);
  await page.keyboard.up("KeyD");
  await hold(page, "KeyW", 50);
  await pass(page, 60);
  await page.keyboard.down("KeyW");
  await pass(page, 250);
  await turns("surge", true);
  await page.keyboard.up("KeyW");
  await pass(page, 200);
  await turns("surge", false);
});

test("the key that chooses in the menu does not snip when the menu closes", async () => {
  await hold(page, "Escape", 40);
  await until(page, () => page.getByTestId("menu").count(), 1);
  await page.keyboard.down("KeyX");
  await pass(page, 100);
  await hold(page, "Escape", 40);
  await shows("tally", "0 snips · 0 grabs · 1 chosen");
  await page.keyboard.up("KeyX");
  await hold(page, "KeyX", 40);
  await shows("tally", "1 snip · 0 grabs · 1 chosen");
});

test("the haul's ring fills while its key is held and empties on release; held to the end it reels and mutes", async () => {
  const filled = async () => /\d %/.test(await shown("haul"));
  await page.keyboard.down("KeyG");
  await until(page, filled, true);
  await page.keyboard.up("KeyG");
  await until(page, filled, false);
  await shows("tally", "0 snips · 1 grab · 0 chosen");
  await hold(page, "KeyG", 800);
  await hold(page, "KeyX");
  await shows("tally", "0 snips · 1 grab · 0 chosen");
  await shows("why", "Why not? snip: muted: reel; kept for 120 ms, and could not begin");
});

describe("to the millisecond, by real keys", () => {
  /** Presses (+), releases (-), and the ms between them. */
  const act = async (line: string) => {
    for (const word of line.split(" ")) {
      if (word.startsWith("+")) await page.keyboard.down(word.slice(1));
      else if (word.startsWith("-")) await page.keyboard.up(word.slice(1));
      else await pass(page, Number(word));
    }
  };

  test.each([
    // Two presses up to 220 ms apart are a double tap, unless the opposite key comes between.
    ["+KeyW 50 -KeyW 170 +KeyW 200", "surge", true],
    ["+KeyW 50 -KeyW 171 +KeyW 200", "surge", false],
    ["+KeyW 50 -KeyW 40 +KeyS 40 -KeyS 40 +KeyW 200", "surge", false],
    // It rests for 600 ms after it turned on.
    ["+KeyW 50 -KeyW 50 +KeyW 50 -KeyW 450 +KeyW 50 -KeyW 50 +KeyW 200", "surge", false],
    ["+KeyW 50 -KeyW 50 +KeyW 50 -KeyW 451 +KeyW 50 -KeyW 50 +KeyW 200", "surge", true],
    // A tap of up to 250 ms stays on, a longer press is a hold.
    ["+KeyC 250 -KeyC 200", "tuck", true],
    ["+KeyC 251 -KeyC 200", "tuck", false],
    // The later of the two stances wins.
    ["+KeyC 50 -KeyC 50 +KeyD 20 +ShiftLeft 50", "kick", true],
    ["+KeyC 50 -KeyC 50 +KeyD 20 +ShiftLeft 50", "tuck", false],
  ])("%s: %s %s", async (line, name, on) => {
    await act(line);
    await pass(page, 120);
    await turns(name, on);
  });

  test.each([
    // Below 600 ms it is a grab, from there on the haul; what is hauled is no grab.
    ["+KeyG 599 -KeyG", "0 snips · 1 grab · 0 chosen"],
    ["+KeyG 600 -KeyG", "0 snips · 0 grabs · 0 chosen"],
    // Held, it snips again after 400 ms and then every 300.
    ["+KeyX 399 -KeyX", "1 snip · 0 grabs · 0 chosen"],
    ["+KeyX 400 -KeyX", "2 snips · 0 grabs · 0 chosen"],
    ["+KeyX 999 -KeyX", "3 snips · 0 grabs · 0 chosen"],
    ["+KeyX 1000 -KeyX", "4 snips · 0 grabs · 0 chosen"],
  ])("%s: %s", async (line, tally) => {
    await act(line);
    await pass(page, 120);
    await shows("tally", tally);
  });
});

test("the player chooses hold, toggle or either", async () => {
  await page.getByText("Toggle").click();
  await page.keyboard.down("KeyD");
  for (const on of [true, false]) {
    await hold(page, "ShiftLeft", 400);
    await pass(page, 200);
    await turns("kick", on);
  }
  await page.keyboard.up("KeyD");
  await page.getByText("Either").click();
  await page.keyboard.down("KeyD");
  await hold(page, "ShiftLeft", 60);
  await pass(page, 200);
  await turns("kick", true);
});

test("two divers are moved at once from one keyboard, and whoever is alone has all of it", async () => {
  await page.keyboard.down("ArrowRight");
  await shows("vector", "1.00, 0.00");
  await page.keyboard.up("ArrowRight");
  await page.getByText("Teal joins").click();
  await page.keyboard.down("KeyW");
  await page.keyboard.down("ArrowLeft");
  await shows("vector", "0.00, 1.00");
  await player("teal").click();
  await shows("vector", "-1.00, 0.00");
  await page.getByText("Teal leaves").click();
  await shows("vector", "0.00, 1.00");
});

/** Works the page's simulated pads. */
const pads = (work: (pads: any[]) => void) => page.evaluate(`(${work.toString()})(globalThis.pads)`);
const unplug = (index: number) =>
  page.evaluate((n) => {
    (globalThis as any).pads[n].connected = false;
    window.dispatchEvent(Object.assign(new Event("gamepaddisconnected"), { gamepad: { index: n } }));
  }, index);

test("pads join by a press; a lost one is waited for with its diver at rest, and comes back", async () => {
  await pads(([one]) => {
    one.connected = true;
    one.press("PadEast");
  });
  await pass(page, 200);
  await pads(([one, other]) => {
    one.rest();
    other.connected = true;
    other.press("PadEast");
  });
  await pass(page, 250);
  expect(await player("amber").innerText()).toContain("pad 1");
  expect(await player("teal").innerText()).toContain("pad 2");
  await pads(([one, other]) => {
    other.rest();
    one.tilt("PadLeftStick", 1, 0);
  });
  await shows("vector", "1.00, 0.00");
  await unplug(0);
  await shows("vector", "0.00, 0.00");
  expect(await shown("lost")).toMatch(/^amber's pad is lost/i);
  await pads(([one]) => {
    one.connected = true;
  });
  await shows("vector", "1.00, 0.00");
  expect(await page.getByTestId("lost").count()).toBe(0);
});

test("a pad of an unknown layout is learnt by a guided run, and remembered after a reload", async () => {
  // Its left stick is axes 2 and 3, its lowest button number 5.
  const plugIn = () =>
    pads((list) => {
      const axes = [0, 0, 0, 0];
      const buttons = Array.from({ length: 10 }, () => ({ value: 0, pressed: false, touched: false }));
      list[0] = { index: 0, id: "odd pad", mapping: "", connected: true, timestamp: 0, axes, buttons };
    });
  const move = async (axis: number, value: number) => {
    await page.evaluate(([n, v]) => ((globalThis as any).pads[0].axes[n!] = v), [axis, value]);
    await pass(page, 80);
  };
  const press = async (button: number, value: number) => {
    await page.evaluate(
      ([n, v]) => ((globalThis as any).pads[0].buttons[n!] = { value: v, pressed: v === 1, touched: false }),
      [button, value],
    );
    await pass(page, 80);
  };
  await plugIn();
  const offer = page.getByText("Set up this pad");
  await until(page, () => offer.isVisible(), true);
  await offer.click();
  await page.getByRole("button", { name: "Begin" }).click();
  await shows("ask", "Move the left stick to the right");
  await move(2, 1);
  await shows("ask", "Good. Let go.");
  await move(2, 0);
  await shows("ask", "Move the left stick down");
  await move(3, 1);
  await move(3, 0);
  await shows("ask", "Press the lowest of the four right-hand buttons");
  await press(5, 1);
  await press(5, 0);
  await page.getByText("It has none: skip").click();
  await shows("ask", "Press the leftmost of the four right-hand buttons");
  await page.getByText("Keep what is learnt").click();
  const swims = async () => {
    await move(2, -1);
    await shows("vector", "-1.00, 0.00");
  };
  await swims();
  await page.reload();
  await page.waitForSelector("canvas");
  await plugIn();
  await swims();
});

test("only keys that the plan uses are kept from the browser, and no shortcut is", async () => {
  const kept = await page.evaluate(() => {
    const press = (init: KeyboardEventInit, target: EventTarget = document.querySelector("canvas")!) => {
      const event = new KeyboardEvent("keydown", { bubbles: true, cancelable: true, ...init });
      target.dispatchEvent(event);
      return event.defaultPrevented;
    };
    return [
      press({ code: "ArrowDown" }),
      press({ code: "Space" }),
      press({ code: "KeyZ" }),
      press({ code: "KeyW", ctrlKey: true }),
      press({ code: "ArrowDown" }, document.querySelector("input")!),
      press({ code: "KeyW", isComposing: true }),
    ];
  });
  expect(kept).toEqual([true, false, false, false, false, false]);
});

test("the last half minute is saved as a report with the state that it begins with, and nothing that was typed", async () => {
  await hold(page, "KeyD", 120);
  await page.getByLabel("To the boat").click();
  await page.keyboard.type("wade past Ed, it is cold");
  await pass(page, 20);
  const report = JSON.parse(await saved(page, () => page.getByText("Save 30 s").click()));
  expect([report.reacherReport, report.plan.name]).toEqual([1, "kelpline"]);
  expect(Object.keys(report.trace[0])).toEqual(["t", "state"]);
  // The mouse goes its way to the chat; of keys there are these.
  const controls = (report.trace as { control?: string }[]).map(({ control }) => control);
  expect(controls.filter((control) => control !== undefined && !/^Mouse/.test(control))).toEqual([
    "KeyD",
    "KeyD",
  ]);
});

test("all of it is reached by keyboard, with the focus in view, and fits a narrow window", async () => {
  await page.setViewportSize({ width: 390, height: 700 });
  const reached: string[] = [];
  for (let n = 0; n < 7; n++) {
    reached.push(await page.evaluate(() => document.activeElement!.tagName));
    await page.keyboard.press("Tab");
  }
  expect(reached).toEqual(["CANVAS", "INPUT", "BUTTON", "INPUT", "INPUT", "BUTTON", "BUTTON"]);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test("on a phone one thumb swims and the other kicks, at once; a key brings the keyboard's prompts back", async () => {
  await page.setViewportSize({ width: 390, height: 800 });
  const fingers = await fingersOn(page);
  const area = (control: string) => page.locator(`[data-control=${control}]`);
  expect(await area("Thumb").isVisible()).toBe(false);
  await fingers.down(1, 200, 200);
  await fingers.up(1);
  await pass(page, 50);
  expect(await page.locator(".keys").isVisible()).toBe(false);
  const middle = async (control: string) => {
    const { x, y, width, height } = (await area(control).boundingBox())!;
    return [x + width / 2, y + height / 2] as const;
  };
  const [x, y] = await middle("Thumb");
  await fingers.down(1, x, y);
  await fingers.move(1, x, y - 80);
  await fingers.down(2, ...(await middle("Kick")));
  await shows("vector", "0.00, 1.00");
  await turns("kick", true);
  await fingers.up(2);
  await turns("kick", false);
  await shows("vector", "0.00, 1.00");
  await fingers.up(1);
  await shows("vector", "0.00, 0.00");
  await page.keyboard.press("KeyQ");
  await pass(page, 50);
  expect(await page.locator(".keys").isVisible()).toBe(true);
});
