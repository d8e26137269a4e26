/**
 * Pads (W3C Gamepad), polled once a frame. In: what `getGamepads` gives. Out: events for the values that changed, by the
 * standard layout (section 7), by a learnt one, or by number. May change: the last value of each control of each pad.
 */
import { PAD_AXES, PAD_BUTTONS } from "../controls/catalogue.js";
import type { PadLike, PadSource } from "./padLike.js";
import { stampOf, type Attached, type Fed, type Listen } from "./listening.js";
import type { AxisWay, PadLayouts } from "./padLayouts.js";

export interface Pads extends Attached {
  /** The layer has put all pads to rest. Buttons still held then count only when pressed anew. */
  forget(): void;
}

/** One control of a pad: where its value comes from, and what was last told of it. */
interface Reader {
  readonly control: string;
  readonly isButton: boolean;
  read(pad: PadLike): number;
  told: number;
  /** Down when everything was put to rest: it is no press until it has been up. */
  stale: boolean;
}

interface Known {
  readonly id: string;
  layout: unknown;
  readers: Reader[];
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
  const pads = new Map<number, Known>();
  /** Whose pad was lost, by the pad's id: it may come back at another index. */
  const lost = new Map<string, string>();

  const poll = () => {
    const now = view.performance.now();
    const all = source();
    // A browser that tells nobody shows the pad no longer.
    for (const index of pads.keys())
      if (!all.some((pad) => pad !== null && pad.index === index && pad.connected)) lose(index, now);
    for (const pad of all) {
      if (pad === null || !pad.connected) continue;
      const known = knownPad(pad);
      const stamp = pad.timestamp ?? 0;
      const t = stamp > now - STAMP_MS && stamp <= now ? stamp : now;
      for (const reader of known.readers) readOne(pad, reader, t);
    }
  };

  const knownPad = (pad: PadLike): Known => {
    const id = pad.id ?? "";
    const layout = pad.mapping === "standard" ? "standard" : layouts.find(id);
    let known = pads.get(pad.index);
    if (known !== undefined && known.id === id && known.layout === layout) return known;
    if (known !== undefined) input.lose("pad", view.performance.now(), pad.index);
    known = { id, layout, readers: readersOf(pad, layouts) };
    pads.set(pad.index, known);
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

  const readOne = (pad: PadLike, reader: Reader, t: number) => {
    const value = reader.read(pad);
    if (reader.stale) {
      reader.stale = value >= AXIS_PRESS;
      if (reader.stale) return;
    }
    if (value === reader.told || !(value - value === 0)) return;
    reader.told = value;
    input.feed({ t, control: reader.control, value, pad: pad.index });
  };

  const lose = (index: number, t: number) => {
    const known = pads.get(index);
    if (known === undefined) return;
    pads.delete(index);
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
      for (const { readers } of pads.values()) {
        for (const reader of readers) {
          reader.stale = reader.isButton && reader.told > 0;
          reader.told = 0;
        }
      }
    },
    detach: () => view.cancelAnimationFrame(frame),
  };
}

/** What is read of a pad: by its own layout, a learnt one, or number by number. */
function readersOf(pad: PadLike, layouts: PadLayouts): Reader[] {
  const button = (control: string, n: number) =>
    reader(control, true, (one) => {
      const { value, pressed } = one.buttons[n] ?? { value: 0, pressed: false };
      // Some drivers know down and up alone.
      return value === 0 && pressed ? 1 : value;
    });
  const axis = (control: string, n: number, sign = 1) =>
    reader(control, false, (one) => (one.axes[n] ?? 0) * sign + 0);
  /** An axis of which nobody knows what it is may rest anywhere: a trigger's rests at -1. */
  const numbered = (n: number) => {
    const rest = pad.axes[n]!;
    const read = (one: PadLike) => {
      const value = one.axes[n] ?? 0;
      return Math.abs(value - rest) < AXIS_NOISE ? 0 : value;
    };
    return reader(`PadAxis${n}`, false, read);
  };
  const half = (control: string, { axis: n, sign }: AxisWay) =>
    reader(control, true, (one) => Math.max(0, (one.axes[n] ?? 0) * sign));
  if (pad.mapping === "standard") {
    return [
      ...PAD_AXES.slice(0, pad.axes.length).map((name, n) => axis(name, n)),
      ...PAD_BUTTONS.slice(0, pad.buttons.length).map((name, n) => button(name, n)),
    ];
  }
  const layout = layouts.find(pad.id ?? "");
  if (layout === undefined) {
    return [
      ...pad.axes.slice(0, MOST).map((_, n) => numbered(n)),
      ...pad.buttons.slice(0, MOST).map((_, n) => button(`PadButton${n}`, n)),
    ];
  }
  return [
    ...Object.entries(layout.axes).map(([name, way]) => axis(name, way.axis, way.sign)),
    ...Object.entries(layout.buttons).map(([name, from]) =>
      typeof from === "number" ? button(name, from) : half(name, from),
    ),
  ];
}

function reader(control: string, isButton: boolean, read: (pad: PadLike) => number): Reader {
  return { control, isButton, read, told: 0, stale: false };
}
