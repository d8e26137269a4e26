/**
 * A button of the page that was clicked by mouse or finger keeps the focus in most browsers, and with it Space and Enter. In: clicks. Out: the focus
 * goes back to the page, and the keys to the game. Whoever presses it by key keeps it (W3C UI Events: such a click has no `detail`).
 */
import { targetOf, type Listen } from "./listening.js";

const BUTTONS = "button, [role=button], input:is([type=button], [type=submit], [type=reset])";
/** Who is in a dialog works it, and steps on by key. */
const DIALOGS = "dialog, [role=dialog], [role=alertdialog]";

export function attachClickedButton(view: Window, listen: Listen): void {
  listen<MouseEvent>(view, "click", (event) => {
    const target = targetOf(event);
    if (event.detail === 0 || target === null || !("closest" in target)) return;
    const button = (target as Element).closest<HTMLElement>(BUTTONS);
    if (button === null || button.closest(DIALOGS) !== null) return;
    // What the page does with the click comes first: it may give the focus to something else.
    view.setTimeout(() => {
      if ((button.getRootNode() as Document | ShadowRoot).activeElement === button) button.blur();
    });
  });
}
