/** The page: two sides joined by a line that its sliders spoil, played by real keys. */
import type { Page } from "playwright-core";
import { eachPage, hold, pass } from "../../../tests/support/browser";

let page: Page;
eachPage("tether", (opened) => (page = opened), { width: 1280, height: 800 });

const told = (id: string) => page.locator(`#${id}`).innerText();
const slide = async (name: string, value: string) => {
  await page.getByRole("slider", { name }).fill(value);
  expect(await page.locator(`#${name.toLowerCase()}-now`).innerText()).toContain(value);
};

test("with 200 ms and a tenth lost both worlds stay equal, and say what it costs", async () => {
  await slide("Delay", "200");
  await slide("Loss", "10");
  await page.getByRole("slider", { name: "Loss" }).blur();
  for (let n = 0; n < 4; n++) {
    await page.keyboard.down("KeyD");
    await page.keyboard.down("ArrowUp");
    await pass(page, 300);
    await hold(page, "ShiftLeft", 200);
    await page.keyboard.up("KeyD");
    await hold(page, "ArrowLeft", 60);
    await pass(page, 60);
    await hold(page, "ArrowLeft", 60);
    await page.keyboard.up("ArrowUp");
    await pass(page, 400);
  }
  await pass(page, 1500);
  expect(await told("equal")).toMatch(/^Both worlds are equal at tick \d{3}: [0-9a-f]{8}$/);
  expect(Number(await page.locator("#equal").getAttribute("data-tick"))).toBeGreaterThan(200);
  for (const seat of ["amber", "teal"])
    expect(await told(`${seat}-told`)).toMatch(/rolled back [1-9]\d* times, [1-9][\d.]* ticks each/);
  expect(await told("line-told")).toMatch(/[1-9]\d* bytes a second each way, [1-9]\d* of \d+ messages lost/);
});

test("it is played by keys alone, at any width", async () => {
  await page.setViewportSize({ width: 390, height: 800 });
  await page.keyboard.press("Tab");
  await page.keyboard.press("ArrowRight");
  expect(await told("delay-now")).toBe("90 ms");
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(390);
});
