/**
 * A browser's devices as raw events, for whoever takes them: a layer, a worker, a socket, a recorder. In: the window's events and pads. Out: events and losses,
 * with moments on one clock.
 */
import type { InputLayer } from "../layer/types.js";
import { mustBeOptions, mustHave } from "../plan/arguments.js";
import { ReacherError } from "../plan/errors.js";
import { attachClickedButton } from "./clickedButton.js";
import { attachFocus } from "./focus.js";
import { attachKeyboard } from "./keyboard.js";
import { nowIn, type Fed, type Listen } from "./listening.js";
import { attachMouse } from "./mouse.js";
import { ownWindow } from "./ownWindow.js";
import { PadLayouts } from "./padLayouts.js";
import type { PadSource } from "./padLike.js";
import { attachPads } from "./pads.js";

/** How `attachBrowser` and `listenBrowser` listen. */
export interface BrowserOptions {
  /** The window whose keys, mouse, pads and focus are heard. @default the global window */
  readonly window?: Window;
  /** Where pads are read from, as `navigator.getGamepads` gives them. @default the window's own */
  readonly pads?: PadSource;
  /** Learnt layouts of pads that do not report the standard one. @default those in the page's `localStorage` */
  readonly layouts?: PadLayouts;
  /** Where mouse presses and touches count: those that begin inside this element. @default anywhere but on the page's own controls */
  readonly area?: Element;
  /** Whether pads count while the page has no focus, as on a second screen. @default false */
  readonly padsInBackground?: boolean;
  /** Called once if the page may not read pads at all (its permissions policy): keyboard and mouse go on. */
  readonly onFault?: (message: string) => void;
}

/**
 * Gives the browser's raw events to anything that has `feed` and `lose`: keyboard by `code`, mouse, pads (polled once a frame), lost focus. `uses` says of
 * which controls the browser's own action is prevented and which movements are worth an event; without it of all, which takes scrolling and
 * shortcuts from the page. Returns the call that ends it, which tells a lost focus and leaves no listener behind; it is `false` from the second time on.
 * @throws ReacherError if it cannot take events, or there is no window
 */
export function listenBrowser(
  sink: Pick<InputLayer, "feed"> & {
    lose(what: string, ...rest: readonly unknown[]): void;
    uses?(control: string): boolean;
  },
  options: BrowserOptions & {
    /** The clock that moments are given on, by its `performance.timeOrigin` (W3C High Resolution Time): a worker's, say. @default this page's */
    readonly timeOrigin?: number;
  } = {},
): () => boolean {
  mustBeOptions(options);
  mustHave(sink, ["feed", "lose"], "taker of raw events; it has feed and lose");
  const { timeOrigin } = options;
  if (timeOrigin !== undefined && !Number.isFinite(timeOrigin))
    throw new ReacherError("timeOrigin is a clock's performance.timeOrigin, in ms");
  const view = options.window ?? ownWindow("listenBrowser");
  mustHave(view, ["addEventListener"], "window");
  const fed =
    sink.uses === undefined || timeOrigin !== undefined ? onClock(sink as Fed, timeOrigin) : (sink as Fed);
  const ends: (() => void)[] = [];
  const listenTo = (target: EventTarget, type: string, fn: (event: never) => void) => {
    // Capture: a game hears a key before a page's own handler can stop it. Not passive: defaults may have to be prevented.
    const listenerOptions = { capture: true, passive: false };
    target.addEventListener(type, fn as EventListener, listenerOptions);
    ends.push(() => target.removeEventListener(type, fn as EventListener, listenerOptions));
  };
  const listen: Listen = Object.assign(listenTo, { ends: (fn: () => void) => void ends.push(fn) });

  const keyboard = attachKeyboard(view, fed, listen);
  const mouse = attachMouse(view, fed, listen, keyboard, options.area);
  const pads = attachPads(
    view,
    fed,
    listen,
    options.pads ?? (() => view.navigator.getGamepads()),
    options.layouts ?? keptPadLayouts(view),
    options.padsInBackground === true,
    options.onFault ?? (() => undefined),
  );
  attachClickedButton(view, listen);
  attachFocus(view, fed, listen, keyboard, () => {
    keyboard.forget();
    mouse.forget();
    pads.forget();
  });
  ends.push(() => pads.detach());

  let isListening = true;
  return () => {
    if (!isListening) return false;
    isListening = false;
    for (const end of ends) end();
    fed.lose("focus", nowIn(view));
    return true;
  };
}

/** The same taker, of moments on another clock. */
function onClock(sink: Fed, timeOrigin: number = performance.timeOrigin): Fed {
  const shift = performance.timeOrigin - timeOrigin;
  return {
    feed: (event) => sink.feed({ ...event, t: event.t + shift }),
    lose: (what: string, ...rest: readonly unknown[]) => {
      const moment = rest.length - 1;
      sink.lose(
        ...([what, ...rest.map((one, n) => (n === moment ? (one as number) + shift : one))] as Parameters<
          Fed["lose"]
        >),
      );
    },
    uses: (control) => sink.uses?.(control) ?? true,
  };
}

/** The layouts that are kept in a page's `localStorage`; a page that is denied its storage keeps them for as long as it is open. */
export function keptPadLayouts(view: Window = ownWindow("keptPadLayouts")): PadLayouts {
  try {
    return new PadLayouts(view.localStorage);
  } catch {
    return new PadLayouts();
  }
}
