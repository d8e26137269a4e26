/** Where a number of a plan suits most hands and devices. `checkPlan` warns outside; a slider draws the same. */

export interface SaneRange {
  readonly least: number;
  readonly most: number;
}

/** Few hands tap twice in less; in more, plain movement does. In ms. */
export const SANE_TAP_GAP: SaneRange = { least: 160, most: 400 };

/** Sticks at rest wander by about the least; more than half of the travel cut makes a stick dull. A share of the travel. */
export const SANE_DEAD_ZONE: SaneRange = { least: 0.03, most: 0.5 };
