/** Offers files to the user. */
import type { ReactElement } from "react";
import { flushSync } from "react-dom";
import { createRoot } from "react-dom/client";

export function download(name: string, type: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}

/** Properties that are copied into a saved drawing. */
const PROPERTIES = ["fill", "stroke", "stroke-width", "stroke-dasharray", "opacity", "font", "fill-opacity"];

/** A drawing as an SVG file, with its colours in the page. */
export function svgText(drawing: ReactElement): string {
  const host = document.createElement("div");
  host.className = "lanes apart";
  document.body.append(host);
  const root = createRoot(host);
  try {
    flushSync(() => root.render(drawing));
    const svg = host.querySelector("svg")!;
    for (const element of svg.querySelectorAll<SVGElement>("rect, line, path, polyline, circle, text")) {
      const style = getComputedStyle(element);
      for (const name of PROPERTIES)
        element.setAttribute(
          name === "font" ? "style" : name,
          name === "font" ? `font:${style.font}` : style.getPropertyValue(name),
        );
    }
    const background = document.createElementNS("http://www.w3.org/2000/svg", "rect");
    for (const [name, value] of Object.entries({
      width: "100%",
      height: "100%",
      fill: getComputedStyle(document.body).backgroundColor,
    }))
      background.setAttribute(name, value);
    svg.prepend(background);
    return new XMLSerializer().serializeToString(svg);
  } finally {
    root.unmount();
    host.remove();
  }
}
