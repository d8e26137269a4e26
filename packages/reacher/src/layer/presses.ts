/**
 * "Press any key". In: events, bound or not. Out: presses of keys, buttons and triggers, announced at their moment when the layer is
 * stepped, after the event itself. May change: which controls it knows to be down. Costs nothing unless used.
 */
import { numberOf } from "../controls/numbers.js";
import { Bits, EventKind, EventField } from "../engine/queue.js";
import type { Scheduler } from "../engine/scheduler.js";
import type { Held, Unsubscribe, Press, RawEvent } from "./types.js";
import { listOf } from "../engine/lists.js";
import { callEach } from "./calling.js";

/** Raw controls that move and cannot be pressed. */
const NO_PRESS = /^(MouseMove|PadAxis|Pad(Left|Right)Stick[XY]$)/;

/** Thresholds of down and up, the same as the defaults of a plan's controls. */
const DOWN = 0.5;
const UP = 0.4;

export class Presses {
  private readonly down = new Set<string>();
  private listeners: readonly ((press: Press) => void)[] = listOf();

  constructor(
    private readonly scheduler: Scheduler,
    held: readonly Held[],
  ) {
    for (const { control, pad, value } of held) if (value >= DOWN) this.down.add(keyOf(control, pad));
    scheduler.pressed = (control, pad, t) => {
      callEach(this.listeners, (fn) => fn({ control, pad, t }));
    };
    scheduler.isHeard = true;
  }

  listen(fn: (press: Press) => void): Unsubscribe {
    // Lists are replaced, not changed, so that a callback may end itself or another.
    const own = (press: Press) => fn(press);
    this.listeners = [...this.listeners, own];
    return () => {
      this.listeners = this.listeners.filter((listener) => listener !== own);
    };
  }

  get isEmpty(): boolean {
    return this.listeners.length === 0;
  }

  /** Notes an event of any control. */
  note({ t, control, value, pad = 0 }: RawEvent): void {
    if (NO_PRESS.test(control)) return;
    const key = keyOf(control, pad);
    if (!(+value >= DOWN)) {
      if (+value < UP) this.down.delete(key);
      return;
    }
    if (this.down.has(key)) return;
    this.down.add(key);
    const { scratchEvent } = this.scheduler;
    scratchEvent[EventField.T] = +t;
    scratchEvent[EventField.Value] = pad;
    this.scheduler.addEvent(FIRST_SEAT, (numberOf(control) << Bits.Kind) | EventKind.Press);
  }

  /** Releases everything, or one pad's controls. */
  lose(what: "focus" | "pad", pad: number): void {
    for (const key of this.down) if (what === "focus" || key.endsWith(`Pad ${pad}`)) this.down.delete(key);
  }
}

/** The presses of all players are queued with this seat. */
const FIRST_SEAT = 0;

function keyOf(control: string, pad: number): string {
  return control.startsWith("Pad") ? `${control} Pad ${pad}` : control;
}
