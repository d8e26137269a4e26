/**
 * Where the mouse is (W3C UI Events, `clientX`). In: moves, and another size of the page. Out: its place in an area, from the middle, 1 at the nearer
 * edges, y down. May change: where it was seen last.
 */
import { POINTER } from "../plan/pointer.js";
import { stampOf, type Fed, type Listen } from "./listening.js";

/** Places are told as multiples of this share: finer than a pixel, and the same number on every machine. */
const GRAIN = 4096;

export function attachPoint(
  view: Window,
  input: Fed,
  listen: Listen,
  area: Element | undefined,
  /** Whether a finger is what moved. */
  isTouch: (event: MouseEvent) => boolean,
): void {
  let at: readonly [x: number, y: number] | undefined;
  /** Its place in the area; `undefined` while that has no size, or the pointer is locked. */
  const place = (): readonly [x: number, y: number] | undefined => {
    const { left, top, width, height } = area?.getBoundingClientRect() ?? {
      left: 0,
      top: 0,
      width: view.innerWidth,
      height: view.innerHeight,
    };
    const half = Math.min(width, height) / 2;
    if (at === undefined || !(half > 0) || view.document.pointerLockElement != null) return undefined;
    const rounded = (from: number) => Math.round((from / half) * GRAIN) / GRAIN;
    return [rounded(at[0] - left - width / 2), rounded(at[1] - top - height / 2)];
  };

  listen<MouseEvent>(view, "mousemove", (event) => {
    if (isTouch(event) || !input.uses("MousePoint")) return;
    at = [event.clientX, event.clientY];
    const now = place();
    if (now === undefined) return;
    const t = stampOf(view, event);
    input.feed({ t, control: "MousePointX", value: now[0] });
    input.feed({ t, control: "MousePointY", value: now[1] });
  });

  // Another size or scroll position moves it, though no hand does.
  for (const type of ["resize", "scroll"])
    listen(view, type, () => {
      const now = input.uses("MousePoint") ? place() : undefined;
      if (now !== undefined)
        for (const name of input.seats ?? []) input.seat?.(name).setSpot(POINTER, now[0], now[1]);
    });
}
