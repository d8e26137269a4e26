/** Timelines of long traces, computed in a worker. In: plans and entries. Out: a timeline for each plan, and progress. */
import type { Plan } from "reacher";
import type { TraceEntry } from "reacher/trace";
import { received, type Sent } from "./reuse";
import type { Timeline } from "./timeline";

export interface LongCalls {
  progress(share: number): void;
  /** In the order of the plans. */
  done(timelines: readonly Timeline[]): void;
}

/** What goes to the worker, and what comes back. */
export interface Order {
  readonly number: number;
  readonly plans: readonly Plan[];
  /** Absent if they are the same as in the previous order. */
  readonly entries: readonly TraceEntry[] | undefined;
}
export type Answer =
  | { readonly number: number; readonly share: number }
  /** Each as the difference from the one before it. */
  | { readonly number: number; readonly timelines: readonly Sent[] };

/** May change: the current order; results of older ones are dropped. */
export class LongTimeline {
  private worker: Worker | undefined;
  private number = 0;
  private sent: readonly TraceEntry[] | undefined;
  private last: Timeline | undefined;
  private calls: LongCalls | undefined;

  work(plans: readonly Plan[], entries: readonly TraceEntry[], calls: LongCalls): void {
    this.calls = calls;
    if (this.worker === undefined) {
      this.worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
      this.worker.onmessage = ({ data }: MessageEvent<Answer>) => this.hear(data);
    }
    const order: Order = {
      number: ++this.number,
      plans,
      entries: this.sent === entries ? undefined : entries,
    };
    this.sent = entries;
    this.worker.postMessage(order);
  }

  /** Drops the current order. */
  forget(): void {
    this.number++;
  }

  private hear(answer: Answer): void {
    const isNewest = answer.number === this.number;
    if ("share" in answer) {
      if (isNewest) this.calls!.progress(answer.share);
      return;
    }
    // Also for a dropped order: the next differences refer to it.
    const timelines = answer.timelines.map((one) => (this.last = received(this.last, one)));
    if (isNewest) this.calls!.done(timelines);
  }
}
