/**
 * Asks for one key: waits for it, asks what to do where it is in use, and can clear or restore what is there. In: a layer, an editor and an address. Out: what
 * to show. May change: the editor's overrides.
 */
import { capture, CANCEL_WITH, type Capture, type CaptureProgress } from "../rebind/capture.js";
import type { OverridesEditor } from "../rebind/editor.js";
import { choicesFor, type Choice, type Clash, type Rebinding } from "../rebind/rebind.js";
import type { InputLayer } from "../layer/types.js";

/** The binding that is asked for. */
export interface Place {
  readonly address: string;
  /** "Kick, Main". */
  readonly title: string;
  /** The present control by its label; empty if there is none. */
  readonly now: string;
}

/** What is shown. */
export type Phase =
  | { readonly kind: "listening"; readonly progress: CaptureProgress }
  | {
      readonly kind: "clash";
      readonly control: string;
      readonly clashes: readonly Clash[];
      readonly choices: readonly Choice[];
    }
  | { readonly kind: "over"; readonly why: "cancelled" | "timeout" | "lost" | "replaced" }
  | { readonly kind: "fault"; readonly message: string };

export class Asking {
  phase!: Phase;
  private running: Capture | undefined;

  constructor(
    private readonly input: InputLayer,
    private readonly seat: string,
    readonly editor: OverridesEditor,
    readonly place: Place,
    /** Called when something else is to be shown; `isOver`: nothing any more. */
    private readonly onChange: (isOver: boolean) => void,
  ) {
    this.listen();
  }

  listen(): void {
    const one = (this.running = capture(this.input, {
      seat: this.seat,
      address: this.place.address,
      cancelWith: [...CANCEL_WITH, "MouseSecondary"],
      onProgress: (progress) => {
        if (this.running === one) this.show({ kind: "listening", progress });
      },
    }));
    this.show({ kind: "listening", progress: one.progress });
    void one.done.then((captured) => {
      if (this.running !== one) return;
      this.running = undefined;
      if (captured.control === null) this.show({ kind: "over", why: captured.why });
      else this.put(captured.control, "refuse");
    });
  }

  /** Puts a control there, or asks what to do. */
  put(control: string, choice: Choice): void {
    const { editor, place } = this;
    const result = editor.rebind(place.address, control, choice);
    if (this.settle(result)) return;
    const choices = choicesFor(editor.base, editor.overrides, place.address, control);
    this.show({ kind: "clash", control, clashes: result.clashes, choices });
  }

  clear(): void {
    this.settle(this.editor.clear(this.place.address));
  }

  reset(): void {
    this.editor.reset(this.place.address);
    this.close();
  }

  close(): void {
    const { running } = this;
    this.running = undefined;
    running?.cancel();
    this.onChange(true);
  }

  private settle({ changed, fault }: Rebinding): boolean {
    if (changed) this.close();
    else if (fault !== undefined) this.show({ kind: "fault", message: fault.message });
    return changed || fault !== undefined;
  }

  private show(phase: Phase): void {
    this.phase = phase;
    this.onChange(false);
  }
}
