/** Which keys belong to the page rather than to the game. In: the focused element and a key. Out: yes or no. Pure but for reading the DOM. */

/** Input types that take no text. */
const NO_TEXT = new Set([
  "button",
  "checkbox",
  "color",
  "file",
  "image",
  "radio",
  "range",
  "reset",
  "submit",
]);

/** Keys by which a focused button, list or slider is worked. */
const WORKING_KEYS = new Set(
  "Space Enter NumpadEnter Tab Escape ArrowUp ArrowDown ArrowLeft ArrowRight Home End PageUp PageDown".split(
    " ",
  ),
);

const WORKED =
  "a[href],button,input,select,summary,label,audio[controls],video[controls],dialog,[role=button],[role=link],[role=checkbox],[role=switch]," +
  "[role=radio],[role=radiogroup],[role=slider],[role=spinbutton],[role=tab],[role=tablist],[role=menu],[role=menuitem],[role=listbox]," +
  "[popover],[role=option],[role=combobox],[role=tree],[role=grid],[role=dialog]";

/** Elements that only need a press: the arrow keys are free for the game. */
const PRESSED =
  "a[href],button,summary,[role=button],[role=link],input[type=checkbox],[role=checkbox],[role=switch]";
const PRESSING_KEYS = new Set(["Space", "Enter", "NumpadEnter", "Tab"]);

/** Whether keys typed here make text. */
export function takesText(target: EventTarget | null): boolean {
  const element = asElement(target);
  if (element === null) return false;
  if ((element as HTMLElement).isContentEditable) return true;
  const name = element.localName;
  if (name === "textarea" || name === "select") return true;
  return name === "input" && !NO_TEXT.has((element as HTMLInputElement).type);
}

/** Whether the page needs this key where the focus is. */
export function pageTakesKey(target: EventTarget | null, code: string): boolean {
  if (takesText(target)) return true;
  const isPressed = asElement(target)?.matches?.(PRESSED) === true;
  return isPressed ? PRESSING_KEYS.has(code) : WORKING_KEYS.has(code) && isWorked(target);
}

/** Whether the page shows something that Escape closes. */
export function isSomethingOpen(page: Document): boolean {
  try {
    return page.querySelector?.("dialog[open], :popover-open") != null;
  } catch {
    // A browser without popovers.
    return page.querySelector("dialog[open]") !== null;
  }
}

/** Whether a click here is for a control of the page. */
export function isWorked(target: EventTarget | null): boolean {
  return takesText(target) || asElement(target)?.closest(WORKED) != null;
}

function asElement(target: EventTarget | null): Element | null {
  return target !== null && "closest" in target ? (target as Element) : null;
}
