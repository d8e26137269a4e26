/**
 * Pads with the standard layout (W3C Gamepad, section 7), polled once a frame. In: what `getGamepads` gives. Out: events
 * for the values that changed. May change: the last value of each button and axis of each pad.
 */
import { PAD_AXES, PAD_BUTTONS } from "../controls/catalogue.js";
import { stampOf, type Attached, type Fed, type Listen } from "./listening.js";

/** Gives the pads by their index; empty places are null. */
export type PadSource = () => readonly (PadLike | null)[];

/** The part of a W3C `Gamepad` that is read. */
export interface PadLike {
  readonly index: number;
  readonly connected: boolean;
  readonly mapping: string;
  readonly axes: readonly number[];
  readonly buttons: readonly { readonly value: number; readonly pressed: boolean }[];
}

export interface Pads extends Attached {
  /** The layer has put all pads to rest. Buttons still held then count only when pressed anew. */
  forget(): void;
}

/** What was last told of one pad. */
interface Told {
  readonly axes: number[];
  readonly buttons: number[];
  /** Buttons that were down when everything was put to rest: they are no presses until they have been up. */
  stale: boolean[];
}

export function attachPads(view: Window, input: Fed, listen: Listen, source: PadSource): Pads {
  const pads = new Map<number, Told>();

  const poll = () => {
    const t = view.performance.now();
    for (const pad of source()) {
      if (pad === null || !pad.connected || pad.mapping !== "standard") continue;
      let told = pads.get(pad.index);
      if (told === undefined) {
        told = { axes: [], buttons: [], stale: [] };
        pads.set(pad.index, told);
      }
      readPad(pad, told, t);
    }
  };

  const readPad = (pad: PadLike, told: Told, t: number) => {
    const axes = Math.min(pad.axes.length, PAD_AXES.length);
    for (let n = 0; n < axes; n++) {
      const value = pad.axes[n]!;
      if (value === (told.axes[n] ?? 0)) continue;
      told.axes[n] = value;
      input.feed({ t, control: PAD_AXES[n]!, value, pad: pad.index });
    }
    const buttons = Math.min(pad.buttons.length, PAD_BUTTONS.length);
    for (let n = 0; n < buttons; n++) {
      const { value, pressed } = pad.buttons[n]!;
      if (told.stale[n] === true) {
        told.stale[n] = pressed;
        if (pressed) continue;
      }
      if (value === (told.buttons[n] ?? 0)) continue;
      told.buttons[n] = value;
      input.feed({ t, control: PAD_BUTTONS[n]!, value, pad: pad.index });
    }
  };

  listen<Event & { readonly gamepad: { readonly index: number } }>(view, "gamepaddisconnected", (event) => {
    const { index } = event.gamepad;
    if (pads.delete(index)) input.lose("pad", stampOf(view, event), index);
  });

  let frame = view.requestAnimationFrame(function next() {
    frame = view.requestAnimationFrame(next);
    poll();
  });

  return {
    forget: () => {
      for (const told of pads.values()) {
        told.stale = told.buttons.map((value) => value > 0);
        told.axes.length = told.buttons.length = 0;
      }
    },
    detach: () => view.cancelAnimationFrame(frame),
  };
}
