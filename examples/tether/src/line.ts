/** A line between two machines, as bad as it is set. In: messages. Out: the same, later, in another order, or never. May change: what is under way. */

export interface LineSettings {
  /** The least that a message takes, in ms. */
  delayMs: number;
  /** As much more, by chance, in ms. */
  jitterMs: number;
  /** The share that never arrives, 0..1. */
  loss: number;
}

export class Line<Message> {
  lost = 0;
  private readonly underWay: { readonly at: number; readonly message: Message }[] = [];

  constructor(
    readonly settings: LineSettings,
    /** 0 up to 1, by chance. */
    private readonly chance: () => number = Math.random,
  ) {}

  send(now: number, message: Message): void {
    const { delayMs, jitterMs, loss } = this.settings;
    if (this.chance() < loss) this.lost++;
    else this.underWay.push({ at: now + delayMs + this.chance() * jitterMs, message });
  }

  /** What has arrived by now. */
  take(now: number): Message[] {
    const arrived = this.underWay.filter(({ at }) => at <= now).sort((one, other) => one.at - other.at);
    for (const one of arrived) this.underWay.splice(this.underWay.indexOf(one), 1);
    return arrived.map(({ message }) => message);
  }
}
