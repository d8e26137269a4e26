/**
 * Layouts of pads that do not report the standard one (W3C Gamepad, section 7): learnt once by a short guided run, kept by
 * the pad's id. In: what the pad reports while its user follows the steps. Out: which of its buttons and axes is what.
 * May change: the layouts kept, and where they are stored.
 */
import { mustBeList, mustBeObject, mustBeText } from "../plan/arguments.js";
import { PAD_AXES, PAD_BUTTONS } from "../controls/catalogue.js";
import { isHat, type AxisWay } from "./axisWay.js";
import type { PadLike } from "./padLike.js";

/** Where layouts are kept: a page's `localStorage` is one. */
export interface LayoutStore {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
}

/** What a pad's own buttons and axes are. */
export interface PadLayout {
  /** By control: the number of the button, or of an axis with the way in which it counts as pressed. */
  readonly buttons: Readonly<Record<string, number | AxisWay>>;
  /** By control (`PadLeftStickX`): the axis, and +1 or -1 where it counts the other way. */
  readonly axes: Readonly<Record<string, AxisWay>>;
}

/** One thing that the guided run asks for. */
export interface LayoutStep {
  /** What is learnt by it. */
  readonly control: string;
  /** What its user is asked to do. */
  readonly ask: string;
}

/** The steps of the guided run, in order: what a game needs most comes first. */
export const LAYOUT_STEPS: readonly LayoutStep[] = [
  { control: "PadLeftStickX", ask: "Move the left stick to the right" },
  { control: "PadLeftStickY", ask: "Move the left stick down" },
  { control: "PadSouth", ask: "Press the lowest of the four right-hand buttons" },
  { control: "PadEast", ask: "Press the rightmost of the four right-hand buttons" },
  { control: "PadWest", ask: "Press the leftmost of the four right-hand buttons" },
  { control: "PadNorth", ask: "Press the highest of the four right-hand buttons" },
  { control: "PadRightStickX", ask: "Move the right stick to the right" },
  { control: "PadRightStickY", ask: "Move the right stick down" },
  { control: "PadLeftBumper", ask: "Press the upper left shoulder button" },
  { control: "PadRightBumper", ask: "Press the upper right shoulder button" },
  { control: "PadLeftTrigger", ask: "Press the lower left shoulder button" },
  { control: "PadRightTrigger", ask: "Press the lower right shoulder button" },
  { control: "PadCenterLeft", ask: "Press the left one of the middle buttons" },
  { control: "PadCenterRight", ask: "Press the right one of the middle buttons" },
  { control: "PadDpadUp", ask: "Press up on the direction pad" },
  { control: "PadDpadDown", ask: "Press down on the direction pad" },
  { control: "PadDpadLeft", ask: "Press left on the direction pad" },
  { control: "PadDpadRight", ask: "Press right on the direction pad" },
];

const KEY = "reacher pad layout ";
/** The longest id, since ids come from outside and some drivers' are very long. */
const LONGEST_ID = 200;
/** A stick that moved this far from where it was is the one meant; back within this it is at rest. */
const MOVED = 0.6;
const RESTED = 0.3;

/** The layouts that were learnt, by pad id. */
export class PadLayouts {
  private readonly known = new Map<string, PadLayout | undefined>();

  /** @param store where they are kept; without one they are forgotten with the page. */
  constructor(private readonly store?: LayoutStore) {}

  /** The layout of the pad with this id, where one was learnt. What the store holds and cannot be read is none. */
  find(id: string): PadLayout | undefined {
    mustBeText(id, "pad's id");
    const key = keyOf(id);
    if (!this.known.has(key)) this.known.set(key, this.read(key));
    return this.known.get(key);
  }

  /** Keeps a layout. False where the store refused it: then it lasts as long as the page. */
  keep(id: string, layout: PadLayout): boolean {
    mustBeText(id, "pad's id");
    const key = keyOf(id);
    this.known.set(key, layout);
    try {
      this.store?.setItem(key, JSON.stringify(layout));
      return this.store !== undefined;
    } catch {
      return false;
    }
  }

  /** Forgets a layout, so that the pad reports by number again. */
  forget(id: string): void {
    mustBeText(id, "pad's id");
    const key = keyOf(id);
    this.known.set(key, undefined);
    try {
      this.store?.removeItem(key);
    } catch {
      // A store that refuses has kept nothing either.
    }
  }

  private read(key: string): PadLayout | undefined {
    try {
      const text = this.store?.getItem(key);
      return text == null ? undefined : checkedLayout(JSON.parse(text));
    } catch {
      return undefined;
    }
  }
}

function keyOf(id: string): string {
  return KEY + id.slice(0, LONGEST_ID);
}

/** A layout from outside, with only what it may hold; `undefined` where it is none. */
function checkedLayout(raw: unknown): PadLayout | undefined {
  if (typeof raw !== "object" || raw === null) return undefined;
  const { buttons, axes } = raw as Record<string, unknown>;
  const layout = {
    buttons: own(buttons, PAD_BUTTONS, (value) => isNumber(value) || isWay(value)),
    axes: own(axes, PAD_AXES, isWay),
  };
  return layout as PadLayout;
}

function own(
  raw: unknown,
  names: readonly string[],
  fits: (value: unknown) => boolean,
): Record<string, unknown> {
  if (typeof raw !== "object" || raw === null) return {};
  const given = raw as Record<string, unknown>;
  return Object.fromEntries(
    names.flatMap((name) => (Object.hasOwn(given, name) && fits(given[name]) ? [[name, given[name]]] : [])),
  );
}

function isNumber(value: unknown): boolean {
  return Number.isInteger(value) && (value as number) >= 0 && (value as number) < 100;
}

function isWay(value: unknown): boolean {
  if (typeof value !== "object" || value === null) return false;
  const { axis, sign, rest = 0, hat = 0 } = value as Record<string, unknown>;
  const isShare = (one: unknown) => typeof one === "number" && Math.abs(one) <= 1;
  return isNumber(axis) && (sign === 1 || sign === -1) && isShare(rest) && rest !== sign && isShare(hat);
}

/** A guided run under way. */
export interface PadLesson {
  readonly id: string;
  /** What is asked for now; `undefined` once all is learnt. */
  readonly step: LayoutStep | undefined;
  /** How many steps are done, and how many there are. */
  readonly done: number;
  readonly of: number;
  /** True while the last thing learnt has still to be let go. */
  readonly waits: boolean;
  /** Looks at the pad; to be called once a frame. True where something was learnt. */
  look(pad: PadLike): boolean;
  /** Leaves this step out: the pad has no such thing. */
  skip(): void;
  /** Forgets the last thing learnt and asks for it again. */
  back(): void;
  /** What was learnt so far. */
  layout(): PadLayout;
}

/** Starts a guided run on a pad as it now rests. */
export function learnPad(pad: PadLike): PadLesson {
  mustBeObject(pad, "pad; give one of navigator.getGamepads()");
  mustBeList(pad.axes, "axes; give one of navigator.getGamepads()");
  mustBeList(pad.buttons, "buttons; give one of navigator.getGamepads()");
  return new Lesson(pad);
}

class Lesson implements PadLesson {
  readonly id: string;
  readonly of = LAYOUT_STEPS.length;
  done = 0;
  waits = false;
  private readonly learnt = new Map<string, number | AxisWay>();
  /** Where each axis and each button was when the step began: many axes do not rest at 0. */
  private readonly axes: number[];
  /** The axis that was learnt last, and where it was then: where it rests shows when it is let go. */
  private pressed: { readonly axis: number; readonly value: number } | undefined;
  private buttons: readonly number[];

  constructor(pad: PadLike) {
    this.id = pad.id ?? "";
    this.axes = [...pad.axes];
    this.buttons = pad.buttons.map(({ value }) => value);
  }

  get step(): LayoutStep | undefined {
    return LAYOUT_STEPS[this.done];
  }

  look(pad: PadLike): boolean {
    const { step } = this;
    if (this.waits) {
      this.letGo(pad);
      this.waits = !this.isAtRest(pad);
      return false;
    }
    if (step === undefined) return false;
    const found = this.moved(pad, step.control);
    if (found === undefined) return false;
    this.learnt.set(step.control, found);
    if (typeof found !== "number") this.pressed = { axis: found.axis, value: pad.axes[found.axis]! };
    this.done++;
    this.waits = true;
    return true;
  }

  /** What of the pad was moved; sticks are learnt on axes alone, buttons on either. */
  private moved(pad: PadLike, control: string): number | AxisWay | undefined {
    const isAxis = PAD_AXES.includes(control);
    if (!isAxis) {
      const button = pad.buttons.findIndex(({ value }, n) => value - (this.buttons[n] ?? 0) > 0.5);
      if (button >= 0) return this.isUsed(button) ? undefined : button;
    }
    const axis = pad.axes.findIndex((value, n) => this.isMoved(value, n));
    if (axis < 0 || (isAxis && this.isUsed(axis, true))) return undefined;
    const rest = this.axes[axis] ?? 0;
    const value = pad.axes[axis]!;
    if (isHat(rest)) return isAxis ? undefined : { axis, sign: 1, hat: value };
    return { axis, sign: value > rest ? 1 : -1, ...(!isAxis && rest < -MOVED && { rest: -1 }) };
  }

  private isMoved(value: number, n: number): boolean {
    const rest = this.axes[n] ?? 0;
    return isHat(rest) ? Math.abs(value) <= 1 : Math.abs(value - rest) > MOVED;
  }

  /**
   * Some axes report 0 until they are first moved, and rest at -1. One that goes from end to end during a press and release is
   * one of these: it is pressed at 1.
   */
  private letGo(pad: PadLike): void {
    const { pressed } = this;
    const control = LAYOUT_STEPS[this.done - 1]!.control;
    if (pressed === undefined || PAD_AXES.includes(control) || this.axes[pressed.axis] !== 0) return;
    const value = pad.axes[pressed.axis] ?? 0;
    const isThere = Math.abs(pressed.value) > MOVED && Math.abs(value) > MOVED && pressed.value * value < 0;
    if (!isThere) return;
    this.axes[pressed.axis] = -1;
    this.learnt.set(control, { axis: pressed.axis, sign: 1, rest: -1 });
  }

  private isUsed(number: number, axis = false): boolean {
    return [...this.learnt.values()].some((one) =>
      typeof one === "number" ? !axis && one === number : axis && one.axis === number,
    );
  }

  private isAtRest(pad: PadLike): boolean {
    return (
      pad.axes.every((value, n) => Math.abs(value - (this.axes[n] ?? 0)) < RESTED) &&
      pad.buttons.every(({ value }, n) => value - (this.buttons[n] ?? 0) < RESTED)
    );
  }

  skip(): void {
    if (this.step !== undefined) this.done++;
  }

  back(): void {
    if (this.done === 0) return;
    this.done--;
    this.learnt.delete(LAYOUT_STEPS[this.done]!.control);
  }

  layout(): PadLayout {
    const pick = (names: readonly string[]) =>
      Object.fromEntries(
        names.flatMap((name) => (this.learnt.has(name) ? [[name, this.learnt.get(name)!]] : [])),
      );
    return { buttons: pick(PAD_BUTTONS), axes: pick(PAD_AXES) as Record<string, AxisWay> };
  }
}
