/**
 * The plain look of a touch area: a ring with a knob for a stick, a disc with a label for a button. In: an element of the page. Out: a drawing
 * within it (W3C SVG 2), by attributes alone, so that `style-src 'self'` allows it and a page's own rules for its classes win.
 */
import type { OwnControl } from "../controls/ownControls.js";

/** A drawing within an area. */
export interface Drawn {
  /** The middle of a stick in the page, in px, and how far it is tilted. */
  move(box: DOMRect, middle: { readonly x: number; readonly y: number }, x: number, y: number): void;
  /** A finger is on it, or no longer. */
  press(isDown: boolean): void;
  remove(): void;
}

const SVG = "http://www.w3.org/2000/svg";

/** Draws the look of a control into its area; nothing for an area to look around with. */
export function drawArea(
  element: HTMLElement,
  { kind, label }: OwnControl,
  reach: number,
): Drawn | undefined {
  if (kind === "amount") return undefined;
  const { ownerDocument: page } = element;
  const make = (name: string, attributes: Readonly<Record<string, string | number>>, into?: Element) => {
    const made = page.createElementNS(SVG, name);
    for (const [attribute, value] of Object.entries(attributes)) made.setAttribute(attribute, String(value));
    into?.append(made);
    return made;
  };
  const isStick = kind === "stick" || kind === "axis";
  const drawing = make("svg", {
    class: "reacher-touch",
    width: "100%",
    height: "100%",
    "aria-hidden": "true",
  });
  const { style } = drawing as unknown as SVGElement;
  style.pointerEvents = "none";
  style.overflow = "visible";
  style.display = "block";
  const look = { fill: "currentColor", stroke: "currentColor", "stroke-width": 2 };
  const ring = make(
    "circle",
    {
      class: "reacher-ring",
      cx: "50%",
      cy: "50%",
      r: isStick ? reach : "45%",
      ...look,
      "fill-opacity": 0.12,
      "stroke-opacity": 0.7,
    },
    drawing,
  );
  const knob = isStick
    ? make(
        "circle",
        { class: "reacher-knob", cx: "50%", cy: "50%", r: reach * 0.42, ...look, "fill-opacity": 0.45 },
        drawing,
      )
    : make(
        "text",
        {
          class: "reacher-label",
          x: "50%",
          y: "50%",
          "text-anchor": "middle",
          "dominant-baseline": "central",
          fill: "currentColor",
        },
        drawing,
      );
  if (!isStick) knob.textContent = label;
  element.append(drawing);
  const put = (circle: Element, x: number | string, y: number | string) => {
    circle.setAttribute("cx", String(x));
    circle.setAttribute("cy", String(y));
  };
  return {
    move: (box, middle, x, y) => {
      const [left, top] = [middle.x - box.left, middle.y - box.top];
      put(ring, left, top);
      put(knob, left + x * reach, top + y * reach);
    },
    press: (isDown) => {
      (isStick ? knob : ring).setAttribute(
        "fill-opacity",
        isDown ? (isStick ? "0.7" : "0.4") : isStick ? "0.45" : "0.12",
      );
      if (!isStick || isDown) return;
      put(ring, "50%", "50%");
      put(knob, "50%", "50%");
    },
    remove: () => drawing.remove(),
  };
}
