/**
 * The running game: the input layer with its devices and recorder, and its players. May change: all of these.
 */
import { createInputLayer, parsePlan, type Style } from "reacher";
import { attachBrowser, keptPadLayouts } from "reacher/browser";
import { record, type Recorder } from "reacher/trace";
import planJson from "../plan/kelpline.plan.json";
import type { KelplineFlags, KelplineKinds, KelplineLayer, KelplinePlan } from "./kelplinePlan";
import { Player } from "./player";

/** How much of the past is saved. */
const SAVE_MS = 30_000;

const basePlan = parsePlan<KelplineKinds, KelplineFlags>(planJson);

export class Session {
  layer!: KelplineLayer;
  readonly players: readonly [Player, Player] = [new Player("amber", -3), new Player("teal", 3)];
  /** Whom the panel shows. */
  shown: Player = this.players[0];
  readonly held = new Set<string>();
  kickStyle: Style = "hold";
  readonly layouts = keptPadLayouts();
  private recorder!: Recorder;
  private stop: () => void = () => {};
  private last = performance.now();
  private readonly began = performance.now();
  private playing: readonly Player[] = [this.players[0]];

  constructor() {
    this.begin();
  }

  /** The player chose another style for the kick: the layer is made anew with it. */
  chooseKickStyle(style: Style): void {
    this.kickStyle = style;
    this.begin();
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
    const { layer } = this;
    this.recorder = record(layer);
    layer.openSeats(this.playing.map(({ name }) => name));
    const leave = this.players.map((player) => player.sit(layer));
    // A second pad knocks: whoever holds it joins.
    const unknock = layer.onPads(({ what, pad }) => {
      if (what !== "knocks" || this.two) return;
      this.setTwo(true);
      layer.assignPad("teal", pad);
    });
    const detach = attachBrowser(layer, { layouts: this.layouts });
    const unwatch = layer.watch({
      event: ({ control, value }) => {
        if (control.startsWith("MouseMove")) return;
        if (Math.abs(value) >= 0.1) this.held.add(control);
        else this.held.delete(control);
      },
      lost: () => this.held.clear(),
    });
    this.stop = () => {
      detach();
      this.recorder.stop();
      unwatch();
      unknock();
      for (const end of leave) end();
    };
  }
}

function withKickStyle(plan: KelplinePlan, style: Style): KelplinePlan {
  return { ...plan, actions: { ...plan.actions, kick: { ...plan.actions.kick, style } } };
}
