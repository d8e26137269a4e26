/**
 * Runs in a page during development: it remembers which layers play by a plan's file, and switches them to the changed one; and calls that the build
 * will lack, since it was told which it has, throw already here. As text, since Vite serves it.
 */
export const RELOAD = `
const MADE = Symbol.for("reacher.layerMade");
const plans = new WeakMap();
const before = globalThis[MADE];
globalThis[MADE] = (plan, layer) => {
  before?.(plan, layer);
  const known = plans.get(plan);
  if (known === undefined) return;
  known.layers.add(new WeakRef(layer));
  setters.set(layer, layer.setPlan.bind(layer));
  for (const one of [layer, ...layer.seats.map((name) => layer.seat(name))]) leaveOut(one, known.left);
};
const setters = new WeakMap();

function leaveOut(layer, calls) {
  for (const call of calls)
    if (typeof layer[call] === "function")
      Object.defineProperty(layer, call, {
        value: () => {
          throw new Error("this game is built without " + call + "; add it to the calls in reacher({ calls })");
        },
      });
}

/** Layers made of this plan, or of an earlier state of its file. */
export function follow(plan, hot, left) {
  const layers = (hot.data.layers ??= new Set());
  plans.set(plan, { layers, left });
  return (next) => {
    for (const one of layers) {
      const layer = one.deref();
      if (layer === undefined) layers.delete(one);
      else setters.get(layer)(next);
    }
  };
}
`;
