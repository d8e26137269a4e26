/** Locks the pointer to the game (Pointer Lock): a view turns on and on, wherever the pointer would be. */

import { mustHave } from "../plan/arguments.js";
/** What browsers let a page ask for; older ones answer nothing. */
interface LockTarget {
  requestPointerLock(options?: { unadjustedMovement: boolean }): Promise<void> | undefined;
}

/**
 * Locks the pointer whenever the player clicks into `area`, as browsers ask: only a click may do it, and after Escape they refuse
 * for a second, so that the next click tries again. Without the system's acceleration, where the browser can leave that out.
 * Returns a function that stops it and frees the pointer.
 */
export function lockPointer(area: Element): () => void {
  mustHave(area, ["addEventListener"], "element to lock the pointer to");
  const { ownerDocument: page } = area;
  const target = area as unknown as LockTarget;
  const plainly = () => {
    try {
      void target.requestPointerLock()?.catch(() => undefined);
    } catch {
      // Refused: the next click tries again.
    }
  };
  /** Whether the browser cannot leave the acceleration out; asking is an error each time. */
  let isPlain = false;
  let isTrying = false;
  const hearError = (event: Event) => {
    // The first try without acceleration: what it says is not the page's concern.
    if (isTrying) event.stopImmediatePropagation();
    isTrying = false;
  };
  page.addEventListener("pointerlockerror", hearError, true);
  const lock = () => {
    if (page.pointerLockElement === area) return;
    if (isPlain) return plainly();
    isTrying = true;
    try {
      const asked = target.requestPointerLock({ unadjustedMovement: true });
      void asked?.catch((error: unknown) => {
        if ((error as { name?: string }).name !== "NotSupportedError") return;
        isPlain = true;
        plainly();
      });
    } catch {
      isPlain = true;
      plainly();
    }
  };
  area.addEventListener("click", lock);
  return () => {
    area.removeEventListener("click", lock);
    page.removeEventListener("pointerlockerror", hearError, true);
    if (page.pointerLockElement === area) page.exitPointerLock();
  };
}
