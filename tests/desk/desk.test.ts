/** What a player does at a desk, by the window system's own events, in each browser. Each title is a row of docs/browsers.md. */
import { openDesk, type BrowserName, type Desk } from "./desk";
import known from "./known.json";

declare const BROWSER: BrowserName;
declare const PROGRAM: string;

// A window manager sometimes drops a key of a hand that is not there; what is broken fails twice.
jest.retryTimes(1, { logErrorsBeforeRetry: true });

let desk: Desk;
beforeAll(async () => {
  desk = await openDesk(BROWSER, PROGRAM);
});
afterAll(() => desk?.close());
beforeEach(() => desk.fresh());

/** A fault that is known is held to be one still: whoever mends it, or the browser, is told. */
function feature(title: string, run: () => Promise<unknown>): void {
  const faults: readonly { readonly feature: string; readonly browser: string; readonly why: string }[] =
    known;
  const fault = faults.find((one) => one.feature === title && one.browser === BROWSER);
  (fault === undefined ? test : test.failing)(title, run as () => Promise<void>);
}

const isOn = (name: string) => desk.until(({ on }) => on.includes(name));
const isOff = (name: string) => desk.until(({ on }) => !on.includes(name));
const goesRight = () => desk.until(({ x }) => x === 1);
const rests = () => desk.until(({ x, y, on }) => x === 0 && y === 0 && on.length === 0);
/** Long enough for whatever would still come. */
const settled = () => new Promise((done) => setTimeout(done, 300));

feature("a key moves, two give a diagonal, and the release stops", async () => {
  desk.press("KeyD");
  await goesRight();
  desk.press("KeyW");
  await desk.until(({ x, y }) => x === 0.71 && y === 0.71);
  desk.release("KeyD", "KeyW");
  await rests();
});

feature("the system's key repeat is no second press", async () => {
  desk.press("KeyD");
  await goesRight();
  await new Promise((done) => setTimeout(done, 1200));
  expect((await desk.view()).presses["surge"]).toBeUndefined();
  desk.release("KeyD");
  desk.tap("KeyD");
  await settled();
  expect((await desk.view()).presses["surge"]).toBeUndefined();
  // One call for both: on a busy machine two could be further apart than the gap.
  desk.tap("KeyD", "KeyD");
  await desk.until(({ presses }) => presses["surge"] === 1);
});

feature("two Shift keys are two: one's release leaves the other", async () => {
  desk.press("ShiftLeft", "ShiftRight");
  await isOn("amberKick");
  await isOn("tealKick");
  desk.release("ShiftRight");
  await isOff("tealKick");
  await settled();
  expect((await desk.view()).on).toEqual(["amberKick"]);
  desk.release("ShiftLeft");
  await rests();
});

feature("a right click opens a menu, which takes the release: all rests", async () => {
  desk.press("KeyD");
  await goesRight();
  desk.click("secondary");
  await settled();
  desk.release("KeyD");
  desk.tap("Escape");
  await rests();
  desk.press("KeyD");
  await goesRight();
});

feature("a native list that is opened with the mouse: all rests", async () => {
  desk.press("KeyD");
  await goesRight();
  desk.point(100, 135);
  desk.click();
  await settled();
  desk.release("KeyD");
  desk.tap("Escape");
  await rests();
});

feature("an alert takes the release: all rests", async () => {
  desk.press("KeyD");
  await goesRight();
  await desk.ask("void setTimeout(() => alert('wait'), 50)");
  await settled();
  desk.release("KeyD");
  desk.tap("Enter");
  await rests();
});

/** Opens another window by a click of the page's own button, while D is held and let go elsewhere. */
async function visitAnotherWindow(): Promise<void> {
  await desk.ask(
    "void (document.querySelector('button').onclick = () => (window.other = open('about:blank', 'other', 'width=300,height=200')))",
  );
  desk.press("KeyD");
  await goesRight();
  desk.point(100, 35);
  desk.click();
  await rests();
  desk.release("KeyD");
  await desk.ask("void other.close()");
  await settled();
  desk.point(600, 300);
  desk.click();
}

feature("another window takes the keys: all rests", async () => {
  await visitAnotherWindow();
  await rests();
  desk.press("KeyA");
  await desk.until(({ x }) => x === -1);
});

feature("a key that was let go in another window counts at its next press", async () => {
  await visitAnotherWindow();
  await desk.ask("void (window.told = [], addEventListener('keydown', (event) => told.push(event.repeat)))");
  desk.press("KeyD");
  await settled();
  expect(await desk.ask("told[0]")).toBe(false);
  await goesRight();
});

feature("another tab takes the keys: all rests", async () => {
  desk.press("KeyD");
  await goesRight();
  desk.press("ControlLeft");
  desk.tap("KeyT");
  desk.release("ControlLeft");
  await settled();
  desk.release("KeyD");
  await desk.ask("1");
  expect(await desk.ask("document.hasFocus()")).toBe(false);
  desk.press("ControlLeft");
  desk.tap("KeyW");
  desk.release("ControlLeft");
  await rests();
});

feature("ten clicks of the wheel are ten presses", async () => {
  desk.click("wheelDown", 10);
  await desk.until(({ presses }) => presses["sink"] === 10);
  await settled();
  desk.click("wheelUp", 3);
  await desk.until(({ presses }) => presses["rise"] === 3);
  await settled();
  expect((await desk.view()).presses).toEqual({ sink: 10, rise: 3 });
});

feature("sideways scrolling is no press", async () => {
  desk.click("wheelLeft", 3);
  desk.click("wheelRight", 3);
  await settled();
  expect((await desk.view()).presses).toEqual({});
});

feature("the wheel counts while Shift is held", async () => {
  desk.press("ShiftLeft");
  await isOn("amberKick");
  desk.click("wheelDown", 4);
  await desk.until(({ presses }) => presses["sink"] === 4);
});

feature("a dead key is pressed and let go", async () => {
  desk.layout("fr");
  try {
    await settled();
    desk.tap("BracketLeft");
    await desk.until(({ presses }) => presses["mark"] === 1);
    await isOff("mark");
    desk.tap("BracketLeft");
    await desk.until(({ presses }) => presses["mark"] === 2);
    await isOff("mark");
  } finally {
    desk.layout("us");
  }
});

feature("Alt and F10 are keys like others, and swallow none", async () => {
  for (const key of ["AltLeft", "F10"] as const) {
    desk.tap(key);
    await isOff("lamp");
    desk.press("KeyD");
    await goesRight();
    desk.release("KeyD");
    await rests();
  }
  expect((await desk.view()).presses["lamp"]).toBe(2);
});

feature("the system's key is MetaLeft", async () => {
  desk.press("MetaLeft");
  await desk.until(({ presses }) => presses["chart"] === 1);
  desk.release("MetaLeft");
  await isOff("chart");
});

feature("whoever types does not steer, and nothing typed is in a trace", async () => {
  desk.point(100, 85);
  desk.click();
  await settled();
  for (const key of ["KeyD", "KeyW", "KeyD", "KeyD"] as const) desk.tap(key);
  const { x, presses, trace } = await desk.until(({ typed }) => typed === "dwdd");
  expect([x, presses]).toEqual([0, {}]);
  expect(trace).not.toMatch(/"Key/);
});

feature("a field that is focused while keys are held puts them to rest", async () => {
  desk.press("KeyD", "ShiftLeft");
  await goesRight();
  await desk.ask("document.querySelector('input').focus()");
  await rests();
});

feature("a click on the page's own button is not the game's", async () => {
  desk.point(100, 35);
  desk.click();
  await settled();
  expect((await desk.view()).presses).toEqual({});
  desk.press("ArrowRight");
  await goesRight();
});

feature("the mouse turns, and while the pointer is locked it turns beyond the window's edge", async () => {
  await desk.ask("void addEventListener('mousedown', () => lockPointer(document.body), { once: true })");
  desk.click();
  await settled();
  expect(await desk.ask("document.pointerLockElement?.localName")).toBe("body");
  const { turned } = await desk.view();
  // Three times the width of the screen; more than one width of it has to arrive, 0.1 for each px.
  for (let n = 0; n < 20; n++) {
    desk.push(200, 0);
    await desk.view();
  }
  await desk.until((view) => view.turned - turned > 130);
  await desk.ask("document.exitPointerLock()");
});

/** Takes the pointer at a click, with D held. */
async function lockWithKeyHeld(): Promise<void> {
  await desk.ask("void addEventListener('mousedown', () => lockPointer(document.body), { once: true })");
  desk.press("KeyD");
  await goesRight();
  desk.click();
  await settled();
  expect(await desk.ask("document.pointerLockElement?.localName")).toBe("body");
}

feature("Escape frees the pointer while a key is held: all rests, also when it is taken again", async () => {
  await lockWithKeyHeld();
  desk.tap("Escape");
  await settled();
  desk.release("KeyD");
  await rests();
  // After Escape one browser refuses for more than a second.
  await new Promise((done) => setTimeout(done, 1500));
  await lockWithKeyHeld();
  desk.release("KeyD");
  await rests();
  await desk.ask("document.exitPointerLock()");
});

feature("Escape leaves full screen while a key is held: all rests", async () => {
  await desk.ask(
    "void addEventListener('mousedown', () => document.body.requestFullscreen(), { once: true })",
  );
  desk.press("KeyD");
  await goesRight();
  desk.click();
  await settled();
  await settled();
  desk.tap("Escape");
  await settled();
  desk.release("KeyD");
  await rests();
});

feature("Control and Tab with a single tab leave nothing held", async () => {
  desk.press("KeyD");
  await goesRight();
  desk.press("ControlLeft");
  desk.tap("Tab");
  desk.release("KeyD", "ControlLeft");
  await settled();
  desk.point(640, 320);
  await rests();
});

feature("text that is selected and dragged takes no release", async () => {
  await desk.ask(
    "void (document.body.insertAdjacentHTML('beforeend', '<h1 style=\"position: fixed; left: 300px; top: 40px\">Kelp farm</h1>'), getSelection().selectAllChildren(document.querySelector('h1')))",
  );
  desk.press("KeyD");
  await goesRight();
  desk.point(340, 80);
  desk.mouse("down");
  for (let n = 1; n < 12; n++) desk.point(340 + 20 * n, 80 + 20 * n);
  desk.release("KeyD");
  desk.mouse("up");
  await rests();
});

feature("a button that is let go over a frame is let go", async () => {
  await desk.ask(
    "void document.body.insertAdjacentHTML('beforeend', '<iframe style=\"position: fixed; left: 300px; top: 400px\" srcdoc=frame></iframe>')",
  );
  await settled();
  desk.mouse("down");
  await isOn("snip");
  desk.point(400, 450);
  desk.mouse("up");
  desk.point(600, 300);
  await isOff("snip");
});

feature("a right button that the plan uses, with Shift held, leaves nothing held", async () => {
  await desk.ask(
    "replan({ amberKick: undefined, snip: { kind: 'switch', from: { main: 'MouseSecondary' } } })",
  );
  desk.press("ShiftLeft", "KeyD");
  await goesRight();
  desk.mouse("down", "secondary");
  await settled();
  desk.mouse("up", "secondary");
  desk.release("ShiftLeft", "KeyD");
  desk.tap("Escape");
  await settled();
  desk.point(640, 320);
  await rests();
});

feature("F10 that the plan does not use takes no release of a key", async () => {
  await desk.ask("replan({ lamp: undefined })");
  desk.press("KeyD");
  await goesRight();
  desk.tap("F10");
  await settled();
  desk.release("KeyD");
  desk.tap("Escape");
  await rests();
});

feature("a choice of colours that is opened with a key held: all rests", async () => {
  await desk.ask(
    "void document.body.insertAdjacentHTML('beforeend', '<input type=color style=\"top: 170px\">')",
  );
  desk.press("KeyD");
  await goesRight();
  desk.point(100, 185);
  desk.click();
  await settled();
  desk.release("KeyD");
  desk.tap("Escape");
  await rests();
});

feature("Alt and Tab that the window manager takes leave nothing held", async () => {
  desk.press("KeyD");
  await goesRight();
  desk.press("AltLeft");
  desk.press("Tab");
  desk.release("Tab", "KeyD", "AltLeft");
  await settled();
  desk.point(640, 320);
  await rests();
});

feature("another window that is heard in place of this one has the same clock", async () => {
  await desk.ask(
    "void (document.querySelector('button').onclick = () => hear(window.other = open('about:blank', 'other', 'width=300,height=200')))",
  );
  desk.point(100, 35);
  desk.click();
  await settled();
  await settled();
  try {
    const [x, y] = await desk.ask<[number, number]>(
      "[other.screenX + other.outerWidth / 2, other.screenY + other.outerHeight - 60]",
    );
    const { corner } = await desk.view();
    desk.point(x - corner.x, y - corner.y);
    desk.click();
    await settled();
    await desk.ask("void (window.at = 0, input.on('amberKick', 'on', (t) => (at = t)))");
    const before = await desk.ask<number>("performance.now()");
    desk.press("ShiftLeft");
    await isOn("amberKick");
    const [at, after] = await desk.ask<[number, number]>("[at, performance.now()]");
    expect(at).toBeGreaterThan(before);
    expect(at).toBeLessThan(after);
    desk.release("ShiftLeft");
    await rests();
  } finally {
    await desk.ask("void other.close()");
  }
});

feature("a dead key that is held is down, and two presses of it are two", async () => {
  desk.layout("fr");
  try {
    await settled();
    desk.press("BracketLeft");
    await isOn("mark");
    await new Promise((done) => setTimeout(done, 600));
    expect((await desk.view()).on).toContain("mark");
    desk.release("BracketLeft");
    await isOff("mark");
    desk.tap("BracketLeft", "BracketLeft");
    await desk.until(({ presses }) => presses["mark"] === 3);
  } finally {
    desk.layout("us");
  }
});

feature("a press on a popover's text is the page's, and Escape closes it", async () => {
  await desk.ask("replan({ chart: { kind: 'switch', from: { main: 'Escape' } } })");
  await desk.ask(
    "void (document.body.insertAdjacentHTML('beforeend', '<div popover style=\"padding: 60px\">The kelp is ripe.</div>'), document.querySelector('[popover]').showPopover())",
  );
  desk.point(600, 400);
  const { x, y } = await desk.ask<{ x: number; y: number }>(
    "(({ x, y, width, height }) => ({ x: x + width / 2, y: y + height / 2 }))(document.querySelector('[popover]').getBoundingClientRect())",
  );
  desk.point(x, y);
  desk.click();
  await settled();
  expect((await desk.view()).presses).toEqual({});
  desk.tap("Escape");
  await settled();
  expect(await desk.ask("document.querySelector('[popover]').matches(':popover-open')")).toBe(false);
});

// The only browser that has pads of its own for tests, as real to the page as others.
if (BROWSER === "firefox")
  feature("a pad moves, and a page without focus hears none", async () => {
    await desk.ask(`(async () => {
      const pads = navigator.requestGamepadServiceTest();
      const pad = await pads.addGamepad("a test pad", pads.standardMapping, pads.noHand, 17, 4, 0, 0, 0);
      Object.assign(globalThis, { pads, pad });
      await pads.newButtonEvent(pad, 0, true, true);
      await pads.newAxisMoveEvent(pad, 0, 1);
    })()`);
    await goesRight();
    await desk.ask("pads.newButtonEvent(pad, 0, false, false)");
    await desk.until(({ presses }) => presses["snip"] === 1);
    // The browser's own search takes the focus.
    desk.press("ControlLeft");
    desk.tap("KeyF");
    desk.release("ControlLeft");
    await rests();
    desk.tap("Escape");
    await settled();
    expect(await desk.ask("document.hasFocus()")).toBe(true);
    // What is held still waits for rest.
    expect((await desk.view()).x).toBe(0);
    await desk.ask("pads.newAxisMoveEvent(pad, 0, 0)");
    await settled();
    await desk.ask("pads.newAxisMoveEvent(pad, 0, -1)");
    await desk.until(({ x }) => x === -1);
    await desk.ask("pads.removeGamepad(pad)");
    await rests();
  });
