/**
 * A release that the page will never hear of. In: lost focus, hiding, and whatever else lets a browser swallow releases. Out: a
 * cancellation, told to the layer.
 */
import type { Keyboard } from "./keyboard.js";
import { isGecko, stampOf, targetOf, type Fed, type Listen } from "./listening.js";
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
  // Escape frees the pointer or leaves full screen; one browser then swallows releases until the next press.
  for (const [type, element] of [
    ["pointerlockchange", "pointerLockElement"],
    ["fullscreenchange", "fullscreenElement"],
  ] as const)
    listen(view.document, type, (event) => {
      if (view.document[element] === null) lose(event);
    });
  // A menu, a native list, a choice of colours and the print dialog take all keys and buttons for as long as they are open.
  listen(view, "beforeprint", lose);
  listen<MouseEvent>(view, "mousedown", (event) => {
    // With Shift one browser shows its menu whatever the page says, and tells it nothing.
    const isMenu = event.button === 2 && event.shiftKey && isGecko(view) && !view.document.pointerLockElement;
    if (isMenu) view.setTimeout(() => lose(event));
    else if (opensList(targetOf(event))) lose(event);
  });
  listen<KeyboardEvent>(view, "keydown", (event) => {
    // So does its menu bar.
    if (event.code === "F10" && !event.defaultPrevented && isGecko(view)) lose(event);
    const isPress = event.code === "Space" || event.code === "Enter";
    if (isPress && !event.repeat && isColour(targetOf(event))) lose(event);
  });
  // Whoever shows no menu has prevented this by now: it is heard last.
  view.addEventListener("contextmenu", hearMenu);
  return listen.ends(() => view.removeEventListener("contextmenu", hearMenu));

  function hearMenu(event: Event): void {
    if (!event.defaultPrevented) lose(event);
  }
}

/** Whether a press here opens something of the browser's own. */
function opensList(target: EventTarget | null): boolean {
  return (target !== null && "localName" in target && target.localName === "select") || isColour(target);
}

function isColour(target: EventTarget | null): boolean {
  return target !== null && "localName" in target && (target as HTMLInputElement).type === "color";
}
