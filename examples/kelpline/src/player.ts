/**
 * One player: a seat of the layer, the diver it moves, and what the panel shows of both. May change: all of these.
 */
import type { Plan } from "reacher";
import {
  CURRENT,
  isAtBank,
  isInCurrent,
  moveDiver,
  newDiver,
  snipKelp,
  throwBuoy,
  type Diver,
} from "./diver";
import { pressFocus, stepFocus } from "./padFocus";
import { PlayerSettings } from "./playerSettings";
import type { KelplineKinds, KelplineLayer, KelplineNames, KelplineSeat } from "../plan/kelpline.plan.json";

/** How many changes the panel lists. */
const CHANGES_SHOWN = 9;
/** How long reeling a buoy in takes. */
const REEL_MS = 1200;

/** One line of the panel's list of changes. */
export interface Change {
  readonly id: number;
  readonly t: number;
  readonly action: string;
  readonly text: string;
}

/** The parts of the game's screen that a player controls. */
export interface Screen {
  /** Whose menu and settings are shown. */
  shown: Player;
  readonly settingUp: boolean;
  /** Players' own keys and reasons wait for it. */
  readonly rules: Promise<void>;
  closeSettings(): void;
}

export class Player {
  readonly diver: Diver;
  seat!: KelplineSeat;
  settings!: PlayerSettings;
  changes: readonly Change[] = [];
  /** Whether the menu is open, and how often its buoy was chosen. */
  menu = false;
  chosen = 0;
  /** Why the last press that did nothing did nothing. */
  whyNot = "";
  private hasAir = true;
  private drifts = false;
  private changeCount = 0;
  private reelTimer: ReturnType<typeof setTimeout> | undefined;
  private readonly lastMoved = new Map<string, string>();

  constructor(
    readonly name: KelplineNames["seats"],
    x: number,
  ) {
    this.diver = newDiver(name, x);
  }

  /** Takes a seat of a layer. */
  sit(layer: KelplineLayer, plan: Plan, screen: Screen): void {
    const { diver, name } = this;
    const seat = (this.seat = layer.seat(name));
    this.settings = new PlayerSettings(name, plan, seat, screen.rules);
    void this.settings.open();
    // There is one screen: it belongs to the player who opened it, and ignores the others.
    const isMine = () => screen.shown === this;
    const turnPage = () => {
      if (screen.settingUp && isMine()) screen.closeSettings();
      else {
        if (!this.menu && !screen.settingUp) screen.shown = this;
        this.toggleMenu();
      }
    };
    seat.on("pause", "on", turnPage);
    seat.on("back", "on", turnPage);
    seat.on("choose", "on", () => {
      if (!isMine() || !pressFocus()) this.chosen++;
    });
    seat.on("walk", "pulse", () => {
      if (isMine()) stepFocus(seat.now.go.x, seat.now.go.y);
    });
    seat.on("snip", "pulse", () => snipKelp(diver));
    seat.on("grab", "on", () => (diver.grabs += 1));
    seat.on("haul", "on", () => this.reel());
    seat.on("flash", "on", () => (diver.flash = 1));
    // Released, it flies as far as it was drawn; a lost focus throws nothing.
    seat.on("cast", "off", (_, endedBy) => {
      if (endedBy === "released") throwBuoy(diver, seat.now.cast.lastMs);
    });
    const tell = ({
      action,
      outcome,
      rule,
      text,
    }: {
      action: string;
      outcome: string;
      rule: string;
      text: string;
    }) => {
      // A press for another mode needs no explanation.
      if ((outcome === "nothing" && rule !== "mode-off") || rule === "too-late")
        this.whyNot = `${action}: ${text}`;
    };
    void Promise.all([import("./why"), screen.rules]).then(
      ([{ explainLayer }]) => explainLayer(layer, tell, name),
      () => {},
    );
    layer.watch({
      command: (command, { t, seat: whose }) => {
        if ("lost" in command && whose === name) this.note(t, command.lost, "lost: everything at rest");
      },
      changed: (t, action, whose) => {
        if (whose !== name) return;
        const text = this.describe(action as keyof KelplineKinds);
        // An action that works now needs no reason any more.
        if (text === "on" && this.whyNot.startsWith(`${action}:`)) this.whyNot = "";
        this.note(t, action, text);
      },
    });
  }

  /** One frame of the game, of `seconds`. */
  frame(seconds: number): void {
    if (this.menu) return;
    moveDiver(this.diver, this.seat.now, seconds);
    this.breathe(seconds);
    this.meetWater();
  }

  /** The current carries a diver along, in addition to its keys; along the bank two of the keys crawl. */
  private meetWater(): void {
    const { diver, seat } = this;
    const drifts = isInCurrent(diver);
    if (drifts !== this.drifts) seat.drive("swim", drifts ? CURRENT.drift : null, "current");
    this.drifts = drifts;
    if (isAtBank(diver) === diver.onBank) return;
    diver.onBank = !diver.onBank;
    if (diver.onBank) seat.enter("bank");
    else seat.leave("bank");
  }

  /** Opens or closes the menu; called by the plan's own action, and by the button on the page. */
  toggleMenu(): void {
    this.menu = !this.menu;
    if (this.menu) this.seat.enter("menu");
    else this.seat.leave("menu");
  }

  /** Out of the water: a diver who comes back starts over. */
  leave(): void {
    this.menu = false;
    this.changes = [];
    this.whyNot = "";
  }

  /** Kicking and surging use up air, which comes back by itself. The flag falls when the tank is empty, and rises once it is worth a kick. */
  private breathe(seconds: number): void {
    const { diver, seat } = this;
    const used = (diver.kicking ? 0.16 : 0) + (diver.surging ? 0.3 : 0);
    diver.air = Math.max(0, Math.min(1, diver.air + (used > 0 ? -used : 0.12) * seconds));
    if (diver.air === 0 && this.hasAir) seat.setFlag("hasAir", (this.hasAir = false));
    else if (diver.air > 0.25 && !this.hasAir) seat.setFlag("hasAir", (this.hasAir = true));
  }

  /** Reeling the buoy in takes both hands for a while. */
  private reel(): void {
    const { seat, diver } = this;
    diver.reeling = true;
    for (const action of ["surge", "snip"] as const) seat.mute(action, "reel");
    clearTimeout(this.reelTimer);
    this.reelTimer = setTimeout(() => {
      diver.reeling = false;
      for (const action of ["surge", "snip"] as const) this.seat.unmute(action, "reel");
    }, REEL_MS);
  }

  private note(t: number, action: string, text: string): void {
    const [newest] = this.changes;
    // A stick changes many times a second; its line is kept up to date instead.
    const moves = (line: string) => line.startsWith("(") || /^-?\d/.test(line);
    const rest =
      newest?.action === action && moves(text) && moves(newest.text) ? this.changes.slice(1) : this.changes;
    this.changes = [{ id: this.changeCount++, t, action, text }, ...rest].slice(0, CHANGES_SHOWN);
  }

  private describe(action: keyof KelplineKinds): string {
    const reading = this.seat.now[action];
    if ("on" in reading) return reading.on ? "on" : "off";
    if ("value" in reading) return twoDecimals(reading.value);
    if ("dx" in reading) return "turned";
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
