/** What counts where a plan does not say it. The reader fills these in, and tools show them. */

/** Of a gesture, in ms. A short press may last as long as the long one on its control, if there is one. */
export const GAP_MS = 250;
export const LONG_MS = 400;
export const SHORT_MS = 250;
export const FLICK_MS = 80;

/** The parts of the travel that count as rest and as full tilt, by kind of control. */
export const ZONES = { trigger: { inner: 0.05, outer: 0.02 }, stick: { inner: 0.12, outer: 0.04 } };

/** A ramp for what keys give, in ms. */
export const EASE = { riseMs: 90, fallMs: 60 };
/** How long a movement goes on before a diagonal facing gives way, in ms; the length from which a stick turns the facing. */
export const SETTLE_MS = 60;
export const FACING_FROM = 0.25;
/** How far below its beginning a gait is kept: a length, or of a speed this part of where it begins. */
export const GAIT_MARGIN = 0.04;

/** From which distance on the pointer counts in full, in halves of the area's shorter side. */
export const FULL_FROM = 0.25;
