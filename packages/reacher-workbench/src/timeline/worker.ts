/** The worker of long timelines: of several orders that wait only the newest is worked out. */
import type { TraceEntry } from "reacher/trace";
import type { Answer, Order } from "./longTimeline";
import { timelineOf } from "./timeline";

let entries: readonly TraceEntry[] = [];
let newest: Order | undefined;
/** What is kept is asked for again and again while a number moves. */
let kept: { readonly plan: string; readonly timeline: ReturnType<typeof timelineOf> } | undefined;
const tell = (answer: Answer) => postMessage(answer);

onmessage = ({ data }: MessageEvent<Order>) => {
  if (data.entries !== undefined) {
    entries = data.entries;
    kept = undefined;
  }
  if (newest === undefined) setTimeout(work);
  newest = data;
};

function work(): void {
  const { number, now, was } = newest!;
  newest = undefined;
  const made = timelineOf(now, entries, (share) => tell({ number, share }));
  let before = made;
  if (was !== undefined) {
    const plan = JSON.stringify(was);
    if (kept?.plan !== plan) kept = { plan, timeline: timelineOf(was, entries) };
    before = kept.timeline;
  }
  tell({ number, now: made, was: before });
}
