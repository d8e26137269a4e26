/** A simulated network line between two machines. In: messages. Out: the same, later, in another order, or never. May change: the messages in transit. */

export interface LineSettings {
  /** The minimum latency, in ms. */
  delayMs: number;
  /** The maximum random delay on top, in ms. */
  jitterMs: number;
  /** The share of messages that are lost, 0..1. */
  loss: number;
}

export class Line<Message> {
  lost = 0;
  private readonly underWay: { readonly at: number; readonly message: Message }[] = [];

  constructor(
    readonly settings: LineSettings,
    /** A random number from 0 up to 1. */
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
