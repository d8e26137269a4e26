/** What a page runs in development. As text, since Vite serves it. */
import { LATER, LOOKS, WAITS } from "../plan/later.js";

/**
 * Runs in a page during development: it remembers which layers play by a plan's file, and switches them to the changed one; and calls that the build
 * will lack, since it was told which it has, throw already here, and so do players' keys that it loads later.
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
  const all = [layer, ...layer.seats.map((name) => layer.seat(name))];
  for (const one of all) leaveOut(one, known.left);
  if (known.open !== null) waitForKeys(layer, all, known.open);
};
const setters = new WeakMap();

function leaveOut(layer, calls) {
  for (const call of calls) {
    const { get, value = get } = fieldOf(layer, call);
    // A plan's text is read by the library as well.
    if (typeof value !== "function" || call === "plan" || call === "own") continue;
    const refused = (...given) => {
      if (looks()) return value.apply(layer, given);
      throw new Error("this game is built without " + call + "; add it to the calls in reacher({ calls })");
    };
    Object.defineProperty(layer, call, get === undefined ? { value: refused } : { get: refused });
  }
}

function fieldOf(layer, name) {
  for (let at = layer; at !== null; at = Object.getPrototypeOf(at)) {
    const found = Object.getOwnPropertyDescriptor(at, name);
    if (found !== undefined) return found;
  }
  return {};
}

const looks = () => globalThis[Symbol.for(${JSON.stringify(LOOKS)})] === true;

function waitForKeys(layer, all, open) {
  const bring = layer.bringKeys.bind(layer);
  const intercept = layer.intercept.bind(layer);
  let isHere = false;
  const wait = (call) => {
    if (!isHere) throw new Error(${JSON.stringify(LATER)} + call);
  };
  Object.defineProperty(layer, Symbol.for(${JSON.stringify(WAITS)}), { get: () => !isHere && !looks() });
  Object.defineProperty(layer, "intercept", { value: (...given) => (wait("capture of a key"), intercept(...given)) });
  const needsNothing = (given) =>
    Object.keys({ ...given?.controls }).length === 0 &&
    Object.keys({ ...given?.settings }).every((address) => open.includes(address));
  Object.defineProperty(layer, "bringKeys", {
    value: (given) => bring().then(() => void (isHere ||= given === undefined || !needsNothing(given))),
  });
  for (const one of all) {
    const set = one.setOverrides.bind(one);
    Object.defineProperty(one, "setOverrides", {
      value: (given) => {
        if (!needsNothing(given)) wait("setOverrides");
        return set(given);
      },
    });
  }
}

/** Layers made of this plan, or of an earlier state of its file. */
export function follow(plan, hot, left, open) {
  const layers = (hot.data.layers ??= new Set());
  plans.set(plan, { layers, left, open });
  return (next) => {
    for (const one of layers) {
      const layer = one.deref();
      if (layer === undefined) layers.delete(one);
      else setters.get(layer)(next);
    }
  };
}
`;
