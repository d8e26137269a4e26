/** A trace in time, as SVG: the workbench's own drawing, which is bundled apart, since only this needs it. */
import { createRequire } from "node:module";
import type { Plan } from "reacher";
import type { TraceEntry } from "reacher/trace";
import { forXml } from "./chart.js";

export interface TimelineDrawing {
  readonly plan: Plan;
  readonly entries: readonly TraceEntry[];
  /** The visible range, in ms. */
  readonly from: number;
  readonly to: number;
  readonly title: string;
  readonly legend: string;
  readonly isDark: boolean;
}

export function drawTimeline(drawing: TimelineDrawing): string {
  const { timelineSvg } = createRequire(import.meta.url)("../drawn/timeline.cjs") as {
    timelineSvg(drawing: TimelineDrawing): string;
  };
  return forXml(timelineSvg(drawing)) + "\n";
}
