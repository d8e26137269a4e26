/**
 * One player's settings: changed here, applied to the seat at once, kept by profile. May change: all of these.
 */
import type { Plan } from "reacher";
import {
  editOverrides,
  openProfiles,
  type OverridesEditor,
  type Profiles,
  type TextStore,
} from "reacher/rebind";
import { browserStore } from "reacher/stores/browser";
import type { KelplineSeat } from "./kelplinePlan";

/** Which profile each diver plays with. */
const inUse = browserStore("kelpline divers");
const store = browserStore("kelpline");

export class PlayerSettings {
  editor: OverridesEditor;
  profiles: Profiles | undefined;
  names: readonly string[] = [];
  /** What the player has to know of the store. */
  fault = "";

  constructor(
    readonly name: string,
    private readonly plan: Plan,
    private readonly seat: KelplineSeat,
    private readonly kept: TextStore = store,
  ) {
    this.editor = editOverrides(plan);
  }

  /** Loads what this player has kept. */
  async open(): Promise<void> {
    const last = await inUse.read(this.name).catch(() => undefined);
    this.profiles = await openProfiles({
      store: this.kept,
      plan: this.plan,
      profile: last ?? this.name,
      onFault: ({ message }) => (this.fault = message),
      onChange: (overrides) => this.load(overrides),
    });
    this.load(this.profiles.overrides);
    await this.listNames();
  }

  /** Plays with another profile, which begins with no changes where there is none of this name. */
  async use(profile: string): Promise<void> {
    if (this.profiles === undefined) return;
    this.load(await this.profiles.use(profile));
    await this.profiles.save(this.editor.overrides);
    await inUse.change(this.name, () => profile).catch(() => undefined);
    await this.listNames();
  }

  async remove(profile: string): Promise<void> {
    await this.profiles?.remove(profile);
    if (this.profiles?.profile === profile) await this.use(this.name);
    await this.listNames();
  }

  get profile(): string {
    return this.profiles?.profile ?? this.name;
  }

  private async listNames(): Promise<void> {
    this.names = (await this.profiles?.names()) ?? [this.name];
  }

  /** Overrides from outside: nothing of them can be undone by this player. */
  private load(overrides: object): void {
    this.editor = editOverrides(this.plan, overrides);
    this.editor.onChange(() => void this.keep());
    this.seat.setOverrides(this.editor.overrides);
  }

  private async keep(): Promise<void> {
    const { editor } = this;
    this.seat.setOverrides(editor.overrides);
    const merged = await this.profiles?.save(editor.overrides);
    // Another tab had changed something else.
    const isNewest = editor === this.editor && this.profiles?.overrides === merged;
    if (isNewest && merged !== undefined && JSON.stringify(merged) !== JSON.stringify(editor.overrides))
      this.load(merged);
  }
}
