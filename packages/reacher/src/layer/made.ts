/**
 * Tells whoever listens of each layer that is made of a plan: in development a changed plan finds the layers that play by it. In a
 * game as it ships nobody listens.
 */

/** Where the listener stands, for every copy of the library in a page. */
const LISTENER = Symbol.for("reacher.layerMade");

type Listener = (plan: object, layer: object) => void;

export function tellMade(plan: object, layer: object): void {
  (globalThis as { [LISTENER]?: Listener })[LISTENER]?.(plan, layer);
}
