/** Changes of which the game, a recorder or an explanation is told when the event at hand is done. */

export const enum Notice {
  /** A switch, an axis or a vector is other than before. */
  Changed,
  /** A turn was moved by the mouse, or its rate is another. */
  Turned,
  On,
  Off,
  Pulse,
  /** A switch that keeps presses has begun. */
  Grant,
}

/** Whoever is told. */
export type Audience = (action: string, notice: Notice) => void;

/** In order; kept by name, which other tables leave as they are. */
export class Notices {
  private readonly actions: string[] = [];
  private readonly kinds: Notice[] = [];
  count = 0;
  private next = 0;

  add(action: string, notice: Notice): void {
    this.actions[this.count] = action;
    this.kinds[this.count++] = notice;
  }

  /** Tells all, those that come up meanwhile too. */
  deliver(tell: Audience): void {
    while (this.next < this.count) {
      const n = this.next++;
      tell(this.actions[n]!, this.kinds[n]!);
    }
    this.clear();
  }

  clear(): void {
    this.count = this.next = 0;
  }
}
