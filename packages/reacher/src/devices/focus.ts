/** Lost focus: a release that the page will never hear of. In: blur and hiding. Out: a cancellation, told to the layer. */
import { stampOf, type Fed, type Listen } from "./listening.js";

export function attachFocus(view: Window, input: Fed, listen: Listen, forget: () => void): void {
  const lose = (event: Event) => {
    forget();
    input.lose("focus", stampOf(view, event));
  };
  listen(view, "blur", (event) => {
    // Focus moving between elements of the page blurs those, not the window.
    if (event.target === view) lose(event);
  });
  listen(view, "pagehide", lose);
  listen(view.document, "visibilitychange", (event) => {
    if (view.document.visibilityState === "hidden") lose(event);
  });
}
