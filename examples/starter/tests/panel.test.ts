/** The library's panel over the starter, under a policy that allows no style and no script but the page's own files. */
import type { Page } from "playwright-core";
import { eachPage, hold, pass, saved, until } from "../../../tests/support/browser";

let page: Page;
let faults: string[];
eachPage(
  "starter",
  (opened) => {
    page = opened;
    faults = [];
    page.on("console", (message) => message.type() === "error" && faults.push(message.text()));
    page.on("pageerror", (error) => faults.push(error.message));
  },
  {
    width: 640,
    height: 480,
    path: "/development/index.html?panel",
    policy: "default-src 'none'; script-src 'self'; style-src 'self'",
  },
);
const panel = () => page.locator("reacher-panel section");
const says = (part: RegExp) => until(page, async () => part.test((await panel().textContent()) ?? ""), true);

test("it tells what is held, what each action says, what changed and why a press did nothing", async () => {
  await panel().waitFor();
  await says(/held nothing/);
  await page.keyboard.down("KeyD");
  await says(/held KeyD.*move1\.00, 0\.00 · pace 3\.00/);
  await hold(page, "KeyE");
  await says(/warmon 0\.\d s.*last \d+\.\d\d s warm on/);
  // Its own look, whatever the page's style is.
  const host = page.locator("reacher-panel");
  expect(await host.evaluate((one) => getComputedStyle(one).position)).toBe("fixed");
  const trace = await saved(page, () => page.getByRole("button", { name: "Save 30 s" }).click());
  expect(trace).toContain('"control":"KeyE","value":1');
  // The button that was clicked has given the keys back.
  const focused = () => page.evaluate(() => document.activeElement?.localName);
  await until(page, focused, "body");
  await page.keyboard.up("KeyD");
  expect(faults).toEqual([]);
});

test("a key folds it away, and the game goes on", async () => {
  await panel().waitFor();
  await page.keyboard.press("F9");
  await until(page, () => page.getByText("held").isVisible(), false);
  await hold(page, "KeyE", 100);
  await pass(page, 200);
  await page.keyboard.press("F9");
  await says(/warmon/);
  // Folded, it heard nothing.
  await says(/last nothing yet/);
});
