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
import type { KelplineSeat } from "../plan/kelpline.plan.json";

/** Which profile each diver plays with. */
const inUse = browserStore("kelpline divers");
const store = browserStore("kelpline");

export class PlayerSettings {
  editor: OverridesEditor;
  profiles: Profiles | undefined;
  private opening: Promise<void> | undefined;
  names: readonly string[] = [];
  /** The fault of the store that the player should know of. */
  fault = "";

  constructor(
    readonly name: string,
    private readonly plan: Plan,
    private readonly seat: KelplineSeat,
    private readonly rules: Promise<void>,
    private readonly kept: TextStore = store,
  ) {
    this.editor = this.edit();
  }

  /** Loads what this player has kept, once. */
  open(): Promise<void> {
    return (this.opening ??= this.openStore());
  }

  /** Loading takes time: changes made meanwhile count at once, and are saved over the stored ones. */
  private async openStore(): Promise<void> {
    const first = this.editor;
    const untouched = first.overrides;
    const last = await inUse.read(this.name).catch(() => undefined);
    this.profiles = await openProfiles({
      store: this.kept,
      plan: this.plan,
      profile: last ?? this.name,
      onFault: ({ message }) => (this.fault = message),
      onChange: (overrides) => this.load(overrides),
    });
    if (first.overrides === untouched) this.load(this.profiles.overrides);
    else await this.keep();
    await this.listNames();
  }

  /** Switches to another profile, which is empty if there is none of this name. */
  async use(profile: string): Promise<void> {
    await this.opening;
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
    this.editor = this.edit(overrides);
    void this.apply();
  }

  /** They count as soon as they can: whoever has none waits for nothing. Where the rules do not come, they are kept for the next game. */
  private async apply(): Promise<void> {
    const changes = { ...this.editor.overrides.controls, ...this.editor.overrides.settings };
    const isFree = Object.keys(changes).length === 0;
    if (isFree || (await this.rules.then(() => true).catch(() => false)))
      this.seat.setOverrides(this.editor.overrides);
  }

  private edit(overrides?: object): OverridesEditor {
    const editor = editOverrides(this.plan, overrides, { draft: true });
    editor.onChange(() => void this.keep());
    return editor;
  }

  private async keep(): Promise<void> {
    const { editor } = this;
    void this.apply();
    const merged = await this.profiles?.save(editor.overrides);
    // Another tab had changed something else.
    const isNewest = editor === this.editor && this.profiles?.overrides === merged;
    if (isNewest && merged !== undefined && JSON.stringify(merged) !== JSON.stringify(editor.overrides))
      this.load(merged);
  }
}
