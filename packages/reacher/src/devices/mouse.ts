/**
 * Mouse buttons, wheel and movement (W3C UI Events, sections 3.4 and 3.5; Pointer Lock, `movementX`). In: mouse events. Out: 1
 * and 0 for each button; for each notch of the wheel both, at one moment; pixels moved. May change: the buttons down, the finger in place of one, and what the wheel has turned.
 */
import { MOUSE_BUTTONS } from "../controls/catalogue.js";
import { stampOf, targetOf, type Fed, type Listen } from "./listening.js";
import { attachPoint } from "./pointerPlace.js";
import { Wheel } from "./wheel.js";
import type { Keyboard } from "./keyboard.js";
import { isWorked } from "./pageKeys.js";

/** After a touch the browser reports the same press again as a mouse's, within this time, in ms. */
const TOUCH_MS = 1000;

/** What `buttons` has for each of `MOUSE_BUTTONS`. */
const BUTTON_BITS = [1, 4, 2, 8, 16];

export interface Mouse {
  /** The layer has put all buttons to rest. */
  forget(): void;
}

export function attachMouse(
  view: Window,
  input: Fed,
  listen: Listen,
  keyboard: Keyboard,
  area: Element | undefined,
): Mouse {
  const down = new Set<string>();
  const wheel = new Wheel();
  /** The finger that is down in place of the main button, and when the last one was. */
  let finger = -1;
  let touchedAt = -Infinity;
  /** Whether a press here belongs to the page. */
  const isPages = (event: Event) => {
    const target = targetOf(event);
    return isTouchArea(target) || (area === undefined ? isWorked(target) : !isWithin(area, target));
  };
  /** Whether the current press was captured: then the click that ends it, and pointer events, do not reach the page. */
  let swallowed = false;
  const swallow = (event: Event) => {
    if (!swallowed) return;
    // Preventing a pointer event would suppress the mouse's as well (W3C Pointer Events, section 10.1).
    if (!event.type.startsWith("pointer")) event.preventDefault();
    event.stopImmediatePropagation();
  };
  listen<PointerEvent>(view, "pointerdown", (event) => {
    // A finger there is heard by its area, also while a player is asked for a control.
    swallowed = input.intercepted === true && !isTouchArea(targetOf(event));
    swallow(event);
    touch(event);
  });
  for (const type of ["pointerup", "pointercancel"]) listen<PointerEvent>(view, type, endTouch);
  for (const type of ["pointerup", "click", "dblclick", "auxclick"]) listen(view, type, swallow);

  listen<MouseEvent>(view, "mousedown", (event) => {
    keyboard.repair(event);
    swallowed = input.intercepted === true && !isTouchArea(targetOf(event));
    const control = MOUSE_BUTTONS[event.button];
    if (control === undefined || (!swallowed && isPages(event))) return;
    if (event.button === 0 && stampOf(view, event) - touchedAt < TOUCH_MS) return;
    swallow(event);
    // Back and Forward leave the page, and a middle press starts scrolling.
    if (event.button !== 0 && input.uses(control)) event.preventDefault();
    down.add(control);
    input.feed({ t: stampOf(view, event), control, value: 1 });
  });

  listen<MouseEvent>(view, "mouseup", (event) => {
    keyboard.repair(event);
    swallow(event);
    const control = MOUSE_BUTTONS[event.button];
    if (control === undefined || !down.delete(control)) return;
    if (event.button > 2 && input.uses(control)) event.preventDefault();
    input.feed({ t: stampOf(view, event), control, value: 0 });
  });

  /** Buttons that went up over a frame, in a drag or in a menu: a later event says which are still down (W3C UI Events, `buttons`). */
  const repair = (event: MouseEvent) => {
    keyboard.repair(event);
    if (down.size === 0 || finger !== -1) return;
    MOUSE_BUTTONS.forEach((control, n) => {
      const isDown = ((event.buttons ?? 0) & BUTTON_BITS[n]!) !== 0;
      if (!isDown && down.delete(control)) input.feed({ t: stampOf(view, event), control, value: 0 });
    });
  };
  for (const type of ["mousemove", "mouseover", "dragend"]) listen<MouseEvent>(view, type, repair);
  // A dragged picture or text would take the releases: a press that the game has begins no drag.
  listen(view, "dragstart", (event) => {
    if (down.size > 0) event.preventDefault();
  });

  listen<MouseEvent>(view, "mousemove", (event) => {
    const { movementX, movementY } = event;
    if ((movementX === 0 && movementY === 0) || !input.uses("MouseMove")) return;
    const t = stampOf(view, event);
    if (movementX !== 0) input.feed({ t, control: "MouseMoveX", value: movementX });
    if (movementY !== 0) input.feed({ t, control: "MouseMoveY", value: movementY });
  });

  attachPoint(view, input, listen, area, (event) => stampOf(view, event) - touchedAt < TOUCH_MS);

  listen<MouseEvent>(view, "contextmenu", (event) => {
    if (swallowed) swallow(event);
    else if (input.uses("MouseSecondary") && !isPages(event)) event.preventDefault();
  });

  listen<WheelEvent>(view, "wheel", (event) => {
    keyboard.repair(event);
    // Control with the wheel is the browser's zoom.
    const caught = input.intercepted === true;
    if (event.ctrlKey || (!caught && isPages(event))) return;
    const t = stampOf(view, event);
    const way = event.deltaY !== 0 ? event.deltaY : event.shiftKey ? event.deltaX : 0;
    const control = way < 0 ? "WheelUp" : "WheelDown";
    // Horizontal scrolling is left to the page.
    if (way === 0 || (!caught && !input.uses(control))) return;
    event.preventDefault();
    for (let left = Math.abs(wheel.clicks(event, t) ?? 0); left > 0; left--) {
      input.feed({ t, control, value: 1 });
      input.feed({ t, control, value: 0 });
    }
  });

  /** A finger is the main button from the moment at which it comes down. */
  function touch(event: PointerEvent): void {
    if (event.pointerType !== "touch" || !event.isPrimary || swallowed || isPages(event)) return;
    finger = event.pointerId;
    touchedAt = stampOf(view, event);
    down.add("MouseMain");
    input.feed({ t: touchedAt, control: "MouseMain", value: 1 });
  }

  function endTouch(event: PointerEvent): void {
    if (event.pointerId !== finger) return;
    finger = -1;
    touchedAt = stampOf(view, event);
    if (down.delete("MouseMain")) input.feed({ t: touchedAt, control: "MouseMain", value: 0 });
  }

  return {
    forget: () => {
      down.clear();
      wheel.forget();
      finger = -1;
    },
  };
}

/** Whether the plan's own control is worked here. */
function isTouchArea(target: EventTarget | null): boolean {
  return (
    target !== null && "closest" in target && (target as Element).closest("[data-reacher-touch]") !== null
  );
}

function isWithin(area: Element, target: EventTarget | null): boolean {
  return target !== null && "nodeType" in target && area.contains(target as Node);
}
