/** Changes to announce to the game, recorders and explanations once the current event is done. */

export const enum Notice {
  /** A switch, an axis or a vector has changed. */
  Changed,
  /** A turn was moved by the mouse, or its rate has changed. */
  Turned,
  On,
  Off,
  Pulse,
  /** A switch that keeps presses has begun. */
  Grant,
}

/** Takes the errors of callbacks: the event is finished before the first is thrown on. */
export interface Errors {
  catch(error: unknown): void;
}

/** Receives the notices. */
export type Audience = (action: string, notice: Notice) => void;

/** In order; by action name, which survives a change of tables. */
export class Notices {
  private readonly actions: string[] = [];
  private readonly kinds: Notice[] = [];
  count = 0;
  private next = 0;

  add(action: string, notice: Notice): void {
    this.actions[this.count] = action;
    this.kinds[this.count++] = notice;
  }

  /** Delivers all notices, including those added meanwhile, and those after one whose callback throws. */
  deliver(tell: Audience, errors: Errors): void {
    while (this.next < this.count) {
      const n = this.next++;
      try {
        tell(this.actions[n]!, this.kinds[n]!);
      } catch (error) {
        errors.catch(error);
      }
    }
    this.clear();
  }

  clear(): void {
    this.count = this.next = 0;
  }
}
