/**
 * Pads (W3C Gamepad), polled once a frame. In: what `getGamepads` gives. Out: events for the values that changed, by the
 * standard layout (section 7), by a learnt one, or by number. May change: the last value of each control of each pad.
 */
import { PAD_AXES, PAD_BUTTONS } from "../controls/catalogue.js";
import type { PadLike, PadSource } from "./padLike.js";
import { stampOf, type Attached, type Fed, type Listen } from "./listening.js";
import type { PadLayouts } from "./padLayouts.js";

export interface Pads extends Attached {
  /** The layer has put all pads to rest. Buttons still held then count only when pressed anew. */
  forget(): void;
}

interface Known {
  readonly index: number;
  readonly id: string;
  layout: unknown;
  readers: PadReader[];
}

/** Controls beyond these, of each kind, have no names; 64 axes are more than any hand has. */
const MOST = 64;
/** A pad's own stamp is used where it is not older than this, in ms: some browsers never renew it. */
const STAMP_MS = 100;
/** What an axis at rest may tremble by. */
const AXIS_NOISE = 0.15;
/** A direction pad that is an axis counts as pressed from here. */
const AXIS_PRESS = 0.5;

export function attachPads(
  view: Window,
  input: Fed,
  listen: Listen,
  source: PadSource,
  layouts: PadLayouts,
): Pads {
  /** By index; a pad that is gone leaves a hole. */
  const pads: (Known | undefined)[] = [];
  /** Whose pad was lost, by the pad's id: it may come back at another index. */
  const lost = new Map<string, string>();
  /** The one event that all pads are fed by: a page that plays makes nothing anew each frame. */
  const event = { t: 0, control: "", value: 0, pad: 0 };

  const poll = () => {
    const now = view.performance.now();
    const all = source();
    // A browser that tells nobody shows the pad no longer.
    for (let n = 0; n < pads.length; n++) if (pads[n] !== undefined && !isShown(all, n)) lose(n, now);
    for (let n = 0; n < all.length; n++) {
      const pad = all[n];
      if (pad == null || !pad.connected) continue;
      const known = knownPad(pad);
      const stamp = pad.timestamp ?? 0;
      event.t = stamp > now - STAMP_MS && stamp <= now ? stamp : now;
      event.pad = pad.index;
      for (let m = 0; m < known.readers.length; m++) {
        const reader = known.readers[m]!;
        if (!reader.hasMoved(pad)) continue;
        event.control = reader.control;
        event.value = reader.reported;
        input.feed(event);
      }
    }
  };

  const knownPad = (pad: PadLike): Known => {
    const id = pad.id ?? "";
    const layout = pad.mapping === "standard" ? "standard" : layouts.find(id);
    let known = pads[pad.index];
    if (known !== undefined && known.id === id && known.layout === layout) return known;
    if (known !== undefined) input.lose("pad", view.performance.now(), pad.index);
    known = { index: pad.index, id, layout, readers: readersOf(pad, layouts) };
    while (pads.length < pad.index) pads.push(undefined);
    pads[pad.index] = known;
    const seat = lost.get(id);
    lost.delete(id);
    if (seat !== undefined && waits(seat)) input.assignPad?.(seat, pad.index);
    return known;
  };

  /** Whether a seat still waits for its pad. */
  const waits = (seat: string) => {
    const { padLost } = input.seat?.(seat) ?? { padLost: false };
    return padLost;
  };

  const lose = (index: number, t: number) => {
    const known = pads[index];
    if (known === undefined) return;
    pads[index] = undefined;
    input.lose("pad", t, index);
    const seat = input.seats?.find((name) => input.seat?.(name).pad === index);
    if (seat !== undefined) lost.set(known.id, seat);
  };

  listen<Event & { readonly gamepad: { readonly index: number } }>(view, "gamepaddisconnected", (event) =>
    lose(event.gamepad.index, stampOf(view, event)),
  );

  let frame = view.requestAnimationFrame(function next() {
    frame = view.requestAnimationFrame(next);
    poll();
  });

  return {
    forget: () => {
      for (const known of pads) for (const reader of known?.readers ?? []) reader.forget();
    },
    detach: () => view.cancelAnimationFrame(frame),
  };
}

/** Whether a pad is among those that the browser shows. */
function isShown(all: readonly (PadLike | null)[], index: number): boolean {
  for (let n = 0; n < all.length; n++) {
    const pad = all[n];
    if (pad != null && pad.index === index && pad.connected) return true;
  }
  return false;
}

/** What is read of a pad: by its own layout, a learnt one, or number by number. */
function readersOf(pad: PadLike, layouts: PadLayouts): PadReader[] {
  const button = (control: string, n: number) => new PadReader(control, Part.Button, n);
  const axis = (control: string, n: number, sign = 1) => new PadReader(control, Part.Axis, n, sign);
  if (pad.mapping === "standard") {
    return [
      ...PAD_AXES.slice(0, pad.axes.length).map((name, n) => axis(name, n)),
      ...PAD_BUTTONS.slice(0, pad.buttons.length).map((name, n) => button(name, n)),
    ];
  }
  const layout = layouts.find(pad.id ?? "");
  if (layout === undefined) {
    return [
      // An axis of which nobody knows what it is may rest anywhere: a trigger's rests at -1.
      ...pad.axes.slice(0, MOST).map((rest, n) => new PadReader(`PadAxis${n}`, Part.Numbered, n, 1, rest)),
      ...pad.buttons.slice(0, MOST).map((_, n) => button(`PadButton${n}`, n)),
    ];
  }
  return [
    ...Object.entries(layout.axes).map(([name, way]) => axis(name, way.axis, way.sign)),
    ...Object.entries(layout.buttons).map(([name, from]) =>
      typeof from === "number" ? button(name, from) : new PadReader(name, Part.Half, from.axis, from.sign),
    ),
  ];
}

/** What of a pad gives a control. */
const enum Part {
  Button,
  Axis,
  /** An axis that nobody has learnt. */
  Numbered,
  /** One side of an axis, as a button. */
  Half,
}

/** One control of a pad: where its value comes from, and what was last reported of it. May change: these. */
class PadReader {
  reported = 0;
  /** Down when everything was put to rest: it is no press until it has been up. */
  private isStale = false;

  constructor(
    readonly control: string,
    private readonly part: Part,
    private readonly n: number,
    private readonly sign = 1,
    private readonly rest = 0,
  ) {}

  /** Whether its value is other than what was last reported; then it is reported now. */
  hasMoved(pad: PadLike): boolean {
    const { part, n } = this;
    let value = 0;
    if (part === Part.Button) {
      const button = pad.buttons[n];
      // Some drivers know down and up alone.
      if (button !== undefined) value = button.value === 0 && button.pressed ? 1 : button.value;
    } else {
      value = (pad.axes[n] ?? 0) * this.sign + 0;
      if (part === Part.Half && value < 0) value = 0;
      if (part === Part.Numbered && Math.abs(value - this.rest) < AXIS_NOISE) value = 0;
    }
    if (this.isStale) {
      this.isStale = value >= AXIS_PRESS;
      if (this.isStale) return false;
    }
    if (value === this.reported || !(value - value === 0)) return false;
    this.reported = value;
    return true;
  }

  /** The layer has put all pads to rest. */
  forget(): void {
    const isButton = this.part === Part.Button || this.part === Part.Half;
    this.isStale = isButton && this.reported > 0;
    this.reported = 0;
  }
}
