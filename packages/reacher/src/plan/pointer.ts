/** A reserved name. */

/** The pointer's own place among the spots, which no plan may name so. */
export const POINTER = "pointer";
