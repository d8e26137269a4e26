/** The built game's settings screen in a real browser, worked by keyboard alone, by mouse, and by a simulated pad alone. */
import { createRequire } from "node:module";
import type { Locator, Page } from "playwright-core";
import { eachPage, hasText, hold, letRun, pass, saved, turnsTo, until } from "../../../tests/support/browser";

let page: Page;
eachPage("kelpline", (opened) => (page = opened), { ready: "html[data-rules]" });

const cell = (address: string) => page.getByTestId(`cell-${address}`);
/** Waits until a cell shows this control. */
const holds = (address: string, text: string, on = page) => hasText(on, `cell-${address}`, text);
/** Waits until there is one of these, or none. */
const comes = (found: Locator, on = page) => until(on, () => found.count(), 1);
const goes = (found: Locator) => until(page, () => found.count(), 0);
const openSettings = async (on = page) => {
  await on.getByRole("button", { name: "Settings" }).click();
  await comes(on.getByTestId("settings"), on);
};
const asks = () => page.getByTestId("ask");
const listens = () => comes(asks());
const tap = (key: string) => hold(page, key, 40);
const turns = (name: string, on: boolean) => turnsTo(page, name, on);
/** Waits until keys go to the game again. */
const playsOn = () => until(page, () => page.evaluate(() => document.activeElement?.localName), "canvas");
const prompts = (name = "amber") => page.getByTestId(`prompts-${name}`);

/** Presses a button of a simulated pad, by its number in the standard layout, for a few frames. */
async function press(button: number, ms = 90, pad = 0): Promise<void> {
  await page.evaluate(
    async ([n, at, time]) => {
      for (const value of [1, 0]) {
        (globalThis as any).pads[at!].buttons[n!] = { pressed: value === 1, value };
        await pageClock.pass(time!);
      }
    },
    [button, pad, ms],
  );
}
const plugIn = () => page.evaluate(() => void ((globalThis as any).pads[0].connected = true));
const focused = () =>
  page.evaluate(
    () =>
      document.activeElement?.getAttribute("data-testid") ??
      document.activeElement?.getAttribute("aria-label") ??
      (document.activeElement as HTMLElement | null)?.innerText ??
      "",
  );

test("by keyboard alone: a clash is swapped, played with, undone, and Escape leaves all as it was", async () => {
  await page.getByRole("button", { name: "Settings" }).focus();
  await tap("Enter");
  await comes(page.getByTestId("settings"));
  await cell("kick.main").focus();
  await tap("Enter");
  await listens();
  // The Enter that opened it is not caught; Escape gives up.
  expect(await asks().innerText()).toBe("Press what you want in place of Left Shift.");
  await tap("Escape");
  await comes(page.getByText("Nothing was changed."));
  await tap("Enter");
  await listens();
  await tap("KeyC");
  await comes(page.getByTestId("clash"));
  expect(await page.getByTestId("clash").innerText()).toBe("C is used by Tuck already.");
  await tap("Enter");
  await holds("kick.main", "C");
  await holds("tuck.main", "Left Shift");
  await page.getByRole("button", { name: "Done" }).focus();
  await tap("Enter");
  await goes(page.getByTestId("settings"));
  await playsOn();
  for (const key of ["KeyD", "KeyC"]) await page.keyboard.down(key);
  await turns("kick", true);
  for (const key of ["KeyC", "KeyD"]) await page.keyboard.up(key);
  await openSettings();
  await page.getByRole("button", { name: "Reset all" }).click();
  await holds("kick.main", "Left Shift");
  await page.getByRole("button", { name: "Undo" }).click();
  await holds("kick.main", "C");
});

test("the click that opens it is not caught, a mouse button is, and a control that the slot does not take says why", async () => {
  await openSettings();
  await cell("snip.main").click();
  await listens();
  await pass(page, 100);
  expect(await asks().innerText()).toBe("Press what you want in place of X.");
  await plugIn();
  await press(3);
  expect(await asks().innerText()).toBe("Pad north cannot be used: it is for the keyboard or mouse.");
  await page.mouse.click(640, 400, { button: "middle" });
  await holds("snip.main", "Middle mouse button");
  // Neither is the click that clears it.
  await cell("snip.main").click();
  await page.mouse.click(640, 400, { button: "right" });
  await page.getByRole("button", { name: "Clear it" }).click();
  await holds("snip.main", "none");
});

test("a key that the game needs may be cleared on the way, and nobody leaves without one", async () => {
  await openSettings();
  for (const address of ["pause.main", "pause.spare", "pause.pad"]) {
    await cell(address).click();
    await listens();
    await tap("Escape");
    await page.getByRole("button", { name: "Clear it" }).click();
    await holds(address, "none");
  }
  await comes(page.getByTestId("lacking"));
  expect(await page.getByTestId("lacking").innerText()).toBe("Menu has no key: choose one before you leave");
  const done = page.getByRole("button", { name: "Done" });
  expect(await done.isDisabled()).toBe(true);
  await tap("Escape");
  await pass(page, 200);
  await comes(page.getByTestId("settings"));
  await cell("pause.main").click();
  await listens();
  await tap("KeyO");
  await holds("pause.main", "O");
  await goes(page.getByTestId("lacking"));
  await done.click();
  await goes(page.getByTestId("settings"));
});

test("start to end by the pad alone", async () => {
  await plugIn();
  await press(9);
  await comes(page.getByTestId("menu"));
  // Down to the menu's buttons, right to the second, and in.
  await press(13);
  await press(15);
  expect(await focused()).toBe("Keys and settings");
  await press(0);
  await comes(page.getByTestId("settings"));
  const reach = async (wanted: string, button: number) => {
    for (let n = 0; n < 40 && (await focused()) !== wanted; n++) await press(button, 70);
    expect(await focused()).toBe(wanted);
  };
  await pass(page, 200);
  await reach("cell-swim.main.up", 13);
  await reach("cell-swim.pad", 15);
  await reach("cell-kick.pad", 13);
  await press(0);
  await listens();
  await press(2);
  await comes(page.getByTestId("clash"));
  expect(await page.getByTestId("clash").innerText()).toBe(
    "Pad west is used by Grab a buoy and Haul it in already.",
  );
  await reach("Change nothing", 13);
  await press(0);
  await goes(page.getByTestId("capture"));
  await reach("cell-kick.pad", 13);
  await press(0);
  await listens();
  await press(4);
  await until(
    page,
    async () => / Pad left bumper$/.test((await cell("kick.pad").getAttribute("aria-label"))!),
    true,
  );
  // The feel of it: a slider takes left and right.
  await reach("Profile", 12);
  await reach("Feel", 14);
  await press(0);
  await comes(page.getByText("Double-tap time"));
  await press(1);
  await goes(page.getByTestId("settings"));
  await playsOn();
});

test("the second diver's pad opens that diver's own settings, and the first one's does nothing in them", async () => {
  await page.evaluate(() => (globalThis as any).pads.forEach((pad: any) => (pad.connected = true)));
  await press(4, 90, 0);
  await press(4, 90, 1);
  await comes(prompts("teal"));
  await press(9, 90, 1);
  await comes(page.getByTestId("menu"));
  await press(13, 90, 1);
  await press(15, 90, 1);
  await press(0, 90, 1);
  await comes(page.getByRole("heading", { name: "Settings of teal" }));
  await pass(page, 200);
  await press(9, 90, 0);
  await press(1, 90, 0);
  expect(await page.getByTestId("settings").count()).toBe(1);
  await press(1, 90, 1);
  await goes(page.getByTestId("settings"));
});

test("after a reload all is as it was; another tab's change is kept beside this one's", async () => {
  await openSettings();
  await cell("kick.main").click();
  await listens();
  await tap("KeyV");
  await holds("kick.main", "V");
  const other = await page.context().newPage();
  await other.goto(page.url());
  await other.waitForSelector("canvas");
  await pass(other, 300);
  await openSettings(other);
  await holds("kick.main", "V", other);
  await other.getByTestId("cell-tuck.main").click();
  await hold(other, "KeyB");
  await holds("tuck.main", "B", other);
  // This tab hears of it.
  await holds("tuck.main", "B");
  await page.reload();
  await page.waitForSelector("canvas");
  await pass(page, 300);
  await openSettings();
  await holds("kick.main", "V");
  await holds("tuck.main", "B");
  expect(await page.getByTestId("summary").innerText()).toBe("2 things changed · amber");
});

test("profiles are switched at once, and a file is taken along", async () => {
  await openSettings();
  await page.getByRole("button", { name: "One hand" }).click();
  await holds("kick.main", "V");
  await page.getByRole("tab", { name: "Profile" }).click();
  const text = await saved(page, () => page.getByRole("button", { name: "Save as a file" }).click());
  expect(JSON.parse(text).settings).toEqual({ holds: "toggle", "surge.gapMs": 320, "haul.afterMs": 400 });
  await page.getByLabel("New profile").pressSequentially("guest");
  await page.getByRole("button", { name: "Create it" }).click();
  await comes(page.getByText("No changes · guest"));
  const load = async (name: string, body: string) => {
    const [chooser] = await Promise.all([
      page.waitForEvent("filechooser"),
      page.getByRole("button", { name: "Load a file" }).click(),
    ]);
    await chooser.setFiles({ name, mimeType: "application/json", buffer: Buffer.from(body) });
  };
  await load("broken.json", "{ half");
  await comes(page.getByText(/^broken\.json: this is no JSON.*Nothing was changed\.$/));
  await load("mine.json", text);
  await comes(page.getByText("mine.json applies."));
  await page.getByText("amber", { exact: true }).last().click();
  await comes(page.getByText("5 things changed · amber"));
});

test("with the storage refused the game plays on and says so once", async () => {
  // In a tab of its own, since whatever is loaded there is refused.
  const url = page.url();
  page = await page.context().newPage();
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException("storage is denied to this page", "SecurityError");
    };
  });
  await page.goto(url);
  await comes(page.getByTestId("fault"));
  expect(await page.getByTestId("fault").innerText()).toMatch(
    /^Settings cannot be kept here \(storage is denied to this page\)\./,
  );
  await page.getByRole("button", { name: "Understood" }).click();
  await openSettings();
  await cell("kick.main").click();
  await listens();
  await tap("KeyV");
  await holds("kick.main", "V");
  await page.getByRole("button", { name: "Done" }).click();
  for (const key of ["KeyD", "KeyV"]) await page.keyboard.down(key);
  await turns("kick", true);
});

test("the tap test proposes a window that fits the hand", async () => {
  await openSettings();
  await page.getByRole("tab", { name: "Feel" }).click();
  await page.getByRole("button", { name: "Measure my double tap" }).click();
  for (let n = 0; n < 5; n++) {
    await tap("KeyD");
    await pass(page, 160);
    await tap("KeyD");
    await pass(page, 1050);
  }
  const use = page.getByRole("button", { name: /^Use \d+ ms$/ });
  await comes(use);
  const proposed = Number((await use.innerText()).replace(/\D/g, ""));
  expect(proposed).toBeGreaterThanOrEqual(240);
  await use.click();
  await comes(page.getByRole("region", { name: "Surge" }).getByText(`${proposed} ms`));
});

test("prompts follow the device within one press, and the letters of the player's keyboard", async () => {
  await hold(page, "KeyT");
  const offers = (text: string) =>
    until(page, async () => (await prompts().textContent())!.includes(text), true);
  const surge = prompts().locator("li", { hasText: "Surge" });
  expect(await surge.innerText()).toMatch(/Surge: double tap W, A, S or D/);
  await plugIn();
  await press(0);
  await offers("Surge: Pad right bumper");
  expect(await prompts().locator("svg").count()).toBeGreaterThan(5);
  // A French keyboard: the keys stand where they stood, and write something else.
  await page.evaluate(() => {
    for (const [code, key] of [
      ["KeyW", "z"],
      ["KeyA", "q"],
      ["KeyQ", "a"],
    ]) {
      for (const type of ["keydown", "keyup"])
        document.activeElement!.dispatchEvent(new KeyboardEvent(type, { code, key, bubbles: true }));
    }
  });
  await offers("Swim: Z, Q, S and D");
});

test.each(["the game", "Keys", "Feel", "Profile", "capture", "narrow"])(
  "axe finds nothing wrong: %s",
  async (where) => {
    if (where === "narrow") await page.setViewportSize({ width: 420, height: 800 });
    if (where !== "the game") await openSettings();
    if (where === "Feel" || where === "Profile") await page.getByRole("tab", { name: where }).click();
    if (where === "capture") await cell("kick.main").click();
    await pass(page, 400);
    // It waits by the page's clock.
    await letRun(page);
    await page.addScriptTag({ path: createRequire(__filename).resolve("axe-core/axe.min.js") });
    const wrong = await page.evaluate(async () => {
      const { violations } = await (globalThis as any).axe.run();
      return violations.map(
        ({ id, nodes }: any) => `${id}: ${nodes.map(({ target }: any) => target.join(" ")).join(", ")}`,
      );
    });
    expect(wrong).toEqual([]);
  },
);
