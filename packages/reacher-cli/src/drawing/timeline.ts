/** A trace in time, as SVG: the workbench's own drawing, which is bundled apart, since only this needs it. */
import { createRequire } from "node:module";
import { forXml } from "./chart.js";
import type { TimelineDrawing } from "./timelineDrawing.js";

export function drawTimeline(drawing: TimelineDrawing): string {
  const { timelineSvg } = createRequire(import.meta.url)("../drawn/timeline.cjs") as {
    timelineSvg(drawing: TimelineDrawing): string;
  };
  return forXml(timelineSvg(drawing)) + "\n";
}
