/**
 * The running layer, driven by the page's own devices, with all its input kept in a raw log. May change: the layer,
 * the log.
 */
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import { attachBrowser } from "reacher/browser";
import type { TraceEntry } from "reacher/trace";
import { RawLog } from "./rawLog";

export class Played {
  readonly log = new RawLog();
  readonly input: InputLayer;
  private detach: (() => void) | undefined;
  private last = performance.now();

  constructor(plan: Plan) {
    this.input = createInputLayer(plan);
    this.input.step(this.last);
  }

  /** Lets the page's keys and pads play, and the mouse inside of this element. */
  attach(area: Element): () => void {
    const { input } = this;
    // All events go to the log first, bound or not: another plan may bind them.
    const heard = new Proxy(input, {
      get: (target, name) => {
        if (name === "feed")
          return ({
            t,
            control,
            value,
            pad = 0,
          }: {
            t: number;
            control: string;
            value: number;
            pad?: number;
          }) => {
            this.note({ t, control, value, pad });
            target.feed({ t, control, value, pad });
          };
        if (name === "lose")
          return (what: "focus" | "pad", ...rest: [number, number?]) => {
            const [t, pad] = what === "focus" ? [rest[0], 0] : [rest[1]!, rest[0]];
            this.note(what === "focus" ? { t, lost: what } : { t, lost: what, pad });
            if (what === "focus") target.lose("focus", t);
            else target.lose("pad", pad, t);
          };
        const value: unknown = Reflect.get(target, name, target);
        return typeof value === "function" ? (value as () => unknown).bind(target) : value;
      },
    });
    this.detach = attachBrowser(heard, { area });
    return () => this.detach?.();
  }

  /** Passes a click on the situation to the layer. */
  tell(entry: { readonly seat?: string } & Told): void {
    const { input, last } = this;
    const seats = entry.seat === undefined ? input.seats : [entry.seat];
    this.note({ ...entry, t: last, after: true } as TraceEntry);
    for (const name of seats) {
      const seat = input.seat(name);
      if ("flag" in entry) seat.setFlag(entry.flag, entry.value);
      else if ("number" in entry) seat.setNumber(entry.number, entry.value);
      else if ("enter" in entry) seat.enter(entry.enter);
      else if ("leave" in entry) seat.leave(entry.leave);
      else if ("mute" in entry) seat.mute(entry.mute, entry.reason);
      else seat.unmute(entry.unmute, entry.reason);
    }
  }

  /** Switches to another plan: what is held stays held. */
  setPlan(plan: Plan): void {
    this.input.setPlan(plan);
  }

  step(now: number): void {
    this.last = now;
    this.input.step(now);
  }

  private note(entry: TraceEntry): void {
    const isLate = entry.t <= this.last;
    this.log.add(isLate ? ({ ...entry, t: this.last, after: true } as TraceEntry) : entry);
  }
}

/** The commands that the page can give. */
export type Told =
  | { readonly flag: string; readonly value: boolean }
  | { readonly number: string; readonly value: number }
  | { readonly enter: string }
  | { readonly leave: string }
  | { readonly mute: string; readonly reason: string }
  | { readonly unmute: string; readonly reason: string };
