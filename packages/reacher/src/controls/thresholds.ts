/** From where on an amount counts as a press. */

/** Analog controls count as pressed from here ... */
export const PRESS_FROM = 0.5;
/** ... and as released below here, so that a trembling trigger is one press. */
export const RELEASE_BELOW = 0.4;
