/**
 * A release that the page will never hear of. In: lost focus, hiding, and whatever else lets a browser swallow releases. Out: a
 * cancellation, told to the layer.
 */
import type { Keyboard } from "./keyboard.js";
import { stampOf, targetOf, type Fed, type Listen } from "./listening.js";
import { takesText } from "./pageKeys.js";

export function attachFocus(
  view: Window,
  input: Fed,
  listen: Listen,
  keyboard: Keyboard,
  forget: () => void,
): void {
  const lose = (event: Event) => {
    forget();
    input.lose("focus", stampOf(view, event));
  };
  listen(view, "blur", (event) => {
    // Focus moving between elements of the page blurs those, not the window.
    if (event.target === view) lose(event);
  });
  // Whoever types does not steer: a key that is held down would go on in the game and write a row of letters besides.
  listen(view, "focusin", (event) => {
    if (keyboard.isHeld && takesText(targetOf(event))) lose(event);
  });
  listen(view, "pagehide", lose);
  listen(view.document, "visibilitychange", (event) => {
    if (view.document.visibilityState === "hidden") lose(event);
  });
  // A menu, a native list and the print dialog take all keys and buttons for as long as they are open.
  listen(view, "beforeprint", lose);
  listen(view, "mousedown", (event) => {
    const target = targetOf(event);
    if (target !== null && "localName" in target && target.localName === "select") lose(event);
  });
  // Whoever shows no menu has prevented this by now: it is heard last.
  view.addEventListener("contextmenu", hearMenu);
  return listen.ends(() => view.removeEventListener("contextmenu", hearMenu));

  function hearMenu(event: Event): void {
    if (!event.defaultPrevented) lose(event);
  }
}
