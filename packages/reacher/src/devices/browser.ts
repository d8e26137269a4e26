/**
 * A browser's keyboard, mouse, pads and focus, translated into raw events. Nothing is decided here that a plan could decide.
 *
 * @module reacher/browser
 */
import type { InputLayer } from "../layer/types.js";
import { ReacherError } from "../plan/errors.js";
import type { Kinds } from "../plan/types.js";
import { nowIn, type Fed, type Listen } from "./listening.js";
import { attachClickedButton } from "./clickedButton.js";
import { attachFocus } from "./focus.js";
import { attachKeyboard } from "./keyboard.js";
import { attachMouse } from "./mouse.js";
import { PadLayouts } from "./padLayouts.js";
import type { PadSource } from "./padLike.js";
import { ownWindow } from "./ownWindow.js";
import { attachPads } from "./pads.js";
import { mustBeOptions, mustHave } from "../plan/arguments.js";

export {
  LAYOUT_STEPS,
  learnPad,
  PadLayouts,
  type LayoutStep,
  type LayoutStore,
  type PadLayout,
  type PadLesson,
} from "./padLayouts.js";
export type { AxisWay } from "./axisWay.js";
export { attachKeyLabels } from "./keyLayout.js";
export { lockPointer } from "./pointerLock.js";
export type { PadLike, PadSource } from "./padLike.js";

/** How `attachBrowser` listens. */
export interface BrowserOptions {
  /** The window whose keys, mouse, pads and focus drive the layer. @default the global window */
  readonly window?: Window;
  /** Where pads are read from, as `navigator.getGamepads` gives them. @default the window's own */
  readonly pads?: PadSource;
  /** Learnt layouts of pads that do not report the standard one. @default those in the page's `localStorage` */
  readonly layouts?: PadLayouts;
  /** Where mouse presses and touches count: those that begin inside this element. @default anywhere but on the page's own controls */
  readonly area?: Element;
  /** Whether pads count while the page has no focus, as on a second screen. @default false */
  readonly padsInBackground?: boolean;
  /** Called once if the page may not read pads at all (its permissions policy): keyboard and mouse go on. */
  readonly onFault?: (message: string) => void;
}

/**
 * Lets the browser's devices drive a layer: keyboard by `code`, mouse, pads (polled once a frame), lost focus. A pad that
 * does not report the standard layout arrives as `PadButtonN` and `PadAxisN` until `learnPad` has learnt what is what.
 * Returns the call that ends it, which puts everything to rest and leaves no listener behind.
 *
 * A button that was clicked by mouse or finger gives the focus back, so that Space is the game's again; who works it by key keeps it.
 * Keys typed into a text field, and those that a focused button or list needs, stay with the page. The browser's own action
 * of a key (scrolling by Space, say) is prevented only where the plan uses the key, and never for a system shortcut.
 */
export function attachBrowser<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  options: BrowserOptions = {},
): () => void {
  mustBeOptions(options);
  mustHave(input, ["feed", "lose", "uses"], "input layer; give what createInputLayer makes");
  const view = options.window ?? ownWindow("attachBrowser");
  mustHave(view, ["addEventListener"], "window");
  const fed = input as unknown as Fed;
  const first = attached.get(fed);
  if (first !== undefined)
    throw new ReacherError(
      `this layer is attached to ${first} already, and would hear everything twice; call what that attachBrowser returned first`,
    );
  attached.set(fed, nameOf(view));
  const ends: (() => void)[] = [];
  const listenTo = (target: EventTarget, type: string, fn: (event: never) => void) => {
    // Capture: a game hears a key before a page's own handler can stop it. Not passive: defaults may have to be prevented.
    const listenerOptions = { capture: true, passive: false };
    target.addEventListener(type, fn as EventListener, listenerOptions);
    ends.push(() => target.removeEventListener(type, fn as EventListener, listenerOptions));
  };
  const listen: Listen = Object.assign(listenTo, { ends: (fn: () => void) => void ends.push(fn) });

  const keyboard = attachKeyboard(view, fed, listen);
  const mouse = attachMouse(view, fed, listen, keyboard, options.area);
  const pads = attachPads(
    view,
    fed,
    listen,
    options.pads ?? (() => view.navigator.getGamepads()),
    options.layouts ?? keptPadLayouts(view),
    options.padsInBackground === true,
    options.onFault ?? (() => undefined),
  );
  attachClickedButton(view, listen);
  attachFocus(view, fed, listen, keyboard, () => {
    keyboard.forget();
    mouse.forget();
    pads.forget();
  });
  ends.push(() => pads.detach());

  let isAttached = true;
  return () => {
    if (!isAttached) return;
    isAttached = false;
    attached.delete(fed);
    for (const end of ends) end();
    fed.lose("focus", nowIn(view));
  };
}

/** The attached layers, and what they are attached to. */
const attached = new WeakMap<object, string>();

/** A window by what people see of it. */
function nameOf(view: Window): string {
  const { title = "" } = view.document;
  return title === "" ? "a window" : `the page ${JSON.stringify(title)}`;
}

/** The layouts that are kept in a page's `localStorage`; a page that is denied its storage keeps them for as long as it is open. */
export function keptPadLayouts(view: Window = ownWindow("keptPadLayouts")): PadLayouts {
  try {
    return new PadLayouts(view.localStorage);
  } catch {
    return new PadLayouts();
  }
}
