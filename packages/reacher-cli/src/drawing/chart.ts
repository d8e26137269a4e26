/** From a chart's description to SVG or PNG. In: options of the chart library. Out: text or bytes. */
import { fileURLToPath } from "node:url";
import type { EChartsCoreOption } from "echarts/core";
import { init } from "./chartLibrary.js";

export const WIDTH = 1280;
export const HEIGHT = 800;
export const FONT = "DejaVu Sans, Verdana, sans-serif";

/** The colours of a drawing, on paper or on a dark page. */
export interface Ink {
  readonly paper: string;
  readonly text: string;
  readonly faint: string;
  readonly grid: string;
  /** Of what is drawn, by turns. */
  readonly lines: readonly string[];
  readonly zone: string;
}

export const INKS: { readonly light: Ink; readonly dark: Ink } = {
  light: {
    paper: "#ffffff",
    text: "#10242e",
    faint: "#5b6f7a",
    grid: "#d9e1e5",
    lines: ["#0b6e6e", "#b4540a", "#6a3d9a", "#2f6f1f", "#9a1f4b", "#335c99"],
    zone: "rgba(91, 111, 122, 0.16)",
  },
  dark: {
    paper: "#0b1d26",
    text: "#e6f0f3",
    faint: "#9fb4be",
    grid: "#24404d",
    lines: ["#4fd1c5", "#f0a35a", "#c3a6f0", "#9bd770", "#f08bb0", "#8fb8f0"],
    zone: "rgba(159, 180, 190, 0.18)",
  },
};

/** XML has no place for these signs, not even written as numbers (XML 1.0, section 2.2): each is shown by its picture. */
export function forXml(svg: string): string {
  // eslint-disable-next-line no-control-regex -- these are what is looked for
  return svg.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, (sign) =>
    sign < " " ? String.fromCharCode(0x2400 + sign.charCodeAt(0)) : "\ufffd",
  );
}

/** Draws a chart as SVG. */
export function drawSvg(option: EChartsCoreOption): string {
  const chart = init(null, null, { renderer: "svg", ssr: true, width: WIDTH, height: HEIGHT });
  try {
    chart.setOption({ animation: false, ...option });
    return forXml(chart.renderToSVGString()) + "\n";
  } finally {
    chart.dispose();
  }
}

/** Turns SVG into PNG, with a font of its own, so that it looks the same on every machine. */
export async function toPng(svg: string): Promise<Uint8Array> {
  const { Resvg } = await import("@resvg/resvg-js");
  const fonts = fileURLToPath(new URL("../fonts/DejaVuSans.ttf", import.meta.url));
  const bold = fonts.replace("DejaVuSans.ttf", "DejaVuSans-Bold.ttf");
  return new Resvg(svg, {
    font: { fontFiles: [fonts, bold], loadSystemFonts: false, defaultFontFamily: "DejaVu Sans" },
  })
    .render()
    .asPng();
}
