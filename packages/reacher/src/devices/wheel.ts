/**
 * The wheel (W3C UI Events, section 3.5): how many clicks an event is. In: wheel events of whichever browser. Out: whole clicks, up or
 * down. May change: the part of a click that has been turned, and when.
 */

/** What the browsers tell of a wheel beside the standard: 120 a click in all of them. */
export type WheelLike = Pick<WheelEvent, "deltaX" | "deltaY" | "deltaMode" | "shiftKey"> & {
  readonly wheelDeltaX?: number;
  readonly wheelDeltaY?: number;
};

const CLICK_UNITS = 120;
/** A click in pixels, in lines and in pages, where a browser tells nothing better. */
const CLICK: readonly number[] = [100, 3, 1];
/** A part of a click is forgotten after this, in ms. */
const REMAINDER_MS = 250;
/** What scrolls smoothly, as a trackpad does, gives no more than one press in this time, in ms: a flick is not a dozen. */
const SMOOTH_MS = 120;

export class Wheel {
  private turned = 0;
  private at = -Infinity;
  private told = -Infinity;

  /** Whole clicks of an event, downwards positive; 0 for a part of one. `undefined`: it scrolls sideways, and is none of the wheel's. */
  clicks(event: WheelLike, t: number): number | undefined {
    const way = scrollOf(event);
    if (way === 0) return undefined;
    if (t - this.at > REMAINDER_MS || this.turned * way < 0) this.turned = 0;
    this.at = t;
    this.turned += way;
    const whole = Math.trunc(this.turned + Math.sign(way) * 1e-9);
    if (whole === 0) return 0;
    this.turned -= whole;
    if (Math.abs(way) >= 1) return whole;
    if (t - this.told < SMOOTH_MS) return 0;
    this.told = t;
    return Math.sign(whole);
  }

  forget(): void {
    this.turned = 0;
  }
}

/** How far it turned, in clicks. With Shift one engine turns it sideways. */
function scrollOf({
  deltaX,
  deltaY,
  deltaMode,
  shiftKey,
  wheelDeltaX = 0,
  wheelDeltaY = 0,
}: WheelLike): number {
  const isTurned = deltaY === 0 && shiftKey;
  const units = isTurned ? wheelDeltaX : wheelDeltaY;
  const delta = isTurned ? deltaX : deltaY;
  if (delta === 0) return 0;
  return units !== 0 ? -units / CLICK_UNITS : delta / CLICK[deltaMode]!;
}
