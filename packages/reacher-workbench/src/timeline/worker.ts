/** The worker of long timelines: of several orders that wait only the newest is worked out. */
import type { Plan } from "reacher";
import type { TraceEntry } from "reacher/trace";
import type { Answer, Order } from "./longTimeline";
import { reusing, sent } from "./reuse";
import { timelineOf, type Timeline } from "./timeline";

/** Nobody has to be told of less than this, in ms. */
const PATIENCE_MS = 150;

let entries: readonly TraceEntry[] = [];
let newest: Order | undefined;
/** What the page has. */
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
    const made = timelineOf(plan, entries, (share) => {
      if (performance.now() - begun > PATIENCE_MS) tell({ number, share: (n + share) / plans.length });
    });
    const before = last;
    last = reusing(before, made);
    return sent(before, last);
  });
  tell({ number, timelines });
  setTimeout(() => prepare(plans[0]!, PREPARED));
}

/** So many times, and no longer than this, in ms. */
const PREPARED = 12;
const PREPARED_MS = 35;

/** Works out in advance what a number that moves will ask for, all of it: the engine that runs this becomes quick by running it. */
function prepare(plan: Plan, times: number): void {
  if (newest !== undefined || times === 0 || entries.length === 0) return;
  const begun = performance.now();
  reusing(last, timelineOf(structuredClone(plan), entries));
  if (performance.now() - begun > PREPARED_MS) setTimeout(() => prepare(plan, times - 1));
}
