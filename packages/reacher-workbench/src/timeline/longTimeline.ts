/** Timelines of long traces, worked out beside the page. In: plans and entries. Out: a timeline for each plan, and how far it has come. */
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
  /** Absent where they are the ones of the order before. */
  readonly entries: readonly TraceEntry[] | undefined;
}
export type Answer =
  | { readonly number: number; readonly share: number }
  /** Each is told by what is other than in the one before it. */
  | { readonly number: number; readonly timelines: readonly Sent[] };

/** May change: which order is under way; an older one is not told of any more. */
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

  /** What is under way is not wanted any more. */
  forget(): void {
    this.number++;
  }

  private hear(answer: Answer): void {
    const isNewest = answer.number === this.number;
    if ("share" in answer) {
      if (isNewest) this.calls!.progress(answer.share);
      return;
    }
    // Also what is not wanted any more: what comes after is told by it.
    const timelines = answer.timelines.map((one) => (this.last = received(this.last, one)));
    if (isNewest) this.calls!.done(timelines);
  }
}
