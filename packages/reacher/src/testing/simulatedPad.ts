/**
 * A pad that stands in for a real one: in Node as a source for `attachBrowser`, in a page in place of the browser's own pads.
 * May change: its own axes and buttons.
 */
import { findControl, PAD_AXES, PAD_BUTTONS } from "../controls/catalogue.js";
import { didYouMean } from "../controls/nearest.js";
import { mustBeList, mustBeNumber, mustBeObject, mustBeOptions } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";

/** A pad that a test moves, as `navigator.getGamepads()` would show it. */
export interface SimulatedPad {
  readonly index: number;
  readonly id: string;
  readonly mapping: string;
  connected: boolean;
  readonly timestamp: number;
  readonly axes: readonly number[];
  readonly buttons: readonly {
    readonly value: number;
    readonly pressed: boolean;
    readonly touched: boolean;
  }[];
  /** Holds a button. @throws ReacherError if a pad has no such button */
  press(button: string): void;
  /** Lets a button go. */
  release(button: string): void;
  /** Pulls a trigger, 0..1. */
  pull(trigger: string, value: number): void;
  /** Tilts a stick as a hand does: x to the right, y up, each -1..1. */
  tilt(stick: "PadLeftStick" | "PadRightStick", x: number, y: number): void;
  /** Lets go of everything. */
  rest(): void;
}

/** Makes a pad of the standard layout, or, with another mapping, one whose order of buttons and axes nobody knows. */
export function simulatePad(
  index = 0,
  options: {
    /** @default "simulated pad" */
    readonly id?: string;
    /** `""` for a pad that does not report the standard layout: then its buttons and axes are only numbers. @default "standard" */
    readonly mapping?: string;
  } = {},
): SimulatedPad {
  mustBeNumber(index, "index of a pad");
  mustBeOptions(options);
  const axes = PAD_AXES.map(() => 0);
  const buttons = PAD_BUTTONS.map(() => ({ value: 0, pressed: false, touched: false }));
  const set = (name: string, value: number) => {
    const at = PAD_BUTTONS.indexOf(name);
    if (at < 0)
      throw new ReacherError(`${shown(name)} is no button of a pad${didYouMean(name, PAD_BUTTONS)}`);
    buttons[at] = { value, pressed: value > 0.5, touched: value > 0 };
  };
  return {
    index,
    id: options.id ?? "simulated pad",
    mapping: options.mapping ?? "standard",
    connected: true,
    timestamp: 0,
    axes,
    buttons,
    press: (button) => set(button, 1),
    release: (button) => set(button, 0),
    pull: (trigger, value) => set(trigger, value),
    tilt: (stick, x, y) => {
      if (findControl(stick)?.family !== "stick")
        throw new ReacherError(`${shown(stick)} is no stick; take PadLeftStick or PadRightStick`);
      const at = PAD_AXES.indexOf(stick + "X");
      axes[at] = x;
      // Raw pads report down as +1 (W3C Gamepad, section 7).
      axes[at + 1] = 0 - y;
    },
    rest: () => {
      axes.fill(0);
      for (const name of PAD_BUTTONS) set(name, 0);
    },
  };
}

/**
 * Lets simulated pads stand in for a page's real ones: `getGamepads` gives these, each at its index, while they are connected.
 * Returns the call that brings the real ones back.
 */
export function installPads(navigator: object, pads: readonly SimulatedPad[]): () => void {
  mustBeObject(navigator, "navigator to stand in for");
  mustBeList(pads, "simulated pads");
  const getGamepads = () => {
    const places: (SimulatedPad | null)[] = [];
    for (const pad of pads) places[pad.index] = pad.connected ? pad : null;
    return Array.from(places, (pad) => pad ?? null);
  };
  // The browser's own is on the prototype: an own property hides it, and taking it away shows it again.
  Object.defineProperty(navigator, "getGamepads", { configurable: true, value: getGamepads });
  return () => void Reflect.deleteProperty(navigator, "getGamepads");
}
