/** Notes about lines of a trace that a plan has no use for. */
import type { Replay } from "reacher/trace";
import { count, note } from "./output.js";

/** `whose`: which of two plans, where there are two. */
export function noteSkipped({ skipped, layer }: Replay, whose = "this plan"): void {
  for (const [what, times] of skipped)
    if (what === "state")
      note(
        `note: the report begins with a state of another plan or other keys than ${whose}; what was on then is played`,
      );
    else note(`note: ${what}: not in ${whose}, skipped ${count(times, "time")}`);
  const { ignored } = layer.counters;
  if (ignored > 0) note(`note: ${count(ignored, "event")} of unknown controls or pads ignored`);
}
