/**
 * Raw values as presses and releases, without a plan. In: entries of a trace. Out: each press and each release.
 * May change: what is down. A stick's flick is a press of its side, as it is for a plan.
 */
import { findControl, isAnalog, type Control } from "../controls/catalogue.js";
import { PRESS_FROM, RELEASE_BELOW } from "../controls/thresholds.js";
import type { TraceEntry } from "../trace/entry.js";

/** One thing that can be pressed, on one pad. */
interface Button {
  readonly name: string;
  readonly sign: 1 | -1;
  down: boolean;
}

export interface PressListener {
  /** `button` stands for this control of this pad, and is the same each time. */
  pressed(control: string, button: object, t: number): void;
  released(control: string, button: object, t: number): void;
  /** Everything came to rest without being let go. */
  lost(): void;
}

export class PressReader {
  private readonly buttons = new Map<string, readonly Button[]>();

  constructor(private readonly listener: PressListener) {}

  push(entry: TraceEntry): void {
    if ("lost" in entry) {
      this.rest();
      this.listener.lost();
    }
    if (!("control" in entry)) return;
    for (const button of this.buttonsOf(entry.control, entry.pad)) {
      const value = entry.value * button.sign;
      if (!button.down && value >= PRESS_FROM) {
        button.down = true;
        this.listener.pressed(button.name, button, entry.t);
      } else if (button.down && value < RELEASE_BELOW) {
        button.down = false;
        this.listener.released(button.name, button, entry.t);
      }
    }
  }

  /** Everything is up from here on. */
  rest(): void {
    for (const buttons of this.buttons.values()) for (const button of buttons) button.down = false;
  }

  private buttonsOf(control: string, pad: number): readonly Button[] {
    const id = pad === 0 ? control : `${control} ${pad}`;
    let buttons = this.buttons.get(id);
    if (buttons === undefined) {
      const known = findControl(control);
      buttons = known === undefined ? [] : sides(known).map((side) => ({ ...side, down: false }));
      this.buttons.set(id, buttons);
    }
    return buttons;
  }
}

function sides(control: Control): { name: string; sign: 1 | -1 }[] {
  const { name, family } = control;
  if (family === "motion" || family === "pointer") return [];
  if (family !== "axis" || !isAnalog(control)) return [{ name, sign: 1 }];
  const ways = name.endsWith("Y") ? (["Up", "Down"] as const) : (["Left", "Right"] as const);
  const half = (way: string) => (/[XY]$/.test(name) ? name.slice(0, -1) + way : `${name}${way}`);
  return [
    { name: half(ways[0]), sign: -1 },
    { name: half(ways[1]), sign: 1 },
  ];
}
