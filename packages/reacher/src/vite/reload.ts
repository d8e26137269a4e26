/**
 * Runs in a page during development: it remembers which layers play by a plan's file, and switches them to the changed one. As
 * text, since Vite serves it.
 */
export const RELOAD = `
const MADE = Symbol.for("reacher.layerMade");
const plans = new WeakMap();
const before = globalThis[MADE];
globalThis[MADE] = (plan, layer) => {
  before?.(plan, layer);
  plans.get(plan)?.add(new WeakRef(layer));
};

/** Layers made of this plan, or of an earlier state of its file. */
export function follow(plan, hot) {
  const layers = (hot.data.layers ??= new Set());
  plans.set(plan, layers);
  return (next) => {
    for (const one of layers) {
      const layer = one.deref();
      if (layer === undefined) layers.delete(one);
      else layer.setPlan(next);
    }
  };
}
`;
