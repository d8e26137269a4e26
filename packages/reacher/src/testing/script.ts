/**
 * Plays presses, tilts and waits into a layer, in a few readable lines and without a browser.
 *
 *     const hands = play(createInputLayer(plan));
 *     hands.press("KeyW").wait(100);
 *     expect(hands.now.swim.y).toBe(1);
 */
import { isRaw } from "../controls/catalogue.js";
import { controlsOf, type Controls } from "../controls/ownControls.js";
import { resolvePlan } from "../plan/resolve.js";
import { didYouMeanControl } from "../controls/meant.js";
import type { InputLayer, NamesOf } from "../layer/types.js";
import type { Reading } from "../engine/readings.js";
import { mustBeLayer, mustBeNumber, mustBeOptions } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import type { Kinds } from "../plan/types.js";

/** How a script plays. */
export interface PlayOptions {
  /** How often the layer is stepped while the script waits, in steps a second. @default 60 */
  readonly hz?: number;
}

/** A pair of hands. Every call returns them, so that a script reads as one line. */
export interface Hands<K extends Kinds> {
  /** The layer's reading at this moment. Reading it changes nothing: what turned on is so until the script goes on. */
  readonly now: Reading<K>;
  /** The script's time, in ms from 0. */
  readonly t: number;
  /** How often a switch has turned on since the script began. @throws ReacherError for an unknown switch */
  count(action: NamesOf<K, "switch">): number;
  /** Holds these controls, in this order, at this moment, and steps the layer there. @throws ReacherError for a name that is no key or button */
  press(...controls: string[]): this;
  /** Lets these controls go, in this order, at this moment, and steps the layer there. */
  release(...controls: string[]): this;
  /** Presses a control, waits, and lets it go. @param ms how long it is held, 40 by default */
  tap(control: string, ms?: number): this;
  /** Tilts a stick as a hand does, or puts the pointer (`MousePoint`) there: x to the right, y up, each -1..1; and steps the layer there. */
  tilt(stick: string, x: number, y: number): this;
  /** Pulls a trigger, 0..1, or moves one raw axis, -1..1; and steps the layer there. */
  pull(control: string, value: number): this;
  /** Lets `ms` milliseconds pass, stepping the layer on the way; what is pressed at the end still counts for windows that end there. */
  wait(ms: number): this;
  /** Steps the layer at this moment, without waiting. */
  step(): this;
  /** The window loses focus at this moment, and the layer is stepped there. */
  loseFocus(): this;
}

/** Gives a layer a pair of hands. The layer should be new: the script's time begins at 0. */
export function play<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  options: PlayOptions = {},
): Hands<K> {
  mustBeLayer(input);
  mustBeOptions(options);
  const { hz = 60 } = options;
  if (!(hz > 0 && hz < Infinity))
    throw new ReacherError(`${shown(hz)} is no rate; give steps per second, above 0`);
  return new ScriptedHands(input, hz);
}

class ScriptedHands<K extends Kinds, F extends string> implements Hands<K> {
  t = 0;
  private ticks = 0;
  /** Where the layer was stepped to last. */
  private reached = 0;
  private readonly counts = new Map<string, number>();

  constructor(
    private readonly input: InputLayer<K, F>,
    private readonly hz: number,
  ) {
    input.watch({
      changed: (_, action, seat) => {
        if (seat !== input.name) return;
        const reading = input.now[action] as { readonly on?: boolean };
        if (reading.on === true) this.counts.set(action, (this.counts.get(action) ?? 0) + 1);
      },
    });
    this.input.step(0);
  }

  get now(): Reading<K> {
    if (this.reached !== this.t) this.step();
    return this.input.now;
  }

  count(action: string): number {
    const kind = this.input.plan.actions[action]?.kind as string | undefined;
    if (kind !== "switch")
      throw new ReacherError(
        `${typeof action === "string" ? action : shown(action)} is ${kind === undefined ? "no action of the plan" : `of kind ${kind}`}; a switch turns on`,
      );
    return this.counts.get(action) ?? 0;
  }

  press(...controls: string[]): this {
    for (const control of controls) this.feed(control, 1);
    return this.step();
  }

  release(...controls: string[]): this {
    for (const control of controls) this.feed(control, 0);
    return this.step();
  }

  tap(control: string, ms = 40): this {
    mustBeNumber(ms, "time to hold, in ms");
    return this.press(control).wait(ms).release(control);
  }

  tilt(stick: string, x: number, y: number): this {
    const control = this.controls.find(stick);
    if (control?.family !== "stick" && stick !== "MousePoint")
      throw new ReacherError(`${shown(stick)} is no stick; take PadLeftStick or PadRightStick`);
    const [partX, partY] = control!.parts;
    mustBeNumber(x, "tilt");
    mustBeNumber(y, "tilt");
    this.feed(partX!, x);
    // Raw pads report down as +1 (W3C Gamepad, section 7).
    this.feed(partY!, 0 - y);
    return this.step();
  }

  pull(control: string, value: number): this {
    this.feed(control, value);
    return this.step();
  }

  wait(ms: number): this {
    if (typeof ms !== "number" || !(ms >= 0 && ms < Infinity))
      throw new ReacherError(`${shown(ms)} is not a time to wait; give milliseconds, from 0`);
    const end = this.t + ms;
    for (;;) {
      const next = ((this.ticks + 1) * 1000) / this.hz;
      if (next >= end) break;
      this.ticks++;
      this.stepTo(next);
    }
    this.t = end;
    return this;
  }

  step(): this {
    this.stepTo(this.t);
    return this;
  }

  loseFocus(): this {
    this.input.lose("focus", this.t);
    return this.step();
  }

  private get controls(): Controls {
    return controlsOf(resolvePlan(this.input.plan));
  }

  private stepTo(t: number): void {
    this.reached = t;
    this.input.step(t);
  }

  private feed(control: string, value: number): void {
    const known = this.controls.find(control);
    if (known === undefined || !isRaw(known)) {
      const fault =
        typeof control === "number"
          ? "is no control; a trigger is pulled, and an axis moved, by pull(control, value)"
          : known === undefined
            ? "is no control"
            : `is read off ${known.parts.join(" and ")}; move these`;
      throw new ReacherError(
        `${typeof control === "string" ? control : shown(control)} ${fault}${known === undefined && typeof control === "string" ? didYouMeanControl(control) : ""}`,
      );
    }
    mustBeNumber(value, "value of a control");
    this.input.feed({ t: this.t, control, value });
  }
}
