/** Ranges of a plan's numbers that suit most hands and devices. `checkPlan` warns outside of them; sliders draw the same. */

/** The largest number that a plan or a game may name: an amount of any unit, and products of several stay finite. */
export const MOST_NUMBER = 1e9;

/** How far from the middle a spot may be: many times the screen, in halves of its shorter side. */
export const FURTHEST_SPOT = 64;

/** A range of a number that suits most, in the number's own unit. */
export interface SaneRange {
  readonly least: number;
  readonly most: number;
}

/** Few people tap twice within less; within more, plain movement looks like a double tap. In ms. */
export const SANE_TAP_GAP: SaneRange = { least: 160, most: 400 };

/** Sticks at rest drift by about the least; a zone of more than half of the travel makes a stick dull. A share of the travel. */
export const SANE_DEAD_ZONE: SaneRange = { least: 0.03, most: 0.5 };
