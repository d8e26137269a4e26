/** Tells labels what the player's keyboard writes: the browser's own knowledge where it has it, and each key as it is pressed. */
import { ownWindow } from "./ownWindow.js";
import { mustHave } from "../plan/arguments.js";

interface LayoutView extends Window {
  readonly navigator: Navigator & {
    readonly keyboard?: { getLayoutMap?(): Promise<Iterable<readonly [string, string]>> };
  };
}

/**
 * Lets labels follow the keyboard's layout (Keyboard Map API where there is one; else W3C UI Events, `key` beside `code`).
 * Returns a function that stops it.
 */
export function attachKeyLabels(
  labels: {
    learn(code: string, key: string): void;
    use(layout: Iterable<readonly [code: string, key: string]>): void;
  },
  view: Window = ownWindow("attachKeyLabels"),
): () => void {
  mustHave(labels, ["learn", "use"], "set of labels; give what createKeyLabels makes");
  mustHave(view, ["addEventListener"], "window");
  const hear = (event: KeyboardEvent) => {
    const plain = !event.shiftKey && !event.ctrlKey && !event.altKey && !event.metaKey;
    if (plain && !event.isComposing && event.getModifierState("CapsLock") === false)
      labels.learn(event.code, event.key);
  };
  view.addEventListener("keydown", hear, { capture: true });
  // Refused in frames and unknown to some browsers: then the keys themselves tell.
  (view as LayoutView).navigator.keyboard
    ?.getLayoutMap?.()
    .then((layout) => labels.use(layout))
    .catch(() => undefined);
  return () => view.removeEventListener("keydown", hear, { capture: true });
}
