/** Several fingers on a page: by the driver where it has them, else as the page's own pointer events. */
import type { Page } from "playwright-core";
import "./browser";

export interface Fingers {
  down(id: number, x: number, y: number): Promise<void>;
  move(id: number, x: number, y: number): Promise<void>;
  up(id: number): Promise<void>;
  /** The system takes the touch. */
  cancel(id: number): Promise<void>;
}

export async function fingersOn(page: Page): Promise<Fingers> {
  return BROWSER === "chromium" ? driven(page) : made(page);
}

/** Touch points that the browser itself turns into pointer events. */
async function driven(page: Page): Promise<Fingers> {
  const session = await page.context().newCDPSession(page);
  await session.send("Emulation.setTouchEmulationEnabled", { enabled: true, maxTouchPoints: 5 });
  const points = new Map<number, { id: number; x: number; y: number }>();
  const send = (type: "touchStart" | "touchMove" | "touchEnd" | "touchCancel", of = [...points.values()]) =>
    session.send("Input.dispatchTouchEvent", { type, touchPoints: of });
  return {
    down: async (id, x, y) => {
      points.set(id, { id, x, y });
      await send("touchStart");
    },
    move: async (id, x, y) => {
      points.set(id, { id, x, y });
      await send("touchMove");
    },
    up: async (id) => {
      const lifted = points.get(id)!;
      points.delete(id);
      // The end names those that are lifted.
      await send("touchEnd", [lifted]);
    },
    cancel: async () => {
      points.clear();
      await send("touchCancel");
    },
  };
}

/** What a touch screen would tell the page. */
async function made(page: Page): Promise<Fingers> {
  const at = new Map<number, { x: number; y: number }>();
  const tell = (type: string, id: number, x: number, y: number) =>
    page.evaluate(
      ([type, id, x, y]) => {
        const held = ((globalThis as { fingers?: Map<number, Element> }).fingers ??= new Map());
        // A touch goes on at the element that it began on (W3C Pointer Events, section 10.3).
        const target = held.get(id) ?? document.elementFromPoint(x, y)!;
        if (type === "pointerdown") held.set(id, target);
        if (type === "pointerup" || type === "pointercancel") held.delete(id);
        target.dispatchEvent(
          new PointerEvent(type, {
            pointerId: 100 + id,
            pointerType: "touch",
            isPrimary: held.size <= 1,
            clientX: x,
            clientY: y,
            bubbles: true,
            cancelable: true,
            composed: true,
          }),
        );
      },
      [type, id, x, y] as const,
    );
  const end = async (type: string, id: number) => {
    const { x, y } = at.get(id) ?? { x: 0, y: 0 };
    at.delete(id);
    await tell(type, id, x, y);
  };
  return {
    down: async (id, x, y) => {
      at.set(id, { x, y });
      await tell("pointerdown", id, x, y);
    },
    move: async (id, x, y) => {
      at.set(id, { x, y });
      await tell("pointermove", id, x, y);
    },
    up: (id) => end("pointerup", id),
    cancel: (id) => end("pointercancel", id),
  };
}
