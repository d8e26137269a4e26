/** What all devices of a browser share: what they need of a layer, how they listen, and when an event was. */
import type { InputLayer } from "../layer/types.js";

/** What the devices need of a layer. */
export type Fed = Pick<InputLayer, "feed" | "lose" | "uses"> &
  Partial<Pick<InputLayer, "seats" | "seat" | "assignPad" | "awaitPad" | "intercepted">>;

/** Something that listens, and can stop. */
export interface Attached {
  detach(): void;
}

/** Listens on `target` until the devices are detached. */
export interface Listen {
  <E extends Event>(target: EventTarget, type: string, fn: (event: E) => void): void;
  /** What else is to be done when the devices are detached. */
  ends(fn: () => void): void;
}

/** What an event is really about: the field inside a shadow root, of which the outside sees only its host. */
export function targetOf(event: Event): EventTarget | null {
  const { target } = event;
  const { shadowRoot = null, localName = "" } = (target ?? {}) as Partial<Element>;
  // Nearly always it is the page itself, and the path is a list that a browser makes anew.
  if (shadowRoot === null && !localName.includes("-")) return target;
  const [inner] = event.composedPath();
  return inner !== undefined && "closest" in inner ? inner : target;
}

/**
 * What has to be added to a window's times for the clock of `performance.now()` here: each window counts from its own beginning
 * (W3C High Resolution Time, `timeOrigin`).
 */
function shiftOf(view: Window): number {
  if (view === globalThis.window) return 0;
  const shift = view.performance.timeOrigin - performance.timeOrigin;
  return Number.isFinite(shift) ? shift : 0;
}

/** The present moment, on the clock of `performance.now()`. */
export function nowIn(view: Window): number {
  return view.performance.now() + shiftOf(view);
}

/** The moment of an event, on the same clock; events made by hand may carry none. */
export function stampOf(view: Window, event: Event): number {
  const now = view.performance.now();
  const stamp = event.timeStamp;
  return (stamp > 0 && stamp <= now ? stamp : now) + shiftOf(view);
}

/** Whether this is the engine that tells a page nothing of some menus. */
export function isGecko(view: Window): boolean {
  return /Gecko\//.test(view.navigator?.userAgent ?? "");
}
