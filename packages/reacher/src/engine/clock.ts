/** What all seats of a layer share while it is carried on: a seat that sleeps costs a step nothing. Floats of one array. */
export const enum Clock {
  /** The last step's time; within a step, the moment at hand. */
  Now,
  /** The number of the step. */
  Step,
  /** Where the step before ended. */
  Before,
  /** Where the step at hand goes. */
  Until,
  /** From where seats are carried there: where the step before ended, or the one before those that a callback broke off. */
  From,
  /** The first moment at which any seat has something to do: until then a step is one comparison. */
  Wake,
  Size,
}
