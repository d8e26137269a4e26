/** Moves the page's focus by a pad: to whatever stands nearest in a direction. In: the screen. Out: another element with the focus. */

const REACHABLE =
  "button:not([disabled]), [role=tab]:not([aria-disabled=true]), input:not([disabled]):not([type=hidden]), a[href]";
/** Distance to the side weighs more. */
const ASIDE = 3;

/** The screen that the pad works: the topmost dialog, else the menu. */
export function padScreen(): Element | null {
  return [...document.querySelectorAll("[role=dialog], [data-pad-screen]")].at(-1) ?? null;
}

/** Steps to the next element in this direction; x to the right, y up. A slider with the focus takes left and right itself. */
export function stepFocus(x: number, y: number): void {
  const screen = padScreen();
  if (screen === null) return;
  const present = document.activeElement;
  if (x !== 0 && present instanceof HTMLInputElement && present.type === "range") {
    const key = x > 0 ? "ArrowRight" : "ArrowLeft";
    for (const type of ["keydown", "keyup"])
      present.dispatchEvent(new KeyboardEvent(type, { key, code: key, bubbles: true, cancelable: true }));
    return;
  }
  const all = [...screen.querySelectorAll<HTMLElement>(REACHABLE)].filter(
    (element) => element.getClientRects().length > 0 && element.closest("[inert]") === null,
  );
  const inside = all.includes(present as HTMLElement);
  const target = inside ? nearest(present as HTMLElement, all, x, -y) : all[0];
  if (target === undefined) return;
  target.focus({ preventScroll: true });
  (target.closest("label, tr") ?? target).scrollIntoView({ block: "nearest" });
}

/** Presses what has the focus. False where nothing of the screen has it. */
export function pressFocus(): boolean {
  const screen = padScreen();
  const present = document.activeElement;
  if (screen === null || !(present instanceof HTMLElement) || !screen.contains(present)) return false;
  if (present === screen) return false;
  present.click();
  return true;
}

function nearest(
  from: HTMLElement,
  all: readonly HTMLElement[],
  x: number,
  y: number,
): HTMLElement | undefined {
  const origin = middle(from);
  let best: HTMLElement | undefined;
  let least = Infinity;
  for (const element of all) {
    if (element === from) continue;
    const to = middle(element);
    const along = (to.x - origin.x) * x + (to.y - origin.y) * y;
    const aside = Math.abs((to.x - origin.x) * y) + Math.abs((to.y - origin.y) * x);
    if (along <= 4) continue;
    const far = along + aside * ASIDE;
    if (far < least) {
      least = far;
      best = element;
    }
  }
  return best;
}

function middle(element: HTMLElement): { x: number; y: number } {
  // Inputs that are drawn by their label lie somewhere in it.
  const box = (element.closest("label") ?? element).getBoundingClientRect();
  return { x: box.left + box.width / 2, y: box.top + box.height / 2 };
}
