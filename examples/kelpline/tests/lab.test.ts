/** The built lab in a real browser: one input, two settings, two divers. */
import type { Page } from "playwright-core";
import { eachPage, pass, until } from "../../../tests/support/browser";

let page: Page;
eachPage("kelpline", (opened) => (page = opened), { path: "/lab.html" });

/** The shaped x of a diver. */
const shaped = async (name: string) =>
  Number.parseFloat(await page.getByTestId(`shaped-${name}`).innerText());

/** Waits until a diver has about this. */
const becomes = (name: string, wanted: number) =>
  until(page, async () => Math.abs((await shaped(name)) - wanted) < 0.05, true);
const become = async (amber: number, teal: number) => {
  await becomes("amber", amber);
  await becomes("teal", teal);
};

async function tilt(share: number) {
  const box = (await page.getByLabel("A stick to drag").boundingBox())!;
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x + (box.width / 2.5) * share, middle.y, { steps: 4 });
}

test("a bend that is dragged changes what the same tilt gives, for teal alone", async () => {
  const box = (await page.getByRole("slider", { name: /^Bend 2/ }).boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + 90, { steps: 5 });
  await page.mouse.up();
  await tilt(0.65);
  await becomes("amber", (0.65 - 0.12) / 0.84);
  expect(await shaped("teal")).toBeLessThan((await shaped("amber")) - 0.15);
  await page.mouse.up();
  await become(0, 0);
});

test("bends and settings are moved by keys while the movement goes on; keep makes both the same", async () => {
  await page.keyboard.down("KeyD");
  await page.getByRole("slider", { name: "Gain" }).focus();
  await page.keyboard.press("Home");
  await page.getByRole("slider", { name: /^Bend 1/ }).focus();
  await page.keyboard.press("ArrowUp");
  await until(page, () => page.locator('[aria-label^="Bend 1"][aria-valuenow="35"]').count(), 1);
  // Gain is for sticks: a key that is held goes on as it was.
  await become(1, 1);
  await page.keyboard.up("KeyD");
  await tilt(1);
  await become(1, 0);
  await page.mouse.up();
  await page.getByRole("button", { name: "Keep for both" }).click();
  await tilt(1);
  await become(0, 0);
});

test("a pad's stick is measured while it is used, and the page fits a narrow window", async () => {
  await page.evaluate(() => {
    const [pad] = (globalThis as any).pads;
    pad.connected = true;
    pad.tilt("PadLeftStick", 0.08, 0);
  });
  await pass(page, 700);
  await page.evaluate(() => (globalThis as any).pads[0].tilt("PadLeftStick", 0.9, 0));
  await until(page, () => page.getByText(/^Rests within 0.08/).count(), 1);
  await page.getByRole("button", { name: /^Take inner 0.1,/ }).click();
  await until(page, () => page.locator('input[type=range][value="0.1"]').count(), 1);
  await page.setViewportSize({ width: 390, height: 700 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
