/**
 * "Press any key". In: events, bound or not. Out: presses of keys, buttons and triggers, announced at their moment when the layer is
 * stepped, after the event itself. May change: which controls it knows to be down. Costs nothing unless used.
 */
import { Bits, EventKind, EventField } from "../engine/queue.js";
import { listOf } from "../engine/lists.js";
import { mustCall } from "../plan/arguments.js";
import { callEach } from "./calling.js";
import type { Hub, Member } from "./hub.js";
import type { Held, Unsubscribe, Press, RawEvent } from "./types.js";

/** Raw controls that move and cannot be pressed. */
const NO_PRESS = /^(Mouse(Move|Point)|PadAxis|Pad(Left|Right)Stick[XY]$)/;

/** Thresholds of down and up, the same as the defaults of a plan's controls. */
const DOWN = 0.5;
const UP = 0.4;

/** Whose presses they are. */
type Heard = Pick<Hub, "scheduler" | "controls"> & { readonly first: Pick<Member, "engine"> };

export class Presses {
  private readonly down = new Set<string>();
  private listeners: readonly ((press: Press) => void)[] = listOf();

  constructor(
    private hub: Heard,
    private held: () => readonly Held[],
  ) {}

  /** Another layer plays on with the same seat. */
  moveTo(hub: Heard, held: () => readonly Held[]): void {
    this.hub = hub;
    this.held = held;
  }

  tell(press: Press): void {
    callEach(this.listeners, (fn) => fn(press));
  }

  listen(fn: (press: Press) => void): Unsubscribe {
    mustCall(fn, "onPress(fn)");
    if (this.listeners.length === 0) {
      this.down.clear();
      for (const { control, pad, value } of this.held())
        if (value >= DOWN) this.down.add(keyOf(control, pad));
      this.hub.scheduler.isHeard = true;
    }
    // Lists are replaced, not changed, so that a callback may end itself or another.
    const own = (press: Press) => fn(press);
    this.listeners = [...this.listeners, own];
    return () => {
      this.listeners = this.listeners.filter((listener) => listener !== own);
    };
  }

  /** Notes an event of any control, where somebody waits. */
  note({ t, control, value, pad = 0 }: RawEvent): void {
    const { scheduler, controls, first } = this.hub;
    if (this.listeners.length === 0 || +value !== +value || !Number.isFinite(+t) || !controls.isRaw(control))
      return;
    const own = controls.ownOf(control);
    if (NO_PRESS.test(control) || (own !== undefined && own.kind !== "button" && own.kind !== "trigger"))
      return;
    const key = keyOf(control, pad);
    if (!(+value >= DOWN)) {
      if (+value < UP) this.down.delete(key);
      return;
    }
    if (this.down.has(key)) return;
    this.down.add(key);
    const { scratchEvent } = scheduler;
    scratchEvent[EventField.T] = +t;
    scratchEvent[EventField.Value] = pad;
    // The presses of all players are queued with the first seat.
    scheduler.addEvent(first.engine.number, (controls.numberOf(control) << Bits.Kind) | EventKind.Press);
  }

  /** Releases everything, or one pad's controls. */
  lose(what: string, pad: number): void {
    const { controls } = this.hub;
    for (const key of this.down) {
      const own = controls.ownOf(key);
      const isLost =
        what === "focus"
          ? own?.keepsFocus !== true
          : what === "pad"
            ? key.endsWith(`Pad ${pad}`)
            : own?.device === what;
      if (isLost) this.down.delete(key);
    }
  }
}

function keyOf(control: string, pad: number): string {
  return control.startsWith("Pad") ? `${control} Pad ${pad}` : control;
}
