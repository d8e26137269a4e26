/**
 * The running game: the input layer with its devices and recorder, and its players. May change: all of these.
 */
import { createInputLayer, type Plan } from "reacher";
import { attachBrowser, attachKeyLabels, keptPadLayouts } from "reacher/browser";
import { createKeyLabels } from "reacher/rebind";
import { attachTouch } from "reacher/touch";
import { record, type Recorder } from "reacher/trace";
import kelpline, {
  type KelplineKinds,
  type KelplineLayer,
  type KelplinePlan,
} from "../plan/kelpline.plan.json";
import { Player } from "./player";

/** How much of the past is saved. */
const SAVE_MS = 30_000;

export class Session {
  readonly plan: KelplinePlan & Plan = kelpline as KelplinePlan & Plan;
  readonly layer: KelplineLayer = createInputLayer(kelpline);
  /** What the players' own keys and the reasons need: it comes while the game is played already. */
  readonly rules = this.layer.bringKeys();
  readonly labels = createKeyLabels();
  /** How often the labels have changed. */
  labelled = 0;
  /** Whether the settings of the player shown are open. */
  settingUp = false;
  readonly players: readonly [Player, Player] = [new Player("amber", -3), new Player("teal", 3)];
  /** Whom the panel shows. */
  shown: Player = this.players[0];
  readonly held = new Set<string>();
  readonly layouts = keptPadLayouts();
  private readonly recorder: Recorder;
  private last = performance.now();
  private readonly began = performance.now();
  private playing: readonly Player[] = [this.players[0]];

  constructor() {
    const { layer } = this;
    this.recorder = record(layer);
    layer.openSeats(this.playing.map(({ name }) => name));
    for (const player of this.players) player.sit(layer, this.plan, this);
    this.rules.then(
      () => (document.documentElement.dataset["rules"] = "here"),
      () =>
        (this.players[0].settings.fault =
          "Your own keys could not be loaded: you play with the game's. Load the page again to try anew."),
    );
    // Whoever presses a pad that nobody has joins.
    layer.onPads(({ what, pad }) => {
      if (what !== "unassigned" || this.two) return;
      this.setTwo(true);
      layer.assignPad("teal", pad);
    });
    attachBrowser(layer, { layouts: this.layouts });
    attachKeyLabels(this.labels);
    this.labels.onChange(() => this.labelled++);
    layer.watch({
      event: ({ control, value }) => {
        if (control.startsWith("MouseMove")) return;
        if (Math.abs(value) >= 0.1) this.held.add(control);
        else this.held.delete(control);
      },
      command: (command) => {
        if ("lost" in command) this.held.clear();
      },
    });
  }

  /** The controls that fingers work, each in its own area. */
  readonly touched = Object.keys(this.plan.controls ?? {});

  /** Lets fingers work these areas. Returns what ends it. */
  touch(areas: readonly HTMLElement[]): () => void {
    return attachTouch(
      this.layer,
      areas.map((element) => ({ element, control: element.dataset["control"]! })),
    );
  }

  /** Opens the settings of the player shown, who is at rest meanwhile. */
  openSettings(): void {
    this.settingUp = true;
    if (!this.shown.menu) this.shown.toggleMenu();
  }

  closeSettings(): void {
    this.settingUp = false;
    if (this.shown.menu) this.shown.toggleMenu();
  }

  /** What the players have to know of where their settings are kept. */
  get fault(): string {
    return this.players.find(({ settings }) => settings.fault !== "")?.settings.fault ?? "";
  }

  understood(): void {
    for (const { settings } of this.players) settings.fault = "";
  }

  /** An action's name for players. */
  labelOf(action: string): string {
    return this.plan.actions[action as keyof KelplineKinds]?.label ?? action;
  }

  /** Teal joins, or leaves; amber, when alone, has both halves of the keyboard and any pad. */
  setTwo(two: boolean): void {
    const [amber, teal] = this.players;
    this.playing = two ? this.players : [amber];
    if (!two) teal.leave();
    if (!two) this.shown = amber;
    this.layer.openSeats(this.playing.map(({ name }) => name));
  }

  get two(): boolean {
    return this.playing.length === 2;
  }

  get divers() {
    return this.playing.map(({ diver }) => diver);
  }

  /** Those whose pad is lost, and who wait for it. */
  get waiting(): readonly Player[] {
    return this.playing.filter(({ seat }) => seat.padLost);
  }

  /** One frame of the game. */
  frame(now: number): void {
    const seconds = Math.min(now - this.last, 100) / 1000;
    this.layer.step(now);
    this.last = now;
    for (const player of this.playing) player.frame(seconds);
  }

  /** The last half minute in one file: plan, players' changes, and what was pressed. */
  report(): string {
    return JSON.stringify(this.recorder.report("kelpline, the last half minute", { lastMs: SAVE_MS }));
  }

  /** Time since the game began, in seconds. */
  seconds(t: number): number {
    return (t - this.began) / 1000;
  }
}
