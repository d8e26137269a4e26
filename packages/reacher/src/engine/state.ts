/** A seat's state as its rules see it: cells to read and write, and marks for what has to be evaluated again. Rules never see the loop. */

/** The cause of the current change. */
export const enum Cause {
  /** A device, or a timer. */
  Hands,
  /** A device is lost: a cancellation, not a release. */
  Lost,
  Mode,
  Mute,
  Reset,
  /** The game sets a switch. */
  Game,
  /** Keys or slots were changed. */
  Bindings,
}

export interface SeatState {
  /** The cells: floats, ints and bytes of one buffer. New tables or a restore replace them: never keep one across a callback. */
  readonly f: Float64Array;
  readonly i: Int32Array;
  readonly b: Uint8Array;
  /** The layer's clock, by `Clock`. */
  readonly clock: Float64Array;
  /** The floats of waiting events, by `Slot`: channels read their value there. */
  readonly slots: Float64Array;
  /** The cause of the current event. */
  readonly cause: Cause;

  /** A stick, a movement, a turn or a pace has to be updated. */
  markStick(id: number): void;
  markMovement(id: number): void;
  markTurn(id: number): void;
  markPace(id: number): void;
  /** A switch has to be evaluated; those that others need have the lower rank. */
  markSwitch(rank: number): void;
  /** A switch is to be evaluated again once what it did so far in this event is announced. */
  updateLater(rank: number): void;
  /** A switch has turned on or off: the game is notified when the event is done. */
  markChanged(id: number): void;
  /** An axis or a vector has changed. */
  noteMoved(id: number): void;
  /** A turn's amount or rate has changed. */
  noteTurned(action: string): void;
  /** Whether to announce one more pulse when `told` were announced in this step: a long step leaves most of them out. */
  reportsPulse(told: number): boolean;
  /** A switch has pulsed while it is on. */
  notePulse(action: string): void;
  /** A signal was pressed (1) or released (0): its listeners are notified when all of the event's signals have changed. */
  noteSignal(signal: number, isPress: number): void;
  /** A switch has a press that rises and falls at this moment. */
  noteBlip(rank: number): void;
  /** A gesture has given up a claim: entries that wait for it are reviewed in this event. */
  reviewWaiting(): void;
}
