/**
 * The running game: the input layer with its devices and recorder, the diver, and what the panel shows of them.
 * May change: all of these; it is the one place of the game that holds state.
 */
import { createInputLayer, parsePlan, type Style } from "reacher";
import { attachBrowser } from "reacher/browser";
import { explainLayer, record, type Recorder } from "reacher/trace";
import planJson from "../plan/kelpline.plan.json";
import { moveDiver, newDiver, snipKelp, type Diver } from "./diver";
import type { KelplineFlags, KelplineKinds, KelplineLayer, KelplinePlan } from "./kelplinePlan";

/** How many changes the panel lists. */
const CHANGES_SHOWN = 5;
/** How much of the past is saved. */
const SAVE_MS = 30_000;
/** How long reeling a buoy in takes. */
const REEL_MS = 1200;

/** One line of the panel's list of changes. */
export interface Change {
  readonly id: number;
  readonly t: number;
  readonly action: string;
  readonly text: string;
}

const basePlan = parsePlan<KelplineKinds, KelplineFlags>(planJson);

export class Session {
  layer!: KelplineLayer;
  readonly diver: Diver = newDiver();
  readonly held = new Set<string>();
  changes: readonly Change[] = [];
  kickStyle: Style = "hold";
  /** Whether the menu is open, and how often its buoy was chosen. */
  menu = false;
  chosen = 0;
  /** Why the last press that did nothing did nothing. */
  whyNot = "";
  private recorder!: Recorder;
  private stop: () => void = () => {};
  private last = performance.now();
  private readonly began = performance.now();
  private changeCount = 0;
  private readonly lastMoved = new Map<string, string>();

  constructor() {
    this.begin();
  }

  /** The player chose another style for the kick: the layer is made anew with it. */
  chooseKickStyle(style: Style): void {
    this.kickStyle = style;
    this.begin();
  }

  /** One frame of the game. */
  frame(now: number): void {
    const seconds = Math.min(now - this.last, 100) / 1000;
    const reading = this.layer.step(now);
    this.last = now;
    if (this.menu) return;
    moveDiver(this.diver, reading, seconds);
    this.breathe(seconds);
  }

  /** Kicking and surging use air up; it comes back by itself. An empty tank is told at once, a refilled one once it is worth a kick. */
  private breathe(seconds: number): void {
    const { diver, layer } = this;
    const used = (diver.kicking ? 0.16 : 0) + (diver.surging ? 0.3 : 0);
    diver.air = Math.max(0, Math.min(1, diver.air + (used > 0 ? -used : 0.12) * seconds));
    if (diver.air === 0 && this.hasAir) layer.setFlag("hasAir", (this.hasAir = false));
    else if (diver.air > 0.25 && !this.hasAir) layer.setFlag("hasAir", (this.hasAir = true));
  }

  private hasAir = true;

  /** Opens or closes the menu; called by the plan's own action, and by the button on the page. */
  toggleMenu(): void {
    this.menu = !this.menu;
    if (this.menu) this.layer.enter("menu");
    else this.layer.leave("menu");
  }

  /** Reeling the buoy in takes both hands for a while. */
  private reel(): void {
    const { layer, diver } = this;
    diver.reeling = true;
    for (const action of ["surge", "snip"] as const) layer.mute(action, "reel");
    clearTimeout(this.reelTimer);
    this.reelTimer = setTimeout(() => {
      diver.reeling = false;
      for (const action of ["surge", "snip"] as const) this.layer.unmute(action, "reel");
    }, REEL_MS);
  }

  private reelTimer: ReturnType<typeof setTimeout> | undefined;

  /** The last half minute as a trace. */
  trace(): string {
    return this.recorder.text({ lastMs: SAVE_MS, now: performance.now(), note: `kick by ${this.kickStyle}` });
  }

  /** Time since the game began, in seconds. */
  seconds(t: number): number {
    return (t - this.began) / 1000;
  }

  private begin(): void {
    this.stop();
    this.held.clear();
    this.layer = createInputLayer(withKickStyle(basePlan, this.kickStyle));
    const { layer, diver } = this;
    this.hasAir = true;
    if (this.menu) layer.enter("menu");
    layer.on("pause", "on", () => this.toggleMenu());
    layer.on("choose", "on", () => this.chosen++);
    layer.on("snip", "pulse", () => snipKelp(diver));
    layer.on("grab", "on", () => (diver.grabs += 1));
    layer.on("haul", "on", () => this.reel());
    layer.on("flash", "on", () => (diver.flash = 1));
    const detach = attachBrowser(layer);
    this.recorder = record(layer);
    const unexplain = explainLayer(layer, ({ action, outcome, rule, text }) => {
      // An action of a situation that is not on is no surprise.
      if ((outcome === "nothing" && rule !== "mode-off") || rule === "too-late")
        this.whyNot = `${action}: ${text}`;
    });
    const unwatch = layer.watch({
      event: ({ control, value }) => {
        if (Math.abs(value) >= 0.1) this.held.add(control);
        else this.held.delete(control);
      },
      lost: (t, what) => {
        this.held.clear();
        this.note(t, what, "lost: everything at rest");
      },
      changed: (t, action) => this.note(t, action, this.describe(action as keyof KelplineKinds)),
    });
    this.stop = () => {
      detach();
      this.recorder.stop();
      unwatch();
      unexplain();
    };
  }

  private note(t: number, action: string, text: string): void {
    const [newest] = this.changes;
    // A stick changes many times a second; its line is kept up to date instead.
    const rest =
      newest?.action === action && text.startsWith("(") && newest.text.startsWith("(")
        ? this.changes.slice(1)
        : this.changes;
    this.changes = [{ id: this.changeCount++, t, action, text }, ...rest].slice(0, CHANGES_SHOWN);
  }

  private describe(action: keyof KelplineKinds): string {
    const reading = this.layer.now[action];
    if ("on" in reading) return reading.on ? "on" : "off";
    if ("value" in reading) return twoDecimals(reading.value);
    if (reading.length === 0) {
      this.lastMoved.delete(action);
      return "still";
    }
    const moved = `${reading.x} ${reading.y}`;
    // The same movement once more: its pace is what changed.
    if (moved === this.lastMoved.get(action)) return "new pace";
    this.lastMoved.set(action, moved);
    return `(${twoDecimals(reading.x)}, ${twoDecimals(reading.y)})${reading.gait === null ? "" : " " + reading.gait}`;
  }
}

export function twoDecimals(value: number): string {
  return (Math.round(value * 100) / 100 + 0).toFixed(2);
}

function withKickStyle(plan: KelplinePlan, style: Style): KelplinePlan {
  return { ...plan, actions: { ...plan.actions, kick: { ...plan.actions.kick, style } } };
}
