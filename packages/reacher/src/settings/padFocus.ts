/**
 * Works a screen by pad: the left stick and the direction buttons move the focus, the lower button presses, the right one leaves (W3C Gamepad, standard
 * layout). In: pads, once a frame. Out: moved focus, and clicks. May change: which way is held.
 */

/** From here on a stick means a direction, and below the second value none. */
const PRESS = 0.5;
const RELEASE = 0.3;
/** A direction that is held repeats after this, and then at this rate, in ms. */
const FIRST_MS = 400;
const NEXT_MS = 120;
/** The buttons: lower, right; then up, down, left, right. */
const [SOUTH, EAST, UP, DOWN, LEFT, RIGHT] = [0, 1, 12, 13, 14, 15];
/** Distance to the side weighs more. */
const ASIDE = 3;

export interface PadScreen {
  /** What may have the focus now. */
  reachable(): HTMLElement[];
  /** What has it. */
  focused(): Element | null;
  leave(): void;
  /** Whether the pad is taken elsewhere: a key is being chosen. */
  readonly isBusy: boolean;
}

/** Begins to listen; returns what ends it. */
export function workByPad(view: Window, screen: PadScreen): () => void {
  let frame = 0;
  let way = "";
  let nextAt = 0;
  // What is down already when the screen opens presses nothing on it.
  let [isPressed, isLeaving] = [true, true];
  const look = (now: number) => {
    frame = view.requestAnimationFrame(look);
    const pads = view.navigator.getGamepads().filter((pad) => pad !== null && pad.mapping === "standard");
    const isDown = (button: number) => pads.some((pad) => pad!.buttons[button]?.pressed === true);
    const least = way === "" ? PRESS : RELEASE;
    const axis = (n: number) =>
      pads.map((pad) => pad!.axes[n] ?? 0).find((value) => Math.abs(value) >= least) ?? 0;
    const [across, along] = [axis(0), axis(1)];
    const x = isDown(LEFT)
      ? -1
      : isDown(RIGHT)
        ? 1
        : Math.abs(across) >= Math.abs(along)
          ? Math.sign(across)
          : 0;
    const y = isDown(UP) ? -1 : isDown(DOWN) ? 1 : x === 0 ? Math.sign(along) : 0;
    const before = way;
    way = x === 0 && y === 0 ? "" : `${x} ${y}`;
    const [was, left] = [isPressed, isLeaving];
    [isPressed, isLeaving] = [isDown(SOUTH), isDown(EAST)];
    if (screen.isBusy) {
      [isPressed, isLeaving] = [true, true];
      return;
    }
    if (way !== "" && (way !== before || now >= nextAt)) {
      nextAt = now + (way === before ? NEXT_MS : FIRST_MS);
      step(screen, x, y);
    }
    const focused = screen.focused();
    if (isPressed && !was && focused instanceof HTMLElement) focused.click();
    if (isLeaving && !left) screen.leave();
  };
  frame = view.requestAnimationFrame(look);
  return () => view.cancelAnimationFrame(frame);
}

/** Moves the focus to the nearest that way, y down; a slider or a list with the focus takes left and right itself. */
function step(screen: PadScreen, x: number, y: number): void {
  const present = screen.focused();
  if (x !== 0 && present instanceof HTMLInputElement && present.type === "range") {
    if (x > 0) present.stepUp();
    else present.stepDown();
    present.dispatchEvent(new Event("input", { bubbles: true }));
    return;
  }
  if (x !== 0 && present instanceof HTMLSelectElement) {
    const index = present.selectedIndex + x;
    if (index < 0 || index >= present.options.length) return;
    present.selectedIndex = index;
    present.dispatchEvent(new Event("change", { bubbles: true }));
    return;
  }
  const all = screen.reachable();
  const target = all.includes(present as HTMLElement) ? nearest(present as HTMLElement, all, x, y) : all[0];
  target?.focus();
  target?.scrollIntoView({ block: "nearest" });
}

function nearest(
  from: HTMLElement,
  all: readonly HTMLElement[],
  x: number,
  y: number,
): HTMLElement | undefined {
  const origin = middle(from);
  const far = (element: HTMLElement) => {
    const to = middle(element);
    const along = (to.x - origin.x) * x + (to.y - origin.y) * y;
    const aside = Math.abs((to.x - origin.x) * y) + Math.abs((to.y - origin.y) * x);
    return along <= 4 ? Infinity : along + aside * ASIDE;
  };
  const [best] = all
    .map((element) => ({ element, far: element === from ? Infinity : far(element) }))
    .filter((one) => one.far < Infinity)
    .sort((a, b) => a.far - b.far);
  return best?.element;
}

function middle(element: HTMLElement): { x: number; y: number } {
  const box = element.getBoundingClientRect();
  return { x: box.left + box.width / 2, y: box.top + box.height / 2 };
}
