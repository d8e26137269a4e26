/**
 * A settings screen that a game can take: `<reacher-settings>` with the player's keys, how they feel, and profiles; by keyboard, mouse, pad and touch. In: a
 * layer, and where profiles are kept. Out: changes, at once and while playing; the events `change`, `done` and `fault`. Made with Lit, which you install.
 *
 * @module reacher/settings
 */
import { html, LitElement, nothing, type TemplateResult } from "lit";
import type { InputLayer } from "../layer/types.js";
import { mustBeLayer } from "../plan/arguments.js";
import type { Overrides } from "../plan/players/overrides.js";
import { editOverrides, type OverridesEditor } from "../rebind/editor.js";
import { createKeyLabels, type KeyLabels } from "../rebind/keyLabels.js";
import { openProfiles, type Profiles } from "../rebind/profiles.js";
import type { Choice, Clash } from "../rebind/rebind.js";
import { bindingRows, type Cell, type Row } from "../rebind/rows.js";
import type { Setting } from "../rebind/setting.js";
import { settingsOf, settingValue } from "../rebind/settings.js";
import type { TextStore } from "../rebind/store.js";
import { runTapTest, type RunningTapTest } from "../rebind/tapTest.js";
import { Asking } from "./asking.js";
import { workByPad } from "./padFocus.js";
import { style } from "./style.js";
import { WORDS, type Words } from "./words.js";

export type { Words } from "./words.js";

const REACHABLE = "button:not([disabled]), select, input";

/**
 * The element. Properties are set in script, `seat` and `profile` as attributes as well. Fires `change` with the overrides as its `detail`, `done` when the player
 * leaves, which nobody does while a required action has no control, and `fault` with a message.
 */
export class ReacherSettings extends LitElement {
  /** @internal */
  static override readonly styles = style;
  /** @internal */
  static override readonly properties = {
    input: { attribute: false },
    seat: {},
    store: { attribute: false },
    profile: {},
    words: { attribute: false },
    labels: { attribute: false },
  };

  /** The layer whose player this is. */
  declare input: InputLayer | undefined;
  /** Whose settings these are. @default the first seat */
  declare seat: string | undefined;
  /** Where profiles are kept; without, nothing is kept, and `change` tells what there is to keep. */
  declare store: TextStore | undefined;
  /** The profile to begin with. @default "player" */
  declare profile: string | undefined;
  /** What it says, in place of the English words. */
  declare words: Partial<Words>;
  /** What keys are called. @default by the place of the key */
  declare labels: KeyLabels;

  private editor: OverridesEditor | undefined;
  private profiles: Profiles | undefined;
  private names: readonly string[] = [];
  private asking: Asking | undefined;
  private measuring: { readonly running: RunningTapTest; readonly setting: Setting } | undefined;
  private begun: InputLayer | undefined;
  private stopPad: () => void = () => {};
  private fault = "";

  constructor() {
    super();
    this.words = {};
    this.labels = createKeyLabels();
  }

  /** The player's changes; `undefined` before they are there. */
  get overrides(): Overrides | undefined {
    return this.editor?.overrides;
  }

  /** Whether no required action lacks a control, so that the player may leave. */
  get finished(): boolean {
    return this.editor?.finished ?? true;
  }

  /** @internal */
  override connectedCallback(): void {
    super.connectedCallback();
    const { isShown } = this;
    this.stopPad = workByPad(window, {
      reachable: () =>
        [...this.renderRoot.querySelectorAll<HTMLElement>(REACHABLE)].filter(
          (one) =>
            one.getClientRects().length > 0 && (this.dialog?.open !== true || this.dialog.contains(one)),
        ),
      focused: () => (isShown() ? this.shadowRoot!.activeElement : null),
      leave: () => isShown() && this.leave(),
      get isBusy() {
        return !isShown();
      },
    });
  }

  /** @internal */
  override disconnectedCallback(): void {
    super.disconnectedCallback();
    this.stopPad();
    this.asking?.close();
    this.measuring?.running.cancel();
  }

  /** Whether the pad works this screen: it is there, and no key is being chosen. */
  private readonly isShown = (): boolean =>
    this.getClientRects().length > 0 &&
    this.asking?.phase.kind !== "listening" &&
    this.measuring === undefined;

  /** @internal */
  override updated(): void {
    const { input, dialog } = this;
    if (input !== undefined && input !== this.begun) {
      this.begun = input;
      this.begin(input).catch((error: unknown) => this.tell((error as Error).message));
    }
    const wanted = this.asking !== undefined || this.measuring !== undefined;
    if (dialog === null) return;
    if (dialog.open !== wanted) {
      if (wanted) dialog.showModal();
      else dialog.close();
    }
    // What is asked changes while the dialog is open.
    const first = dialog.querySelector("button");
    if (wanted && first !== null && !dialog.contains(this.shadowRoot!.activeElement)) first.focus();
    else if (wanted && this.shadowRoot!.activeElement === dialog) first?.focus();
  }

  private get dialog(): HTMLDialogElement | null {
    return this.renderRoot.querySelector("dialog");
  }

  private get own(): string {
    return this.seat ?? this.input!.name;
  }

  private async begin(input: InputLayer): Promise<void> {
    mustBeLayer(input);
    await input.bringKeys();
    const { store, own } = this;
    const seat = input.seat(own) as { readonly overrides?: Overrides | null };
    if (store !== undefined) {
      this.profiles = await openProfiles({
        store,
        plan: input.plan,
        profile: this.profile ?? "player",
        onFault: ({ message }) => this.tell(message),
        onChange: (overrides) => this.edit(overrides),
      });
      this.names = await this.profiles.names();
    }
    this.edit(this.profiles?.overrides ?? seat.overrides ?? undefined);
  }

  /** Begins to change these, which count at once. */
  private edit(overrides: Overrides | undefined): void {
    const editor = (this.editor = editOverrides(this.input!.plan, overrides, { draft: true }));
    editor.onChange(() => void this.keep(editor));
    this.apply();
  }

  private apply(): void {
    const { overrides } = this.editor!;
    this.input!.seat(this.own).setOverrides(overrides);
    this.requestUpdate();
    this.dispatchEvent(new CustomEvent("change", { detail: overrides }));
  }

  private async keep(editor: OverridesEditor): Promise<void> {
    this.apply();
    const { overrides } = editor;
    const kept = await this.profiles?.save(overrides);
    // Another tab had changed something else.
    const isNewest = editor === this.editor && editor.overrides === overrides;
    if (kept !== undefined && isNewest && JSON.stringify(kept) !== JSON.stringify(overrides)) this.edit(kept);
  }

  private tell(message: string): void {
    this.fault = message;
    this.requestUpdate();
    this.dispatchEvent(new CustomEvent("fault", { detail: message }));
  }

  private leave(): void {
    if (this.asking !== undefined) this.asking.close();
    else if (this.finished) this.dispatchEvent(new CustomEvent("done"));
  }

  private async use(profile: string): Promise<void> {
    if (profile === "" || this.profiles === undefined) return;
    this.edit(await this.profiles.use(profile));
    await this.profiles.save(this.editor!.overrides);
    this.names = await this.profiles.names();
    this.requestUpdate();
  }

  private async drop(): Promise<void> {
    const { profiles } = this;
    await profiles?.remove(profiles.profile);
    await this.use("player");
  }

  private say<K extends keyof Words>(word: K): Words[K] {
    return this.words[word] ?? WORDS[word];
  }

  private labelOf(action: string): string {
    return this.input!.plan.actions[action]?.label ?? action;
  }

  /** @internal */
  override render(): TemplateResult | typeof nothing {
    const { editor, input } = this;
    if (editor === undefined || input === undefined)
      return html`${this.fault === "" ? nothing : html`<p class="fault" role="alert">${this.fault}</p>`}
        <dialog></dialog>`;
    const missing = [...new Set(editor.missing.map((address) => this.labelOf(address.split(".")[0]!)))];
    return html`
      <h2 part="heading">${this.say("keys")}</h2>
      <div class="scroll">${this.table(editor)}</div>
      ${this.feel(editor)} ${this.profiles === undefined ? nothing : this.choice(this.profiles)}
      <p class="fault" role="status">
        ${this.fault} ${missing.length > 0 ? this.say("missing")(this.say("and")(missing)) : ""}
      </p>
      <div class="row">
        <button part="button" ?disabled=${editor.undoable === 0} @click=${() => editor.undo()}>
          ${this.say("undo")}
        </button>
        <button part="button" @click=${() => editor.reset("*")}>${this.say("resetAll")}</button>
        <button part="button done" ?disabled=${!editor.finished} @click=${() => this.leave()}>
          ${this.say("done")}
        </button>
      </div>
      <dialog part="dialog" @cancel=${(event: Event) => this.cancel(event)}>${this.question()}</dialog>
    `;
  }

  private table(editor: OverridesEditor): TemplateResult {
    const { slots = {} } = editor.plan;
    const own = this.input!.seat(this.own).slots.filter((name) =>
      ["keyboard", "mouse", "pad", undefined].includes(slots[name]?.device),
    );
    const rows = bindingRows(editor.base, editor.overrides, this.labels.label, own).filter(
      ({ locked }) => !locked,
    );
    return html`<table part="table">
      <thead>
        <tr>
          <th scope="col">${this.say("action")}</th>
          ${own.map((name) => html`<th scope="col">${slots[name]?.label ?? name}</th>`)}
        </tr>
      </thead>
      <tbody>
        ${rows.map(
          (row) =>
            html`<tr>
              <th scope="row">${row.label}</th>
              ${row.slots.map(
                ({ slot, cells }) =>
                  html`<td>${cells.map((cell) => this.cell(cell, row, slots[slot]?.label ?? slot))}</td>`,
              )}
            </tr>`,
        )}
      </tbody>
    </table>`;
  }

  private cell(cell: Cell, row: Row, column: string): TemplateResult {
    if (!cell.bindable) return html`<span>${cell.text}</span>`;
    const part =
      cell.part === undefined ? "" : ((this.say(cell.part as "up") as string | undefined) ?? cell.part);
    const now = cell.control === null ? "" : this.labels.label(cell.control);
    const text = now === "" ? this.say("none") : cell.text === "" ? now : cell.text;
    const title = `${row.label}${cell.part === undefined ? "" : ` ${cell.part}`}, ${column}`;
    const others = this.say("and")(cell.clashes.map(({ action }) => this.labelOf(action)));
    const also = others === "" ? "" : this.say("also")(others);
    return html`${cell.joint}
      <button
        part="key"
        class=${cell.changed ? "changed" : ""}
        data-address=${cell.address}
        aria-label=${[`${title}: ${text}`, also].filter((one) => one !== "").join(", ")}
        @click=${() => this.ask({ address: cell.address, title, now })}
      >
        ${part === "" ? nothing : html`<span class="part">${part}</span>`}${text}</button
      >${also === "" ? nothing : html`<small class="clash">${also}</small>`}`;
  }

  private ask(place: Asking["place"]): void {
    this.asking = new Asking(this.input!, this.own, this.editor!, place, (isOver) => {
      if (isOver) this.asking = undefined;
      this.requestUpdate();
    });
    this.requestUpdate();
  }

  private feel(editor: OverridesEditor): TemplateResult | typeof nothing {
    const settings = settingsOf(editor.base, editor.overrides).filter(
      (one) => one.kind === "number" || one.options.length > 1,
    );
    if (settings.length === 0) return nothing;
    const groups = [...new Set(settings.map(({ label }) => label))];
    return html`<h2 part="heading">${this.say("feel")}</h2>
      ${groups.map(
        (group) =>
          html`<fieldset part="group">
            <legend>${group === "" ? this.say("everything") : group}</legend>
            ${settings.filter(({ label }) => label === group).map((one) => this.setting(editor, one))}
          </fieldset>`,
      )}`;
  }

  private setting(editor: OverridesEditor, setting: Setting): TemplateResult {
    const about = [setting.slot, setting.about].filter(Boolean).join(" · ");
    const change = (value: unknown) => {
      editor.set(setting.address, value === setting.plan ? undefined : value);
    };
    const id = `set ${setting.address}`.replace(/\W/g, "-");
    if (setting.kind === "choice")
      return html`<div class="setting" part="setting">
        <label for=${id}>${about}</label>
        <select
          id=${id}
          @change=${({ target }: Event) => {
            const { value } = target as HTMLSelectElement;
            change(value === setting.plan ? value : settingValue(setting.address, value));
          }}
        >
          ${setting.options.map(
            (option) =>
              html`<option .value=${option} ?selected=${option === setting.value}>
                ${this.say("option")(option)}
              </option>`,
          )}
        </select>
      </div>`;
    const [least, most] = setting.range;
    const value = this.say("number")(setting.value, setting.unit);
    return html`<div class="setting" part="setting">
      <label for=${id}>${about}</label>
      <input
        id=${id}
        type="range"
        min=${least}
        max=${most}
        step=${setting.unit === "ms" ? 10 : 0.01}
        aria-valuetext=${value}
        .value=${String(setting.value)}
        @input=${({ target }: Event) => change((target as HTMLInputElement).valueAsNumber)}
      />
      <output for=${id}>${value}</output>
      ${
        setting.address.endsWith(".gapMs")
          ? html`<button part="button" @click=${() => this.measure(setting)}>${this.say("measure")}</button>`
          : nothing
      }
    </div>`;
  }

  private measure(setting: Setting & { kind: "number" }): void {
    const running = runTapTest(this.input!, {
      seat: this.own,
      range: setting.range,
      onProgress: () => this.requestUpdate(),
    });
    this.measuring = { running, setting };
    void running.done.then((isWhole) => {
      const { gapMs } = running.test.result;
      this.measuring = undefined;
      if (isWhole && gapMs !== undefined) this.editor!.set(setting.address, gapMs);
      this.requestUpdate();
    });
    this.requestUpdate();
  }

  private choice(profiles: Profiles): TemplateResult {
    return html`<h2 part="heading">${this.say("profile")}</h2>
      <div class="row">
        <select
          aria-label=${this.say("profile")}
          @change=${({ target }: Event) => void this.use((target as HTMLSelectElement).value)}
        >
          ${this.names.map(
            (name) => html`<option .value=${name} ?selected=${name === profiles.profile}>${name}</option>`,
          )}
        </select>
        <input
          type="text"
          maxlength="40"
          aria-label=${this.say("nameOf")}
          placeholder=${this.say("nameOf")}
          @keydown=${(event: KeyboardEvent) => {
            if (event.key === "Enter") void this.add();
          }}
        />
        <button part="button" @click=${() => void this.add()}>${this.say("add")}</button>
        <button part="button" ?disabled=${this.names.length < 2} @click=${() => void this.drop()}>
          ${this.say("remove")}
        </button>
      </div>`;
  }

  private async add(): Promise<void> {
    const field = this.renderRoot.querySelector<HTMLInputElement>('input[type="text"]')!;
    const name = field.value.trim();
    field.value = "";
    await this.use(name).catch((error: unknown) => this.tell((error as Error).message));
  }

  /** Escape in a dialog: while it listens, the capture decides what gives up. */
  private cancel(event: Event): void {
    event.preventDefault();
    if (this.asking?.phase.kind !== "listening") this.asking?.close();
  }

  private question(): TemplateResult | typeof nothing {
    const { asking, measuring } = this;
    if (measuring !== undefined) {
      const { test } = measuring.running;
      return html`<p role="status">${this.say("taps")(test.result.pairs.length, test.of)}</p>
        <p>${test.result.reason}</p>
        <p><small>${this.say("giveUp")}</small></p>`;
    }
    if (asking === undefined) return nothing;
    const { phase, place } = asking;
    const label = (control: string) => this.labels.label(control);
    const button = (text: string, fn: () => void) =>
      html`<button part="button" @click=${fn}>${text}</button>`;
    if (phase.kind === "listening") {
      const { state, letGo, control, refused } = phase.progress;
      const text =
        state === "letGo"
          ? this.say("letGo")(this.say("and")(letGo.map(label)))
          : state === "caught"
            ? this.say("caught")(label(control!))
            : refused !== undefined
              ? this.say("refused")(label(refused.control), refused.why)
              : this.say("press")(place.now);
      return html`<h2>${place.title}</h2>
        <p role="status">${text}</p>
        <p><small>${this.say("giveUp")}</small></p>`;
    }
    if (phase.kind === "clash") {
      const others = this.say("and")(phase.clashes.map(({ action }: Clash) => this.labelOf(action)));
      const texts: Record<Exclude<Choice, "refuse">, string> = {
        swap: this.say("swap")(others, place.now),
        take: this.say("take")(others),
        both: this.say("both"),
      };
      return html`<h2>${place.title}</h2>
        <p role="alert">${this.say("used")(label(phase.control), others)}</p>
        <div class="choices">
          ${phase.choices.map((choice) => button(texts[choice as "swap"], () => asking.put(phase.control, choice)))}
          ${button(this.say("nothing"), () => asking.close())}
        </div>`;
    }
    return html`<h2>${place.title}</h2>
      <p role="alert">${phase.kind === "over" ? this.say(phase.why) : `${phase.message}.`}</p>
      <div class="choices">
        ${button(this.say("again"), () => asking.listen())}
        ${place.now === "" ? nothing : button(this.say("clear"), () => asking.clear())}
        ${button(this.say("byDefault"), () => asking.reset())}
        ${button(this.say("close"), () => asking.close())}
      </div>`;
  }
}

/** Makes `<reacher-settings>` known to the page; a second call does nothing. */
export function defineSettings(name = "reacher-settings"): void {
  if (customElements.get(name) === undefined) customElements.define(name, ReacherSettings);
}

declare global {
  interface HTMLElementTagNameMap {
    "reacher-settings": ReacherSettings;
  }
}
