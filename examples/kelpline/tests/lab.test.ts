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

/** The shaped x of a diver. */
const shaped = async (name: string) =>
  Number.parseFloat(await page.getByTestId(`shaped-${name}`).innerText());

/** Waits until the two divers have these: a busy machine draws late. */
const become = (amber: number, teal: number) =>
  page.waitForFunction(
    (wanted) =>
      ["amber", "teal"].every((name, n) => {
        const text = document.querySelector<HTMLElement>(`[data-testid=shaped-${name}]`)!.innerText;
        return Math.abs(Number.parseFloat(text) - wanted[n]!) < 0.05;
      }),
    [amber, teal],
    { timeout: 5000 },
  );

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
  await page.waitForFunction(
    (wanted) => {
      const text = document.querySelector<HTMLElement>("[data-testid=shaped-amber]")!.innerText;
      return Math.abs(Number.parseFloat(text) - wanted) < 0.05;
    },
    (0.65 - 0.12) / 0.84,
  );
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
  await page.waitForSelector('[aria-label^="Bend 1"][aria-valuenow="35"]');
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
  await page.waitForTimeout(700);
  await page.evaluate(() => (globalThis as any).pads[0].tilt("PadLeftStick", 0.9, 0));
  await page.getByText(/^Rests within 0.08/).waitFor({ timeout: 5000 });
  await page.getByRole("button", { name: /^Take inner 0.1,/ }).click();
  await page.waitForSelector('input[type=range][value="0.1"]', { state: "attached" });
  await page.setViewportSize({ width: 390, height: 700 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
