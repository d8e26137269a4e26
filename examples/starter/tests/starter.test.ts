import type { Page } from "playwright-core";
import { eachPage, hold, pass } from "../../../tests/support/browser";

let page: Page;
eachPage("starter", (opened) => (page = opened), { width: 400, height: 300 });

test("the square moves, and changes its colour", async () => {
  const colourAt = (x: number, y: number) =>
    page.evaluate(
      ([px, py]) => [
        ...document.querySelector("canvas")!.getContext("2d")!.getImageData(px!, py!, 1, 1).data.slice(0, 3),
      ],
      [x, y],
    );
  expect(await colourAt(200, 150)).toEqual([0x57, 0xc7, 0xc1]);
  await hold(page, "KeyE");
  await pass(page, 100);
  expect(await colourAt(200, 150)).toEqual([0xff, 0xb4, 0x54]);
  await hold(page, "ArrowRight", 600);
  await pass(page, 100);
  expect(await colourAt(200, 150)).toEqual([0, 0, 0]);
});
