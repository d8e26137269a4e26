/** Timelines of long traces, computed in a worker. In: plans and entries. Out: a timeline for each plan, and progress. */
import type { Plan } from "reacher";
import type { TraceEntry } from "reacher/trace";
import { received, type Sent } from "./reuse";
import type { Timeline } from "./lanes";

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

/** May change: the orders that are under way. While a slider moves, results of older orders are shown until the newest one's comes. */
export class LongTimeline {
  private worker: Worker | undefined;
  private number = 0;
  private sent: readonly TraceEntry[] | undefined;
  private last: Timeline | undefined;
  private readonly calls = new Map<number, LongCalls>();

  work(plans: readonly Plan[], entries: readonly TraceEntry[], calls: LongCalls): void {
    if (this.worker === undefined) {
      this.worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
      this.worker.onmessage = ({ data }: MessageEvent<Answer>) => this.hear(data);
    }
    if (this.sent !== entries) this.forget();
    const order: Order = {
      number: ++this.number,
      plans,
      entries: this.sent === entries ? undefined : entries,
    };
    this.sent = entries;
    this.calls.set(order.number, calls);
    this.worker.postMessage(order);
  }

  /** Drops all orders. */
  forget(): void {
    this.calls.clear();
  }

  private hear(answer: Answer): void {
    const calls = this.calls.get(answer.number);
    if ("share" in answer) {
      calls?.progress(answer.share);
      return;
    }
    // Also for a dropped order: the next differences refer to it.
    const timelines = answer.timelines.map((timeline) => (this.last = received(this.last, timeline)));
    // The worker has left out the orders before this one.
    for (const number of this.calls.keys()) if (number <= answer.number) this.calls.delete(number);
    calls?.done(timelines);
  }
}
