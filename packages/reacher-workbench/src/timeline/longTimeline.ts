/** Timelines of long traces, worked out beside the page. In: two plans and entries. Out: both timelines, and how far it has come. */
import type { Plan } from "reacher";
import type { TraceEntry } from "reacher/trace";
import type { Timeline } from "./timeline";

export interface LongCalls {
  progress(share: number): void;
  done(now: Timeline, was: Timeline): void;
}

/** What goes to the worker, and what comes back. */
export interface Order {
  readonly number: number;
  readonly now: Plan;
  readonly was: Plan | undefined;
  /** Absent where they are the ones of the order before. */
  readonly entries: readonly TraceEntry[] | undefined;
}
export type Answer =
  | { readonly number: number; readonly share: number }
  | { readonly number: number; readonly now: Timeline; readonly was: Timeline };

/** May change: which order is under way; an older one is not told of any more. */
export class LongTimeline {
  private worker: Worker | undefined;
  private number = 0;
  private sent: readonly TraceEntry[] | undefined;

  work(now: Plan, was: Plan, entries: readonly TraceEntry[], calls: LongCalls): void {
    this.worker ??= new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    const number = ++this.number;
    this.worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      if (data.number !== number) return;
      if ("share" in data) calls.progress(data.share);
      else calls.done(data.now, data.was);
    };
    const order: Order = {
      number,
      now,
      was: was === now ? undefined : was,
      entries: this.sent === entries ? undefined : entries,
    };
    this.sent = entries;
    this.worker.postMessage(order);
  }
}
