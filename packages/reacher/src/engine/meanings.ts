/** What numbers in events, commands and calls mean, for rules and layers alike. */

/** How many reasons may drive one action at once. */
export const MOST_DRIVES = 4;

/** How a drive meets the hands: the longer one counts, both are added, or the hands do not count. */
export const enum Way {
  Longest,
  Add,
  Alone,
}

/** Layout of the cell of a movement's drive: a reason's number plus 1, and its way. */
export const enum DriveCell {
  ReasonMask = 63,
  Way = 6,
}

/** What the game sets a flag to: false with lingering, true, or false at once. */
export const FALSE = 0;
export const TRUE = 1;
export const FALSE_AT_ONCE = 2;

/** What is lost, in place of a pad's index: everything but what keeps without the focus. */
export const FOCUS_LOST = -1;

/** A plan without seats takes up to this many pads at once. */
export const PADS_TOGETHER = 4;
