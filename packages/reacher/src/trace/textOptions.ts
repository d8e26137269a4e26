/** What a recorder is asked to write. Types alone. */

/** What to write. */
export interface TraceTextOptions {
  /** Only the last so many ms. @default everything kept */
  readonly lastMs?: number;
  /** When the recording ends, in ms on the layer's clock. @default the layer's last step */
  readonly now?: number;
  /** A remark for the trace's first line. */
  readonly note?: string;
}
