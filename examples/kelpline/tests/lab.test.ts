/** The built lab in a real Chromium: one input, two settings, two divers. */
import type { Page } from "playwright-core";
import { openSite, type Site } from "../../../tests/support/browser";

let site: Site;
let page: Page;

beforeAll(async () => {
  site = await openSite("kelpline");
});
afterAll(() => site.close());
beforeEach(async () => {
  page = await site.open({ path: "/lab.html" });
});
afterEach(() => page.close());

/** The shaped x of a diver, once the page has drawn. */
async function shaped(name: string): Promise<number> {
  await page.waitForTimeout(150);
  return Number.parseFloat(await page.getByTestId(`shaped-${name}`).innerText());
}

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
  const [amber, teal] = [await shaped("amber"), await shaped("teal")];
  expect(amber).toBeCloseTo((0.65 - 0.12) / 0.84, 1);
  expect(teal).toBeLessThan(amber - 0.15);
  await page.mouse.up();
  expect([await shaped("amber"), await shaped("teal")]).toEqual([0, 0]);
});

test("bends and settings are moved by keys while the movement goes on; keep makes both the same", async () => {
  await page.keyboard.down("KeyD");
  await page.getByRole("slider", { name: "Gain" }).focus();
  await page.keyboard.press("Home");
  await page.getByRole("slider", { name: /^Bend 1/ }).focus();
  await page.keyboard.press("ArrowUp");
  expect(await page.getByRole("slider", { name: /^Bend 1/ }).getAttribute("aria-valuenow")).toBe("35");
  // Gain is for sticks: a key that is held goes on as it was.
  expect([await shaped("amber"), await shaped("teal")]).toEqual([1, 1]);
  await page.keyboard.up("KeyD");
  await tilt(1);
  expect([await shaped("amber"), await shaped("teal")]).toEqual([1, 0]);
  await page.mouse.up();
  await page.getByRole("button", { name: "Keep for both" }).click();
  await tilt(1);
  expect([await shaped("amber"), await shaped("teal")]).toEqual([0, 0]);
});

test("a pad's stick is measured while it is used, and the page fits a narrow window", async () => {
  await page.evaluate(() => {
    const [pad] = (globalThis as any).pads;
    pad.connected = true;
    pad.tilt("PadLeftStick", 0.08, 0);
  });
  await page.waitForTimeout(700);
  await page.evaluate(() => (globalThis as any).pads[0].tilt("PadLeftStick", 0.9, 0));
  await page.getByText(/^Rests within 0.08/).waitFor({ timeout: 5000 });
  await page.getByRole("button", { name: /^Take inner 0.1,/ }).click();
  expect(await page.getByRole("slider", { name: "Inner zone" }).getAttribute("value")).toBe("0.1");
  await page.setViewportSize({ width: 390, height: 700 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
