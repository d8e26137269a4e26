/**
 * Fingers on a page as own controls: a stick that comes to the thumb, buttons, an area to look around with. Each finger is its own (W3C Pointer
 * Events, section 4: a pointer has an id from its first contact to its last).
 *
 * @module reacher/touch
 */
import { ReacherError } from "../plan/errors.js";
import { mustBeList, mustBeObject, mustBeOptions, mustHave } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { nowIn, stampOf } from "../devices/listening.js";
import { ownWindow } from "../devices/ownWindow.js";
import type { InputLayer } from "../layer/types.js";
import { controlsOf, type OwnControl } from "../controls/ownControls.js";
import type { Kinds } from "../plan/types.js";
import { resolvePlan } from "../plan/resolve.js";
import { drawArea, type Drawn } from "./draw.js";

/** A part of the page that a finger works. */
export interface TouchArea {
  readonly element: HTMLElement;
  /** One of the plan's own controls: a stick, a button, a trigger, an axis (moved sideways) or an amount (pixels, to look around). */
  readonly control: string;
  /** For a stick or an axis: how far the thumb moves from the middle to the end, in px. @default 60 */
  readonly reach?: number;
  /** For a stick or an axis: its middle is where the thumb comes down, and follows it; otherwise the middle of the element. @default true */
  readonly floats?: boolean;
  /** Whose control it is. @default every seat that binds it */
  readonly seat?: string;
}

/** How fingers are listened to. */
export interface TouchOptions {
  /** The window that the areas are in. @default the global window */
  readonly window?: Window;
  /**
   * Whether the areas are always there, or only while a finger is what was used last: before anything was used, where the page has no
   * finer pointer. @default "touch"
   */
  readonly show?: "touch" | "always";
  /** Whether the plain look is drawn: a ring and a knob, or a disc with the control's label. @default true */
  readonly draws?: boolean;
}

/** How far a thumb goes where the area does not say, in px. */
const REACH = 60;
/** A finger on an area. */
interface Finger {
  readonly id: number;
  /** The middle of a stick, or where the finger was last, in px. */
  x: number;
  y: number;
}

/**
 * Lets fingers on these areas work the plan's own controls. `pointercancel` and a second finger on one area leave the others as they are.
 * Returns the call that ends it, which puts them to rest and leaves no listener behind.
 * @throws ReacherError for an area whose control the plan does not name, or that is named twice
 * @example attachTouch(input, [{ element: left, control: "Thumb" }, { element: right, control: "Fire" }]);
 */
export function attachTouch<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  areas: readonly TouchArea[],
  options: TouchOptions = {},
): () => void {
  mustHave(input, ["feed", "seat"], "input layer; give what createInputLayer makes");
  mustBeList(areas, "areas");
  mustBeOptions(options);
  const view = options.window ?? ownWindow("attachTouch");
  const layer = input as unknown as InputLayer;
  const controls = controlsOf(resolvePlan(layer.plan));
  const seen = new Set<string>();
  const all = areas.map((area) => {
    mustBeObject(area, "area; it has an element and a control");
    const own = controls.ownOf(area.control);
    if (own?.name !== area.control)
      throw new ReacherError(
        `the plan names no control ${shown(area.control)} of its own; it has ${controls.own.map(({ name }) => name).join(", ") || "none"}`,
      );
    const key = `${area.control} ${area.seat ?? ""}`;
    if (seen.has(key))
      throw new ReacherError(`two areas are for ${area.control}; a finger on one would end the other's`);
    seen.add(key);
    return new Area(layer, view, area, own, options.draws !== false);
  });
  const ends: (() => void)[] = all.map((area) => () => area.detach());
  const listen = (target: EventTarget, type: string, fn: (event: Event) => void) => {
    target.addEventListener(type, fn, true);
    ends.push(() => target.removeEventListener(type, fn, true));
  };
  // The layer has put to rest what does not keep without the focus; a finger that is still down begins anew.
  const lose = () => all.forEach((area) => area.lose());
  listen(view, "blur", (event) => event.target === view && lose());
  listen(view.document, "visibilitychange", () => view.document.visibilityState === "hidden" && lose());
  if (options.show !== "always") {
    const show = (isTouch: boolean) => all.forEach(({ element }) => (element.hidden = !isTouch));
    show(layer.lastDevice === null ? view.matchMedia("(pointer: coarse)").matches : false);
    let touchedAt = -Infinity;
    for (const type of ["pointerdown", "pointerup", "pointercancel"])
      listen(view, type, (event) => {
        if ((event as PointerEvent).pointerType === "mouse") return;
        touchedAt = stampOf(view, event);
        show(true);
      });
    listen(view, "keydown", () => show(false));
    listen(view, "wheel", () => show(false));
    listen(view, "mousedown", (event) => stampOf(view, event) - touchedAt > ECHO_MS && show(false));
  }
  return () => {
    for (const end of ends.splice(0)) end();
  };
}

/** After a touch the browser reports the same press again as a mouse's, within this time, in ms. */
const ECHO_MS = 1000;

class Area {
  readonly element: HTMLElement;
  private finger: Finger | undefined;
  private readonly drawn: Drawn | undefined;
  private readonly ends: (() => void)[] = [];
  /** How the page had it. */
  private readonly before: {
    readonly touchAction: string;
    readonly userSelect: string;
    readonly hidden: HTMLElement["hidden"];
  };
  private readonly feed: InputLayer["feed"];

  constructor(
    input: InputLayer,
    private readonly view: Window,
    private readonly area: TouchArea,
    private readonly own: OwnControl,
    draws: boolean,
  ) {
    const { element, seat } = area;
    mustHave(element, ["addEventListener", "setPointerCapture"], "element of the page");
    this.element = element;
    const to = seat === undefined ? input : input.seat(seat);
    this.feed = (event) => to.feed(event);
    this.drawn = draws ? drawArea(element, own, area.reach ?? REACH) : undefined;
    // No scrolling, zooming or choosing of text by a finger that plays. Set by the object model, which no content policy forbids.
    const { style, hidden } = element;
    this.before = {
      touchAction: style.touchAction,
      userSelect: style.getPropertyValue("user-select"),
      hidden,
    };
    element.style.touchAction = "none";
    element.style.setProperty("user-select", "none");
    element.setAttribute("data-reacher-touch", own.kind);
    this.listen("pointerdown", (event) => this.down(event));
    this.listen("pointermove", (event) => this.move(event));
    for (const type of ["pointerup", "pointercancel", "lostpointercapture"] as const)
      this.listen(type, (event) => this.up(event));
    // A long press opens no menu.
    this.listen("contextmenu", (event) => event.preventDefault());
  }

  private listen<T extends keyof HTMLElementEventMap>(type: T, fn: (event: PointerEvent) => void): void {
    this.element.addEventListener(type, fn as EventListener);
    this.ends.push(() => this.element.removeEventListener(type, fn as EventListener));
  }

  private get isStick(): boolean {
    return this.own.kind === "stick" || this.own.kind === "axis";
  }

  private down(event: PointerEvent): void {
    // A mouse presses what it clicks; its other buttons are the game's.
    if (this.finger !== undefined || (event.pointerType === "mouse" && event.button !== 0)) return;
    const { clientX: x, clientY: y } = event;
    const box = this.element.getBoundingClientRect();
    const isFixed = this.isStick && this.area.floats === false;
    this.finger = isFixed
      ? { id: event.pointerId, x: box.left + box.width / 2, y: box.top + box.height / 2 }
      : { id: event.pointerId, x, y };
    try {
      this.element.setPointerCapture(event.pointerId);
    } catch {
      // It was lifted before this was handled: its end comes without being captured.
    }
    this.element.toggleAttribute("data-pressed", true);
    this.drawn?.press(true);
    if (this.isStick) this.tilt(event);
    else if (this.own.kind !== "amount") this.tell(event, this.own.name, 1);
    event.preventDefault();
  }

  private move(event: PointerEvent): void {
    const { finger } = this;
    if (finger?.id !== event.pointerId) return;
    if (this.isStick) this.tilt(event);
    else if (this.own.kind === "amount") {
      const { clientX: x, clientY: y } = event;
      if (x !== finger.x) this.tell(event, `${this.own.name}X`, x - finger.x);
      if (y !== finger.y) this.tell(event, `${this.own.name}Y`, y - finger.y);
      finger.x = x;
      finger.y = y;
    }
  }

  /** The thumb's way from the middle, at most 1 long; beyond that a floating middle follows it, so that turning round is felt at once. */
  private tilt(event: PointerEvent): void {
    const finger = this.finger!;
    const { reach = REACH, floats = true } = this.area;
    const isAxis = this.own.kind === "axis";
    let x = (event.clientX - finger.x) / reach;
    let y = isAxis ? 0 : (event.clientY - finger.y) / reach;
    const length = Math.hypot(x, y);
    if (length > 1) {
      x /= length;
      y /= length;
      if (floats) {
        finger.x = event.clientX - x * reach;
        finger.y = event.clientY - y * reach;
      }
    }
    this.drawn?.move(this.element.getBoundingClientRect(), finger, x, y);
    this.tell(event, isAxis ? this.own.name : `${this.own.name}X`, x);
    if (!isAxis) this.tell(event, `${this.own.name}Y`, y);
  }

  private up(event: PointerEvent): void {
    if (this.finger?.id !== event.pointerId) return;
    this.rest(stampOf(this.view, event));
  }

  /** The focus is lost: what keeps without it goes on. */
  lose(): void {
    if (!this.own.keepsFocus) this.rest(nowIn(this.view));
  }

  private rest(t: number): void {
    if (this.finger === undefined) return;
    const { kind, name } = this.own;
    this.finger = undefined;
    this.element.toggleAttribute("data-pressed", false);
    this.drawn?.press(false);
    if (kind === "amount") return;
    for (const control of kind === "stick" ? [`${name}X`, `${name}Y`] : [name])
      this.feed({ t, control, value: 0 });
  }

  private tell(event: Event, control: string, value: number): void {
    this.feed({ t: stampOf(this.view, event), control, value });
  }

  detach(): void {
    this.rest(nowIn(this.view));
    for (const end of this.ends.splice(0)) end();
    const { touchAction, userSelect, hidden } = this.before;
    this.element.style.touchAction = touchAction;
    this.element.style.setProperty("user-select", userSelect);
    this.element.removeAttribute("data-reacher-touch");
    this.element.hidden = hidden;
    this.drawn?.remove();
  }
}
