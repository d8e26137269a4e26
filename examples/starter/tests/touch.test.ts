/** A phone: fingers of the driver on the starter's stick and buttons, several at once. */
import type { Page } from "playwright-core";
import { eachPage, pass } from "../../../tests/support/browser";
import { fingersOn, type Fingers } from "../../../tests/support/fingers";

let page: Page;
let fingers: Fingers;
eachPage("starter", (opened) => (page = opened), { width: 390, height: 800 });
beforeEach(async () => {
  fingers = await fingersOn(page);
});

const areas = () => page.locator(".touch:visible").count();
/** Where the square is, by its colour, and that colour; in px. */
const square = () =>
  page.evaluate(() => {
    const canvas = document.querySelector("canvas")!;
    const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, canvas.height);
    let [x, y, count, colour] = [0, 0, 0, ""];
    for (let n = 0; n < data.length; n += 4) {
      if (data[n + 3]! === 0) continue;
      x += (n / 4) % canvas.width;
      y += Math.floor(n / 4 / canvas.width);
      count++;
      colour = [...data.slice(n, n + 3)].join(",");
    }
    return { x: Math.round(x / count), y: Math.round(y / count), colour };
  });

test("it is there once a finger was used, and goes when a key is", async () => {
  expect(await areas()).toBe(0);
  await fingers.down(1, 200, 300);
  await fingers.up(1);
  expect(await areas()).toBe(3);
  await page.keyboard.press("KeyQ");
  await pass(page, 50);
  expect(await areas()).toBe(0);
});

test("the stick comes to the thumb, another finger presses meanwhile, and each ends its own alone", async () => {
  await fingers.down(1, 200, 300);
  await fingers.up(1);
  const before = await square();
  await fingers.down(1, 90, 600);
  await fingers.move(1, 90, 540);
  await pass(page, 200);
  const up = await square();
  expect([up.x, up.y < before.y - 20]).toEqual([before.x, true]);
  // A second finger, on the button for the colour, and a third on the stick's own area, which is nobody's.
  await fingers.down(2, 330, 720);
  await fingers.down(3, 150, 500);
  await fingers.up(2);
  await pass(page, 100);
  const coloured = await square();
  expect(coloured.colour).not.toBe(up.colour);
  expect(coloured.y).toBeLessThan(up.y - 10);
  await fingers.up(3);
  await fingers.cancel(1);
  await pass(page, 50);
  const rested = await square();
  await pass(page, 200);
  expect(await square()).toEqual(rested);
  // Held to run, it is twice as fast.
  await fingers.down(1, 90, 600);
  await fingers.move(1, 30, 600);
  await pass(page, 200);
  const walked = (await square()).x;
  await fingers.down(2, 220, 720);
  await pass(page, 200);
  expect(Math.round((walked - (await square()).x) / (rested.x - walked))).toBe(2);
  await fingers.up(2);
  await fingers.up(1);
});
