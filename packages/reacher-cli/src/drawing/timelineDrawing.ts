/** What a drawing of a timeline is made of: the command asks for it, the workbench's page draws it. Types alone. */
import type { Plan } from "reacher";
import type { TraceEntry } from "reacher/trace";

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
