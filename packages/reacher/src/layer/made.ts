/**
 * Announces each layer made of a plan to a listener: in development a changed plan finds the layers that play by it. In a
 * released game nothing listens.
 */

/** The global key of the listener, shared by every copy of the library in a page. */
const LISTENER = Symbol.for("reacher.layerMade");

type Listener = (plan: object, layer: object) => void;

export function notifyMade(plan: object, layer: object): void {
  (globalThis as { [LISTENER]?: Listener })[LISTENER]?.(plan, layer);
}
