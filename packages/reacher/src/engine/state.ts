/** A seat's state as its rules see it: cells to read and to write, and marks for what has to be looked at again. Rules never see the loop. */

/** What makes the change at hand. */
export const enum Cause {
  /** A device, or time. */
  Hands,
  /** A device is lost: a cancellation, no release. */
  Lost,
  Mode,
  Mute,
  Reset,
  /** The game sets a switch. */
  Game,
  /** Other keys, other slots. */
  Bindings,
}

export interface SeatState {
  /** The cells: floats, ints and bytes of one buffer. Other tables or a restore replace them: never keep one over a callback. */
  readonly f: Float64Array;
  readonly i: Int32Array;
  readonly b: Uint8Array;
  /** The layer's clock, by `Clock`. */
  readonly clock: Float64Array;
  /** Events that wait, by `Slot`: the value at hand stands there. */
  readonly slots: Float64Array;
  /** Of the event at hand. */
  readonly cause: Cause;

  /** A stick, a movement, a turn or a pace has to be worked out. */
  markStick(id: number): void;
  markMovement(id: number): void;
  markTurn(id: number): void;
  markPace(id: number): void;
  /** A switch has to be looked at; those that others need have the lower rank. */
  markSwitch(rank: number): void;
  /** A switch has turned on or off: the game is told when the event is done. */
  markChanged(id: number): void;
  /** An axis or a vector moves otherwise. */
  noteMoved(id: number): void;
  /** A turn's amount or rate has changed. */
  noteTurned(action: string): void;
  /** Whether a pulse of a step of this many ms, of which so many were told, is told as well: a long step leaves most of them out. */
  tellsPulse(told: number): boolean;
  /** A switch has given a pulse while it is on. */
  notePulse(action: string): void;
  /** A signal was pressed (1) or released (0): who listens is told when all of the event's signals have changed. */
  noteSignal(signal: number, isPress: number): void;
  /** A switch has presses that rise and fall at this moment. */
  noteBlip(rank: number): void;
  /** A gesture can claim nothing any more: what waits for it is looked at in this event. */
  reviewWaiting(): void;
}
