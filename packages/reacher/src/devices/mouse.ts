/**
 * Mouse buttons, wheel and movement (W3C UI Events, sections 3.4 and 3.5; Pointer Lock, `movementX`). In: mouse events. Out: 1
 * and 0 for each button; for each notch of the wheel both, at one moment; pixels moved. May change: the buttons down, and the part of a notch that the wheel has turned.
 */
import { MOUSE_BUTTONS } from "../controls/catalogue.js";
import { stampOf, type Fed, type Listen } from "./listening.js";
import type { Keyboard } from "./keyboard.js";
import { isWorked } from "./pageKeys.js";

/** One notch of a common wheel in pixels; wheels that scroll smoothly send parts of it. */
const NOTCH_PIXELS = 100;
/** Pixels in a line and in a page, for wheels that count in these. */
const LINE_PIXELS = 100 / 3;
const PAGE_PIXELS = 800;

export interface Mouse {
  /** The layer has put all buttons to rest. */
  forget(): void;
}

export function attachMouse(view: Window, input: Fed, listen: Listen, keyboard: Keyboard): Mouse {
  const down = new Set<string>();
  let turned = 0;
  /** Whether the press at hand was caught: the click that ends it, and the pointer's events, work nothing of the page. */
  let swallowed = false;
  const swallow = (event: Event) => {
    if (!swallowed) return;
    // To prevent a pointer's own event would take the mouse's with it (W3C Pointer Events, section 10.1).
    if (!event.type.startsWith("pointer")) event.preventDefault();
    event.stopImmediatePropagation();
  };
  listen(view, "pointerdown", (event) => {
    swallowed = input.intercepted === true;
    swallow(event);
  });
  for (const type of ["pointerup", "click", "dblclick", "auxclick"]) listen(view, type, swallow);

  listen<MouseEvent>(view, "mousedown", (event) => {
    keyboard.repair(event);
    swallowed = input.intercepted === true;
    const control = MOUSE_BUTTONS[event.button];
    if (control === undefined || (!swallowed && isWorked(event.target))) return;
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

  listen<MouseEvent>(view, "mousemove", (event) => {
    const { movementX, movementY } = event;
    if ((movementX === 0 && movementY === 0) || !input.uses("MouseMove")) return;
    const t = stampOf(view, event);
    if (movementX !== 0) input.feed({ t, control: "MouseMoveX", value: movementX });
    if (movementY !== 0) input.feed({ t, control: "MouseMoveY", value: movementY });
  });

  listen<MouseEvent>(view, "contextmenu", (event) => {
    if (swallowed) swallow(event);
    else if (input.uses("MouseSecondary") && !isWorked(event.target)) event.preventDefault();
  });

  listen<WheelEvent>(view, "wheel", (event) => {
    keyboard.repair(event);
    // Control and the wheel is the browser's zoom.
    const caught = input.intercepted === true;
    if (event.ctrlKey || (!caught && isWorked(event.target))) return;
    const unit = event.deltaMode === 0 ? 1 : event.deltaMode === 1 ? LINE_PIXELS : PAGE_PIXELS;
    const control = event.deltaY < 0 ? "WheelUp" : "WheelDown";
    if (!caught && !input.uses(control)) return;
    event.preventDefault();
    const way = event.deltaY * unit;
    turned = turned * way < 0 ? way : turned + way;
    const t = stampOf(view, event);
    for (; Math.abs(turned) >= NOTCH_PIXELS; turned -= Math.sign(turned) * NOTCH_PIXELS) {
      input.feed({ t, control, value: 1 });
      input.feed({ t, control, value: 0 });
    }
  });

  return {
    forget: () => {
      down.clear();
      turned = 0;
    },
  };
}
