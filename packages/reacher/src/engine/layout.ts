/**
 * Where everything stands in a seat's state: offsets from the beginning of a switch, of a mover, of a stick. All of them are
 * constants that the compiler writes into the code.
 *
 * Floats and ints are two views of one buffer: first the head, then what each thing of the plan has, its ints beside its
 * floats. So a step finds what it needs in few places of the memory.
 */

/** How many of one there is room for in another. */
export const enum Room {
  IntsInFloat = 2,
  BytesInInt = 4,
}

/** What all seats of a layer share while it is carried on, floats: a seat that sleeps costs a step nothing. */
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

/** The head of a seat's state, floats: the clock, which stands in it in snapshots alone. */
export const enum Head {
  Now,
  Step,
  Before,
  End,
}

/** The head of a seat's state, ints: they follow its floats. */
export const enum HeadInt {
  /** Identifies the plan. */
  Print = Head.End * Room.IntsInFloat,
  Started,
  /** How many presses of directions there were; their order decides between opposite ones. */
  Presses,
  LastDevice,
  /** How many deadlines are set. */
  Running,
  /** How many modes are on. */
  Modes,
  End,
}

/** State of a switch, ints. One that is only held has the plain ones alone. */
export const enum SwitchInt {
  /** How many of its controls are down. */
  Down,
  /** The signal as last looked at. */
  Up,
  /** 1 where what is held counts no more until it is pressed again. */
  Spent,
  /** On, as readings and callbacks have it. */
  Told,
  /** How often it turned on in the step in which it last did. */
  Presses,
  /** The signal that raised it last, or -1. */
  By,
  Plain,
  /** The style's own state, a `Latch`. */
  Latch = Plain,
  /** 1 while a press is kept for `take`. */
  Kept,
  /** How many pulses there were in the step of the last one. */
  Pulses,
  Size,
}

/** State of a switch, floats. */
export const enum SwitchFloat {
  /** When it turned on. */
  OnAt,
  /** The numbers of the steps in which it last turned on and off. */
  OnStep,
  OffStep,
  Plain,
  /** When its signal rose. */
  RoseAt = Plain,
  PulseStep,
  KeptUntil,
  Size,
}

/** State of a mover, floats. One whose keys count at once, and whose pace too, has the plain ones alone. */
export const enum MoverFloat {
  X,
  Y,
  Length,
  /** The way a stick has turned it to, of any length above 0. */
  FaceX,
  FaceY,
  PaceTo,
  Plain,
  /** From where the pace moves there, and since when. */
  PaceFrom = Plain,
  PaceAt,
  /** What the keys alone give. */
  KeysX,
  KeysY,
  KeysLength,
  /** What its sticks together give. */
  StickX,
  StickY,
  StickLength,
  /** The ramp of the keys: from where to where, and since when. */
  FromX,
  FromY,
  ToX,
  ToY,
  EaseAt,
  Size,
}

/** State of a turn, floats. */
export const enum TurnFloat {
  /** The whole amount turned since the start, up to the last change. */
  TotalX,
  TotalY,
  /** What its sticks add in a ms, since that change. */
  RateX,
  RateY,
  /** The whole amount when the step of the last change began, and the number of that step. */
  SavedX,
  SavedY,
  SavedStep,
  /** When it last changed. */
  At,
  Size,
}

/** State of a mover, ints. Those by end take four. */
export const enum MoverInt {
  /** How many keys are down: eight bits for each end. */
  Keys = 0,
  /** By end: the number of the newest press, and of the first of those held. */
  Newest = 1,
  First = 5,
  /** Who gives the movement: 0 the keys, n + 1 its stick n, -1 nobody. */
  Winner = 9,
  /** The facing as one of the eight directions, or -1; the one that it is about to settle on, or -1. */
  Face,
  Settling,
  /** The gait, or -1. */
  Gait,
  /** The device of the newest key. */
  KeyDevice,
  /** How many sources are down, sticks included: eight bits for each end. Gestures look at these. */
  Sources,
  /** How many sticks are away from rest, and which it is where it is one. */
  SticksAway,
  StickAway,
  Size,
}

/** Shaped values of a stick, floats. */
export const enum StickFloat {
  X,
  Y,
  Length,
  Size,
}

/** State of a stick, ints. */
export const enum StickInt {
  /** The direction it is held to, or -1. */
  Sector,
  /** 1 while a mode above hides it. */
  Hidden,
  /** The ends that it is tilted to beyond the press threshold, one bit each. */
  Ends,
  Size,
}

/** State of a signal, ints. */
export const enum SignalInt {
  Up,
  /** 1 where a long press has fired on the press at hand. */
  LongFired,
  Size,
}

/** State of an end of a mover, ints. */
export const enum EndInt {
  Down,
  Hidden,
  Size,
}

/** State of a plain entry, ints. One that waits for nobody has the plain ones alone. */
export const enum EntryInt {
  /** 1 while its press was seen and lasts. */
  Down,
  /** 1 while a mode above hides its control. */
  Hidden,
  Plain,
  /** How many presses wait for gestures to claim them, and whether the last of these lasts. */
  Pending = Plain,
  PendingDown,
  Size,
}

/** State of a gesture, ints. */
export const enum GestureInt {
  /** 1 from its firing to its release. */
  Up,
  /** Presses counted; members down, one bit each; 1 while a press may still become long or short. */
  Count,
  Hidden,
  Size,
}

/** State of a gesture, floats: its last press. */
export const enum GestureFloat {
  LastAt,
  Size,
}
