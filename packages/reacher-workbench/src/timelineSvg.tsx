/**
 * The timeline as a file, for the command: the same lanes and the same drawing as on the page. In: a plan, the entries of a trace, what part of
 * it is seen. Out: SVG. Pure.
 */
import { renderToStaticMarkup } from "react-dom/server";
import type { TimelineDrawing } from "../../reacher-cli/src/drawing/timelineDrawing";
import drawing from "./drawing.css";
import { drawTimeline, heightOf } from "./drawTimeline";
import theme from "./theme.css";
import { timelineOf } from "./timeline/timeline";

const WIDTH = 1280;
/** A file is looked at from further away than a page. */
const SCALE = 1.5;
const HEAD = 46;
const MARGIN = 12;

export function timelineSvg({ plan, entries, from, to, title, legend, isDark }: TimelineDrawing): string {
  const full = timelineOf(plan, entries);
  const scene = {
    full,
    outline: undefined,
    from,
    to,
    width: WIDTH / SCALE - 2 * MARGIN,
    isSeated: plan.seats !== undefined,
    cursor: undefined,
    chosen: undefined,
  };
  const height = (HEAD + heightOf(scene) + MARGIN) * SCALE;
  const colours = coloursOf(isDark);
  const style = drawing.replace(/var\((--[\w-]+)\)/g, (_, name: string) => colours.get(name)!);
  const paper = colours.get("--panel")!;
  return renderToStaticMarkup(
    <svg
      xmlns="http://www.w3.org/2000/svg"
      width={WIDTH}
      height={height}
      fontFamily="DejaVu Sans, Verdana, sans-serif"
    >
      <style>{style}</style>
      <rect width="100%" height="100%" fill={paper} />
      <g transform={`scale(${SCALE}) translate(${MARGIN} 0)`}>
        <text y="20" fontSize="13" fontWeight="bold" fill={colours.get("--text")}>
          {title}
        </text>
        <text y="35" fontSize="9.5" fill={colours.get("--text-2")}>
          {legend}
        </text>
        <g transform={`translate(0 ${HEAD})`}>{drawTimeline(scene)}</g>
      </g>
    </svg>,
  );
}

/** The page's colours, for a dark page or a light one. */
function coloursOf(isDark: boolean): Map<string, string> {
  const [dark, light] = theme.split("@media");
  const found = (text: string) =>
    [...text.matchAll(/(--[\w-]+): ([^;]+);/g)].map(([, name, value]) => [name!, value!] as const);
  return new Map([...found(dark!), ...(isDark ? [] : found(light!))]);
}
