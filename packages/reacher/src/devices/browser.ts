/**
 * A browser's keyboard, mouse, pads and focus, translated into raw events. Nothing is decided here that a plan could decide.
 *
 * @module reacher/browser
 */
import type { InputLayer } from "../layer/types.js";
import { ReacherError } from "../plan/errors.js";
import type { Kinds } from "../plan/types.js";
import { listenBrowser, type BrowserOptions } from "./listenBrowser.js";
import { ownWindow } from "./ownWindow.js";
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
export { keptPadLayouts, listenBrowser, type BrowserOptions } from "./listenBrowser.js";
export { lockPointer } from "./pointerLock.js";
export type { PadLike, PadSource } from "./padLike.js";

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
  const first = attached.get(input);
  if (first !== undefined)
    throw new ReacherError(
      `this layer is attached to ${first} already, and would hear everything twice; call what that attachBrowser returned first`,
    );
  const end = listenBrowser(input, { ...options, window: view });
  attached.set(input, nameOf(view));
  return () => {
    if (end()) attached.delete(input);
  };
}

/** The attached layers, and what they are attached to. */
const attached = new WeakMap<object, string>();

/** A window by what people see of it. */
function nameOf(view: Window): string {
  const { title = "" } = view.document;
  return title === "" ? "a window" : `the page ${JSON.stringify(title)}`;
}
