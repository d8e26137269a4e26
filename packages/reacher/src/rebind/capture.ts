/**
 * Waits for the control that a player wants at an address. In: raw events, before any seat. Out: one control, or why there
 * is none. May change: the layer's interceptor, and so what the game hears.
 *
 * Only a press that begins while it listens counts, and it ends when that press is released: neither the click that
 * opened it nor the release of the caught key triggers anything else.
 */
import { mustBeLayer, mustBeObject } from "../plan/arguments.js";
import type { Control } from "../controls/catalogue.js";
import { controlsOf, type Controls } from "../controls/ownControls.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Held, InputLayer, Interceptor, RawEvent } from "../layer/types.js";
import type { Kinds } from "../plan/types.js";
import { misfitAt, acceptedAt } from "./acceptance.js";

/** The value from which a button is pressed and a stick is away from rest; below `LET_GO` they are not. */
const PRESSED = 0.5;
const LET_GO = 0.4;
/** A stick was clearly moved if it is beyond this, and came from rest or moved by this much. */
const MOVED = 0.6;
const WAY = 0.3;
const TIMEOUT_MS = 10_000;
/** The default controls that cancel, one on each device that has a suitable one. */
export const CANCEL_WITH: readonly string[] = ["Escape", "PadCenterLeft"];

/** The options of a capture. */
export interface CaptureOptions {
  /** The address of the new control: `kick.main`, `swim.pad.up`. It decides which controls are accepted. */
  readonly address: string;
  /** Whose devices are listened to. @default the first seat */
  readonly seat?: string;
  /** Accepts fewer controls than the address does. @default all that fit */
  readonly accept?: (control: Control) => boolean;
  /** Controls that give up, and so cannot be caught. @default Escape, PadCenterLeft */
  readonly cancelWith?: readonly string[];
  /** How long it waits, in ms of the layer's time; Infinity waits for ever. @default 10000 */
  readonly timeoutMs?: number;
  /** Called whenever the state has changed. */
  readonly onProgress?: (progress: CaptureProgress) => void;
}

/** What to show while it waits. */
export interface CaptureProgress {
  /** `letGo`: something is still down from before; `listening`: for a press; `caught`: until that is let go; `over`. */
  readonly state: "letGo" | "listening" | "caught" | "over";
  /** What has to be let go. */
  readonly letGo: readonly string[];
  /** What has been caught. */
  readonly control: string | undefined;
  /** The last press that is not accepted here, with the reason. */
  readonly refused: { readonly control: string; readonly why: string } | undefined;
}

/** How it ended. `replaced`: another capture was opened. */
export type Captured =
  | { readonly control: string }
  | { readonly control: null; readonly why: "cancelled" | "timeout" | "lost" | "replaced" };

/** A running capture. */
export interface Capture {
  readonly progress: CaptureProgress;
  /** The time left, in ms. */
  readonly leftMs: number;
  /** Resolves once, when it is over. It never rejects. */
  readonly done: Promise<Captured>;
  /** Cancels it. */
  cancel(): void;
}

/**
 * Waits for a control. A layer has one capture at a time: a second one ends the first. Meanwhile no action of the
 * game hears keyboard, mouse or the seat's pad; other players' pads play on.
 * @throws ReacherError if the plan has no such address, or no such seat
 */
export function capture<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  options: CaptureOptions,
): Capture {
  mustBeLayer(input);
  mustBeObject(options, "object of options; an address is the least");

  return new Listening(input as unknown as InputLayer, options);
}

class Listening implements Capture, Interceptor {
  progress: CaptureProgress;
  readonly done: Promise<Captured>;
  private resolve!: (captured: Captured) => void;
  private readonly end: () => void;
  private readonly seat: string;
  private readonly cancelWith: readonly string[];
  private readonly timeoutMs: number;
  private began: number | undefined;
  private now = 0;
  /** Values away from rest, by pad and control; and those of them that were so from the start. */
  private readonly values = new Map<string, Held>();
  private readonly old = new Set<string>();
  /** The sticks' values when it began, so that a drifting stick does not count as moved. */
  private readonly rests = new Map<string, number>();
  /** The raw controls that have to be released before the caught one counts. */
  private caught:
    { readonly control: string; readonly parts: readonly string[]; readonly pad: number } | undefined;

  constructor(
    private readonly input: InputLayer,
    private readonly options: CaptureOptions,
  ) {
    acceptedAt(input.plan, options.address);
    this.seat = options.seat ?? input.seats[0]!;
    this.cancelWith = options.cancelWith ?? CANCEL_WITH;
    this.timeoutMs = options.timeoutMs ?? TIMEOUT_MS;
    this.done = new Promise((resolve) => (this.resolve = resolve));
    for (const held of input.held()) {
      if (this.isOthers(held.control, held.pad)) continue;
      const key = keyOf(held);
      this.values.set(key, held);
      this.rests.set(key, held.value);
      if (Math.abs(held.value) >= PRESSED) this.old.add(key);
    }
    this.progress = this.shown(undefined);
    this.end = input.intercept(this.seat, this);
  }

  private get controls(): Controls {
    return controlsOf(resolvePlan(this.input.plan));
  }

  get leftMs(): number {
    if (this.progress.state === "over") return 0;
    return this.began === undefined ? this.timeoutMs : Math.max(0, this.began + this.timeoutMs - this.now);
  }

  cancel(): void {
    this.finish({ control: null, why: "cancelled" });
  }

  feed(event: Required<RawEvent>): boolean {
    const { control, pad, value, t } = event;
    if (this.isOthers(control, pad)) return false;
    this.passed(t);
    if (this.progress.state === "over") return false;
    const key = keyOf(event);
    const before = this.values.get(key)?.value ?? 0;
    if (value === 0) this.values.delete(key);
    else this.values.set(key, event);
    const wasOld = this.old.has(key);
    if (wasOld && Math.abs(value) < LET_GO) {
      this.old.delete(key);
      this.show(this.progress.refused);
      return false;
    }
    if (wasOld) return true;
    if (this.caught !== undefined) this.lookForRelease();
    else this.lookAtPress(event, before);
    return true;
  }

  passed(t: number): void {
    if (!(t - t === 0)) return;
    this.began ??= t;
    this.now = Math.max(this.now, t);
    if (this.caught === undefined && t - this.began > this.timeoutMs)
      this.finish({ control: null, why: "timeout" });
  }

  lost(what: string, pad: number): void {
    if (what === "pad" && this.isOthers("Pad", pad)) return;
    this.finish({ control: null, why: "lost" });
  }

  replaced(): void {
    this.finish({ control: null, why: "replaced" });
  }

  /** Another player's pad. */
  private isOthers(control: string, pad: number): boolean {
    if (!control.startsWith("Pad") || this.input.seats.length === 1) return false;
    return this.input.seats.some((name) => name !== this.seat && this.input.seat(name).pad === pad);
  }

  private lookAtPress(event: Required<RawEvent>, before: number): void {
    const { control, pad, value } = event;
    const { controls } = this;
    const raw = controls.find(control)!;
    if (raw.family === "motion" || raw.family === "pointer") return;
    const isAxis = raw.family === "axis";
    const size = Math.abs(value);
    if (isAxis) {
      const from = this.rests.get(keyOf(event)) ?? 0;
      if (size < MOVED || Math.abs(value - from) < WAY) return;
    } else if (size < PRESSED || Math.abs(before) >= PRESSED) return;
    const names = isAxis ? namesOfAxis(controls, control, value) : namesOfButton(control);
    if (names.some((name) => this.cancelWith.includes(name))) {
      this.cancel();
      return;
    }
    if (this.old.size > 0) return;
    const { address, accept } = this.options;
    let why: string | undefined;
    for (const name of names) {
      const misfit = misfitAt(this.input.plan, address, name);
      const fits = misfit === undefined && (accept === undefined || accept(controls.find(name)!));
      if (fits) {
        this.caught = { control: name, parts: controls.find(name)!.parts, pad };
        this.show(undefined);
        return;
      }
      why ??= misfit ?? "it is not taken here";
    }
    this.show({ control: names[0]!, why: why! });
  }

  private lookForRelease(): void {
    const { control, parts, pad } = this.caught!;
    const isDown = parts.some(
      (part) => Math.abs(this.values.get(keyOf({ control: part, pad }))?.value ?? 0) >= LET_GO,
    );
    if (!isDown) this.finish({ control });
  }

  private shown(refused: CaptureProgress["refused"]): CaptureProgress {
    const letGo = [...this.old].map((key) => key.split(" ")[0]!);
    const state = this.caught !== undefined ? "caught" : letGo.length > 0 ? "letGo" : "listening";
    return { state, letGo, control: this.caught?.control, refused };
  }

  private show(refused: CaptureProgress["refused"]): void {
    this.progress = this.shown(refused);
    this.options.onProgress?.(this.progress);
  }

  private finish(captured: Captured): void {
    if (this.progress.state === "over") return;
    this.progress = { ...this.progress, state: "over" };
    this.end();
    this.options.onProgress?.(this.progress);
    this.resolve(captured);
  }
}

function keyOf({ control, pad }: { readonly control: string; readonly pad: number }): string {
  return `${control} ${pad}`;
}

/** The controls that a moved axis can mean: its side, the stick, itself. */
function namesOfAxis(controls: Controls, control: string, value: number): string[] {
  const own = controls.ownOf(control);
  const stick =
    /^(Pad(?:Left|Right)Stick)([XY])$/.exec(control) ??
    (own?.kind === "stick" ? /^(.*)([XY])$/.exec(control) : null);
  if (stick === null) return [control];
  const [, name, way] = stick;
  const side = way === "X" ? (value > 0 ? "Right" : "Left") : value > 0 ? "Down" : "Up";
  return [`${name}${side}`, name!, control];
}

/** The controls that a pressed button can mean: itself, and the direction pad that it is a part of, or two sides of that. */
function namesOfButton(control: string): string[] {
  const way = /^PadDpad(Up|Down|Left|Right)$/.exec(control)?.[1];
  if (way === undefined) return [control];
  return [control, way === "Up" || way === "Down" ? "PadDpadY" : "PadDpadX", "PadDpad"];
}
