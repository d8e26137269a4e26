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

/** Where the square is, by its colour: the middle of what is not background. */
const place = () =>
  page.evaluate(() => {
    const canvas = document.querySelector("canvas")!;
    const { width, height } = canvas;
    const { data } = canvas.getContext("2d")!.getImageData(0, 0, width, height);
    let [sum, count] = [0, 0];
    for (let n = 0; n < data.length; n += 4) {
      if (data[n]! + data[n + 1]! + data[n + 2]! < 200) continue;
      sum += (n / 4) % width;
      count++;
    }
    return Math.round(sum / count);
  });

/** Whether the square stands still. */
async function stands(): Promise<boolean> {
  await pass(page, 50);
  const before = await place();
  await pass(page, 100);
  return (await place()) === before;
}

test("a right click opens the browser's menu, which takes the key's release: the square stops", async () => {
  await page.keyboard.down("KeyD");
  await pass(page, 60);
  expect(await stands()).toBe(false);
  await page.mouse.click(50, 50, { button: "right" });
  expect(await stands()).toBe(true);
  await page.keyboard.up("KeyD");
  await page.keyboard.down("KeyA");
  expect(await stands()).toBe(false);
});

test("a field inside a shadow root is typed in, and a native list that opens stops the square", async () => {
  await page.evaluate(() => {
    const host = document.body.appendChild(document.createElement("chat-box"));
    host.attachShadow({ mode: "open" }).innerHTML = "<input style='position:fixed;left:0;top:0'>";
    const list = document.body.appendChild(document.createElement("select"));
    list.innerHTML = "<option>one<option>two";
    list.style.cssText = "position:fixed;right:0;top:0";
    host.shadowRoot!.querySelector("input")!.focus();
  });
  await page.keyboard.down("KeyD");
  expect(await stands()).toBe(true);
  await page.keyboard.up("KeyD");
  expect(
    await page.evaluate(() => document.querySelector("chat-box")!.shadowRoot!.querySelector("input")!.value),
  ).toBe("d");
  await page.evaluate(() => document.querySelector("chat-box")!.shadowRoot!.querySelector("input")!.blur());
  await page.keyboard.down("KeyD");
  expect(await stands()).toBe(false);
  await page.locator("select").dispatchEvent("mousedown", { button: 0 });
  expect(await stands()).toBe(true);
});
