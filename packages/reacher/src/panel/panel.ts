/**
 * A panel over a running game: what is held, each action's reading, the last changes, and why a press did nothing. In: a layer. Out: a
 * custom element with a shadow root. May change: only what it draws. Folded or closed it listens to nothing and costs nothing.
 *
 * @module reacher/panel
 */
import { mustBeLayer, mustBeOptions } from "../plan/arguments.js";
import type { InputLayer, Unsubscribe } from "../layer/types.js";
import { ReacherError } from "../plan/errors.js";
import type { Kinds } from "../plan/types.js";
import { LOOKS } from "../plan/later.js";
import { explainLayer } from "../trace/explain.js";
import { record, type Recorder } from "../trace/record.js";
export { readingText, type AnyReading } from "./rows.js";
import { actionRows, heldText, situationText } from "./rows.js";
import { Strip } from "./strip.js";
import { STYLE } from "./style.js";

/** How a panel is shown. */
export interface PanelOptions {
  /** The `code` of the key that folds it. @default the first of F9, F8, F7 and F4 that the plan does not use */
  readonly key?: string;
  /** Where it is put. @default the page's body */
  readonly parent?: Element;
  /** Whether it begins folded. @default false */
  readonly folded?: boolean;
}

/** How often it is updated, in ms: less often than a game's frames. */
const EACH_MS = 100;
/** How much "save" saves, in ms. */
const SAVE_MS = 30_000;
/** How many changes are listed. */
const CHANGES = 8;
const FOLD_KEYS = ["F9", "F8", "F7", "F4"] as const;
const NAME = "reacher-panel";

/** Shows a panel for this layer. Returns a function that removes it. @throws ReacherError outside a page */
export function showPanel<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  options: PanelOptions = {},
): () => void {
  mustBeLayer(input);
  mustBeOptions(options);
  if (typeof document === "undefined")
    throw new ReacherError("showPanel was called outside a page, where there is nothing to show it in");
  const layer = input as unknown as InputLayer;
  const key = options.key ?? FOLD_KEYS.find((code) => !layer.uses(code)) ?? "F9";
  // A custom element, so that the page's style does not match it.
  if (customElements.get(NAME) === undefined) customElements.define(NAME, class extends HTMLElement {});
  const host = document.createElement(NAME);
  const root = host.attachShadow({ mode: "open" });
  // Constructed by script, which a page's style policy allows.
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(STYLE);
  root.adoptedStyleSheets = [sheet];
  const view = new View(root, layer, key);
  (options.parent ?? document.body).append(host);
  const fold = (folded: boolean) => {
    view.fold(folded);
    host.toggleAttribute("folded", folded);
  };
  const hear = (event: KeyboardEvent) => {
    if (event.code !== key || event.repeat) return;
    event.preventDefault();
    fold(!view.isFolded);
  };
  addEventListener("keydown", hear);
  view.onFold = () => fold(!view.isFolded);
  fold(options.folded === true);
  return () => {
    view.fold(true);
    removeEventListener("keydown", hear);
    host.remove();
  };
}

/** The panel's elements and what they show. May change: these. */
class View {
  isFolded = true;
  onFold = () => {};
  private readonly parts = new Map<string, Text>();
  private readonly actions: HTMLElement;
  private readonly strip: Strip;
  private readonly changes: string[] = [];
  private nothing = "none yet";
  private ends: Unsubscribe[] = [];
  private recorder: Recorder | undefined;
  /** The names that are listed, to detect a change of the plan. */
  private listed = "";

  constructor(
    root: ShadowRoot,
    private readonly input: InputLayer,
    key: string,
  ) {
    const fold = button(`Input (${key})`, `Fold or unfold, with ${key}`, () => this.onFold());
    const save = button("Save 30 s", "Save the last 30 s as a trace", () => this.save());
    const head = element("header", fold, save);
    const part = (name: string) => {
      const text = document.createTextNode("");
      this.parts.set(name, text);
      const line = element("p", element("b", `${name} `), text);
      line.hidden = true;
      return line;
    };
    this.actions = element("dl");
    const canvas = element("canvas") as HTMLCanvasElement;
    canvas.setAttribute("role", "img");
    canvas.setAttribute("aria-label", "Which actions were on in the last 5 seconds");
    this.strip = new Strip(canvas);
    const body = element(
      "div",
      part("held"),
      part("modes"),
      part("flags"),
      part("mutes"),
      this.actions,
      canvas,
      part("last"),
      part("did nothing"),
    );
    root.append(element("section", head, body));
    root.firstElementChild!.setAttribute("aria-label", "Input");
  }

  fold(folded: boolean): void {
    if (folded === this.isFolded) return;
    this.isFolded = folded;
    for (const end of this.ends.splice(0)) end();
    this.recorder = undefined;
    if (folded) return;
    looking(() => this.listen());
    const timer = setInterval(() => looking(() => this.draw()), EACH_MS);
    this.ends.push(() => clearInterval(timer));
  }

  private listen(): void {
    const { input } = this;
    this.recorder = record(input);
    this.ends.push(() => this.recorder?.stop());
    for (const seat of input.seats)
      this.ends.push(
        explainLayer(
          input,
          ({ at, action, outcome, rule, text }) => {
            // A press meant for another mode is not worth a reason.
            if (outcome === "nothing" && rule !== "mode-off")
              this.nothing = `${seconds(at)} ${action}: ${text}`;
            else if (outcome === "on" || outcome === "off") this.note(at, `${action} ${outcome}`);
          },
          seat,
        ),
      );
    this.draw();
  }

  private note(at: number, change: string): void {
    this.changes.unshift(`${seconds(at)} ${change}`);
    this.changes.length = Math.min(this.changes.length, CHANGES);
  }

  private draw(): void {
    const { input } = this;
    this.tell("held", heldText(input));
    for (const [name, text] of situationText(input)) this.tell(name, text);
    this.tell("last", this.changes.join(" · ") || "nothing yet");
    this.tell("did nothing", this.nothing);
    const rows = actionRows(input);
    const listed = rows.map(({ name }) => name).join();
    if (listed !== this.listed) {
      this.listed = listed;
      this.actions.replaceChildren(...rows.flatMap(({ name }) => [element("dt", name), element("dd", "")]));
    }
    rows.forEach(({ text, isOn }, n) => {
      const cell = this.actions.children[2 * n + 1] as HTMLElement;
      if (cell.textContent !== text) cell.textContent = text;
      cell.classList.toggle("on", isOn);
    });
    this.strip.draw(rows);
  }

  /** Sets text, if it differs: a label from a file is never markup. */
  private tell(name: string, text: string): void {
    const node = this.parts.get(name)!;
    if (node.data === text) return;
    node.data = text;
    node.parentElement!.hidden = text === "";
  }

  private save(): void {
    const text = this.recorder?.text({ lastMs: SAVE_MS, now: performance.now() }) ?? "";
    const address = URL.createObjectURL(new Blob([text], { type: "application/x-ndjson" }));
    const link = Object.assign(document.createElement("a"), { href: address, download: "input.trace.jsonl" });
    link.click();
    setTimeout(() => URL.revokeObjectURL(address), 10_000);
  }
}

const LOOKING = Symbol.for(LOOKS);

/** While it looks, a game in development has what its build will lack. */
function looking(look: () => void): void {
  const page = globalThis as { [LOOKING]?: boolean };
  page[LOOKING] = true;
  try {
    look();
  } finally {
    page[LOOKING] = false;
  }
}

const seconds = (t: number) => `${(t / 1000).toFixed(2)} s`;

function element(name: string, ...children: (Node | string)[]): HTMLElement {
  const made = document.createElement(name);
  made.append(...children);
  return made;
}

function button(text: string, label: string, onClick: () => void): HTMLElement {
  const made = element("button", text);
  made.title = label;
  (made as HTMLButtonElement).type = "button";
  made.addEventListener("click", onClick);
  return made;
}
