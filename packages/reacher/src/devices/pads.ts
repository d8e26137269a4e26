/**
 * Pads (W3C Gamepad), polled once a frame. In: what `getGamepads` gives. Out: events for the values that changed, by the
 * standard layout (section 7), by a learnt one, or by number. May change: the last value of each control of each pad.
 */
import { PAD_AXES, PAD_BUTTONS } from "../controls/catalogue.js";
import type { PadLike, PadSource } from "./padLike.js";
import { nowIn, stampOf, type Attached, type Fed, type Listen } from "./listening.js";
import { amountOf, isHat, type AxisWay } from "./axisWay.js";
import type { PadLayouts } from "./padLayouts.js";

export interface Pads extends Attached {
  /** The layer has put all pads to rest. Buttons still held then count only when pressed again. */
  forget(): void;
}

interface Known {
  readonly index: number;
  readonly id: string;
  layout: unknown;
  readers: PadReader[];
}

/** The most buttons, and the most axes, that have names. */
const MOST = 64;
/** A pad's own stamp is used where it is not older than this, in ms: some browsers never renew it. */
const STAMP_MS = 100;
/** The noise of an axis at rest. */
const AXIS_NOISE = 0.15;
/** A stick held when everything was put to rest counts again once it was below this. */
const STICK_REST = 0.3;
/** An axis that stays in the middle for so many polls rests there. */
const REST_POLLS = 10;
/** The value from which a direction pad that is an axis counts as pressed. */
const AXIS_PRESS = 0.5;

export function attachPads(
  view: Window,
  input: Fed,
  listen: Listen,
  source: PadSource,
  layouts: PadLayouts,
  inBackground: boolean,
  onRefused: (message: string) => void,
): Pads {
  /** By index; sparse, since a pad that is gone leaves a hole. */
  const pads: (Known | undefined)[] = [];
  /** Lost pads: one may come back at another index. */
  let lost: readonly { readonly id: string; readonly seat: string }[] = [];
  /** Whether the page may not read pads at all. */
  let isRefused = false;
  let hadFocus = true;
  /** Whether keys or clicks have come since the window lost the focus. */
  let isUsed = false;
  /** The one event object that all pads are fed by, so that a frame allocates nothing. */
  const event = { t: 0, control: "", value: 0, pad: 0 };

  const poll = () => {
    const now = nowIn(view);
    if (!isHeard()) return;
    const all = read();
    // Some browsers send no event, and just no longer list the pad.
    for (let n = 0; n < pads.length; n++) if (pads[n] !== undefined && !isShown(all, n)) lose(n, now);
    for (let n = 0; n < all.length; n++) {
      const pad = all[n];
      if (pad == null || !pad.connected) continue;
      const known = knownPad(pad);
      const stamp = (pad.timestamp ?? 0) + (now - view.performance.now());
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

  /** A page without focus ignores pads; what is held when the focus comes back has to be released first. */
  const isHeard = () => {
    // Where a focused frame was removed, the document has no focus, and keys come all the same.
    const hasFocus = inBackground || isUsed || view.document.hasFocus?.() !== false;
    if (hasFocus && !hadFocus) forget();
    hadFocus = hasFocus;
    return hasFocus;
  };

  /** The pads, or none if the page may not read them (W3C Gamepad, section 4): that is reported once, and not tried again. */
  const read = (): readonly (PadLike | null | undefined)[] => {
    if (isRefused) return NO_PADS;
    try {
      return source();
    } catch (error) {
      isRefused = true;
      onRefused(`this page may not read pads (${(error as Error).message}); keyboard and mouse go on`);
      return NO_PADS;
    }
  };

  const forget = () => {
    for (const known of pads) for (const reader of known?.readers ?? []) reader.forget();
  };

  const knownPad = (pad: PadLike): Known => {
    const id = pad.id ?? "";
    const layout = pad.mapping === "standard" ? "standard" : layouts.find(id);
    let known = pads[pad.index];
    if (known !== undefined && known.id === id && known.layout === layout) return known;
    if (known !== undefined) input.lose("pad", pad.index, nowIn(view));
    known = { index: pad.index, id, layout, readers: readersOf(pad, layouts) };
    while (pads.length < pad.index) pads.push(undefined);
    pads[pad.index] = known;
    returnPad(id, pad.index);
    return known;
  };

  /** Pads of one model that were lost together cannot be told apart: the first press on one decides. */
  const returnPad = (id: string, index: number) => {
    const twins = lost.filter((one) => one.id === id && waits(one.seat));
    if (twins.length !== 1) return;
    const { seat } = twins[0]!;
    lost = lost.filter((one) => one.seat !== seat);
    input.assignPad?.(seat, index);
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
    input.lose("pad", index, t);
    const seat = input.seats?.find((name) => input.seat?.(name).pad === index);
    if (seat === undefined) return;
    lost = [...lost.filter((one) => one.seat !== seat), { id: known.id, seat }];
    // Another pad of the model is lost as well: the seats wait for a press, each for its own.
    const twins = lost.filter(({ id, seat: whose }) => id === known.id && waits(whose));
    if (twins.length > 1) for (const { seat: whose } of twins) input.awaitPad?.(whose);
  };

  listen<Event & { readonly gamepad: { readonly index: number } }>(view, "gamepaddisconnected", (event) =>
    lose(event.gamepad.index, stampOf(view, event)),
  );

  for (const type of ["keydown", "mousedown", "pointerdown"]) listen(view, type, () => (isUsed = true));
  listen(view, "blur", (event) => {
    if (event.target === view) isUsed = false;
  });

  let frame = view.requestAnimationFrame(function next() {
    frame = view.requestAnimationFrame(next);
    poll();
  });

  return {
    forget,
    detach: () => view.cancelAnimationFrame(frame),
  };
}

/** No pad at all. */
const NO_PADS: readonly PadLike[] = [];

/** Whether a pad is among those that the browser shows. */
function isShown(all: readonly (PadLike | null | undefined)[], index: number): boolean {
  for (let n = 0; n < all.length; n++) {
    const pad = all[n];
    if (pad != null && pad.index === index && pad.connected) return true;
  }
  return false;
}

/** The controls read from a pad: by the standard layout, a learnt one, or by number. */
function readersOf(pad: PadLike, layouts: PadLayouts): PadReader[] {
  const button = (control: string, n: number) => new PadReader(control, ReadFrom.Button, n);
  const axis = (control: string, n: number, sign = 1) => new PadReader(control, ReadFrom.Axis, n, sign);
  if (pad.mapping === "standard") {
    // Some report -1 everywhere until they are first moved.
    const isUnmoved = pad.axes.length > 0 && pad.axes.every((value) => value === -1);
    const axis = (control: string, n: number) =>
      new PadReader(control, ReadFrom.Axis, n, 1, 0, undefined, isUnmoved);
    return [
      ...PAD_AXES.slice(0, pad.axes.length).map((name, n) => axis(name, n)),
      ...PAD_BUTTONS.slice(0, pad.buttons.length).map((name, n) => button(name, n)),
    ];
  }
  const layout = layouts.find(pad.id ?? "");
  if (layout === undefined) {
    return [
      // An unknown axis may rest anywhere: a trigger's rests at -1.
      ...pad.axes
        .slice(0, MOST)
        .map((rest, n) => new PadReader(`PadAxis${n}`, ReadFrom.Numbered, n, 1, rest)),
      ...pad.buttons.slice(0, MOST).map((_, n) => button(`PadButton${n}`, n)),
    ];
  }
  return [
    ...Object.entries(layout.axes).map(([name, way]) => axis(name, way.axis, way.sign)),
    ...Object.entries(layout.buttons).map(([name, from]) =>
      typeof from === "number"
        ? button(name, from)
        : new PadReader(name, ReadFrom.Half, from.axis, 1, 0, from),
    ),
  ];
}

/** Where the value of a control comes from. */
const enum ReadFrom {
  Button,
  Axis,
  /** An axis that was not learnt. */
  Numbered,
  /** One side of an axis, as a button. */
  Half,
}

/** One control of a pad: where its value comes from, and its last reported value. May change: these. */
class PadReader {
  reported = 0;
  /** Held when everything was put to rest: it does not count until it has been at rest. */
  private isStale: boolean;
  /** How long an axis that seemed to rest at its end has been in the middle, in polls. */
  private inMiddle = 0;
  private hasBegun = false;

  constructor(
    readonly control: string,
    private readonly part: ReadFrom,
    private readonly n: number,
    private readonly sign = 1,
    private rest = 0,
    private readonly way?: AxisWay,
    isUnmoved = false,
  ) {
    this.isStale = isUnmoved;
    // A trigger that is an axis rests at one of its ends; what is first seen elsewhere is a stick that is pushed.
    if (part === ReadFrom.Numbered && Math.abs(Math.abs(rest) - 1) > AXIS_NOISE && !isHat(rest))
      this.rest = 0;
  }

  /** Whether its value has changed; if so, it is recorded as reported. */
  hasMoved(pad: PadLike): boolean {
    const { part, n } = this;
    let value = 0;
    if (part === ReadFrom.Button) {
      const button = pad.buttons[n];
      // Some drivers only report down and up.
      if (button !== undefined) value = button.value === 0 && button.pressed ? 1 : button.value;
    } else {
      value = (pad.axes[n] ?? 0) * this.sign + 0;
      if (this.way !== undefined) value = this.amount(pad);
      if (part === ReadFrom.Numbered) {
        if (this.rest !== 0 && !isHat(this.rest)) this.lookForRest(value);
        if (Math.abs(value - this.rest) < AXIS_NOISE) value = 0;
      }
    }
    if (this.isStale) {
      this.isStale =
        part === ReadFrom.Axis || part === ReadFrom.Numbered
          ? Math.abs(value) >= STICK_REST
          : value >= AXIS_PRESS;
      if (this.isStale) return false;
    }
    if (value === this.reported || !(value - value === 0)) return false;
    this.reported = value;
    return true;
  }

  /** A stick that was pushed when it was first seen shows by staying in the middle, where no trigger does. */
  private lookForRest(value: number): void {
    this.inMiddle = Math.abs(value) < AXIS_NOISE ? this.inMiddle + 1 : 0;
    if (this.inMiddle >= REST_POLLS) this.rest = 0;
  }

  /** How far an axis is pressed; 0 until it has moved, since some report 0 before that, or rest at their end. */
  private amount(pad: PadLike): number {
    const value = pad.axes[this.n] ?? 0;
    if (!this.hasBegun) {
      if (value === 0) return 0;
      this.hasBegun = true;
    }
    return amountOf(this.way!, value);
  }

  /** The layer has put all pads to rest; one loss may be reported several times, by blur and by hiding. */
  forget(): void {
    this.isStale ||= this.reported !== 0;
    this.reported = 0;
  }
}
