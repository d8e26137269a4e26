/** What an explanation says. Types alone. */

/** Why an action turned on, turned off, or did neither, at one moment. */
export interface Reason {
  /** The moment, in ms. */
  readonly at: number;
  readonly action: string;
  /** `counts`: a press that is part of something. `nothing`: a press that did nothing. */
  readonly outcome: "on" | "off" | "counts" | "nothing";
  /** The rule that decided: `needs`, `muted`, `covered`, `too-late` ... */
  readonly rule: string;
  /** One sentence without its full stop. */
  readonly text: string;
}
