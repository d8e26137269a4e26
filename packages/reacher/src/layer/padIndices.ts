/** The places of pads in a plan without seats, which takes any pad and combines them. */
import { EventField } from "../engine/queue.js";

/**
 * Which pad has which place. A lost pad keeps its place until another needs it: when it comes back, or when a snapshot from
 * before is restored, it has its place again.
 */
export class PadIndices {
  private readonly pads: Int32Array;
  private readonly lost: Uint8Array;
  /** When the pad at each place first did something: before that it cannot be lost. */
  private readonly since: Float64Array;
  /** The pad looked up last, or -1; nearly always the one that is looked up next. */
  private recent = -1;
  private recentPlace = 0;

  /** `scratchEvent` holds the stamp of the event being fed. */
  constructor(
    padCount: number,
    private readonly scratchEvent: Float64Array,
  ) {
    this.since = new Float64Array(padCount);
    this.pads = new Int32Array(padCount).fill(-1);
    this.lost = new Uint8Array(padCount).fill(1);
  }

  /** The place of this pad; if it has none, an unused one, then a lost pad's; -1 if all are taken. */
  indexOf(pad: number): number {
    if (!(pad >= 0)) return -1;
    if (pad === this.recent) return this.recentPlace;
    const padIndex = this.find(pad);
    this.recent = padIndex < 0 ? -1 : pad;
    return (this.recentPlace = padIndex);
  }

  private find(pad: number): number {
    const { pads, lost } = this;
    for (let n = 0; n < pads.length; n++) {
      if (pads[n] === pad) {
        lost[n] = 0;
        return n;
      }
    }
    if (!Number.isInteger(pad)) return -1;
    let padIndex = pads.indexOf(-1);
    if (padIndex < 0) padIndex = lost.indexOf(1);
    if (padIndex < 0) return -1;
    pads[padIndex] = pad;
    lost[padIndex] = 0;
    this.since[padIndex] = this.scratchEvent[EventField.T]!;
    return padIndex;
  }

  /** The pads that have a place, in the order of these. */
  all(): number[] {
    return [...this.pads].filter((pad) => pad >= 0);
  }

  padAt(padIndex: number): number {
    return this.pads[padIndex]!;
  }

  /** Frees the place of the pad lost at this moment and returns it; -1 if it had none by then. */
  free(pad: number, t: number): number {
    const padIndex = this.pads.indexOf(pad);
    if (padIndex < 0 || this.since[padIndex]! > t) return -1;
    this.lost[padIndex] = 1;
    this.recent = -1;
    return padIndex;
  }
}
