/**
 * "Press any key". In: what is fed, bound or not. Out: a press of a key, a button or a trigger, told at its moment when the layer is
 * stepped, after the event itself. May change: what it knows to be down. Nobody who does not ask pays for it.
 */
import { numberOf } from "../controls/numbers.js";
import { Bits, Kind, Slot } from "../engine/queue.js";
import type { Scheduler } from "../engine/scheduler.js";
import type { Held, Off, Press, RawEvent } from "./types.js";
import { listOf } from "../engine/lists.js";

/** Raw controls that move and are not pressed. */
const NO_PRESS = /^(MouseMove|PadAxis|Pad(Left|Right)Stick[XY]$)/;

/** Down from here on, and up below: what a plan's own controls have by default. */
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
      for (const fn of this.listeners) fn({ control, pad, t });
    };
  }

  listen(fn: (press: Press) => void): Off {
    // Lists are replaced, not changed, so that a callback may end itself or another.
    const own = (press: Press) => fn(press);
    this.listeners = [...this.listeners, own];
    return () => {
      this.listeners = this.listeners.filter((one) => one !== own);
    };
  }

  get isEmpty(): boolean {
    return this.listeners.length === 0;
  }

  /** A control was fed. */
  note({ t, control, value, pad = 0 }: RawEvent): void {
    if (NO_PRESS.test(control)) return;
    const key = keyOf(control, pad);
    if (!(+value >= DOWN)) {
      if (+value < UP) this.down.delete(key);
      return;
    }
    if (this.down.has(key)) return;
    this.down.add(key);
    const { fed } = this.scheduler;
    fed[Slot.T] = +t;
    fed[Slot.Value] = pad;
    this.scheduler.addEvent(FIRST_SEAT, (numberOf(control) << Bits.Kind) | Kind.Press);
  }

  /** Everything is lost, or a pad is. */
  lose(what: "focus" | "pad", pad: number): void {
    for (const key of this.down) if (what === "focus" || key.endsWith(`Pad ${pad}`)) this.down.delete(key);
  }
}

/** Its queue holds the presses of all. */
const FIRST_SEAT = 0;

function keyOf(control: string, pad: number): string {
  return control.startsWith("Pad") ? `${control} Pad ${pad}` : control;
}
