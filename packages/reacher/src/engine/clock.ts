/** The clock that all seats of a layer share, as floats of one array. A sleeping seat costs a step nothing. */
export const enum Clock {
  /** The last step's time; within a step, the moment being handled. */
  Now,
  /** The number of the step. */
  Step,
  /** When the previous step ended. */
  Before,
  /** When the current step ends. */
  Until,
  /** Until when the running seat is advanced: the end of the step, or the moment that all seats have reached. */
  Limit,
  /** When seats start from: the end of the previous step. */
  From,
  /** The first moment at which any seat has work: until then a step is one comparison. */
  Wake,
  Size,
}
