/** The worker for long timelines: of several waiting orders only the newest is computed. */
import type { Plan } from "reacher";
import type { TraceEntry } from "reacher/trace";
import type { Answer, Order } from "./longTimeline";
import { reusing, sent } from "./reuse";
import type { Timeline } from "./lanes";
import { timelineOf } from "./timeline";

/** No progress is reported before this, in ms. */
const PATIENCE_MS = 150;

let entries: readonly TraceEntry[] = [];
let newest: Order | undefined;
/** The timeline that the page has. */
let last: Timeline | undefined;
const tell = (answer: Answer) => postMessage(answer);

onmessage = ({ data }: MessageEvent<Order>) => {
  if (data.entries !== undefined) entries = data.entries;
  if (newest === undefined) setTimeout(work);
  newest = data;
};

function work(): void {
  const { number, plans } = newest!;
  newest = undefined;
  const begun = performance.now();
  const timelines = plans.map((plan, n) => {
    const before = last;
    const progress = (share: number) => {
      if (performance.now() - begun > PATIENCE_MS) tell({ number, share: (n + share) / plans.length });
    };
    const made = timelineOf(plan, entries, progress, before);
    last = reusing(before, made);
    return sent(before, last);
  });
  tell({ number, timelines });
  setTimeout(() => prepare(plans[0]!, PREPARED));
}

/** The maximum number of warm-up runs; they end when one takes less than this, in ms. */
const PREPARED = 12;
const PREPARED_MS = 35;

/** Warms up: runs once what a moving number will run, so that it is compiled by then. */
function prepare(plan: Plan, times: number): void {
  if (newest !== undefined || times === 0 || entries.length === 0) return;
  const begun = performance.now();
  reusing(last, timelineOf(structuredClone(plan), entries, undefined, last));
  if (performance.now() - begun > PREPARED_MS) setTimeout(() => prepare(plan, times - 1));
}
