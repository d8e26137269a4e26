/**
 * Readings and players' keys in React. In: a layer, and what a component wants of it. Out: values that render a component when they change, and only then.
 *
 * @module reacher/react
 */
import { useCallback, useRef, useSyncExternalStore } from "react";
import type { InputLayer } from "../layer/types.js";
import { mustCall, mustHave } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";

/** Components of one layer look once a frame, together, for as long as there are any. */
const looking = new WeakMap<object, Set<() => void>>();

function look(input: object, look: () => void): () => void {
  let all = looking.get(input);
  if (all === undefined) looking.set(input, (all = new Set()));
  all.add(look);
  if (all.size === 1)
    requestAnimationFrame(function frame() {
      if (all.size === 0) return;
      requestAnimationFrame(frame);
      for (const one of all) one();
    });
  return () => void all.delete(look);
}

/**
 * What `pick` takes of an action's reading, once a frame: `useReading(input, "swim", ({ gait }) => gait)`. The component renders when that changes: by
 * value, or, if it is an object, by its fields. For what moves each frame, read the layer in your loop instead.
 * @throws ReacherError if the layer's plan has no such action
 */
export function useReading<N extends object, A extends keyof N & string, T>(
  input: { readonly now: N },
  action: A,
  pick: (reading: N[A]) => T,
): T {
  mustHave(input, ["step"], "input layer; give what createInputLayer makes");
  mustCall(pick, "useReading(input, action, pick)");
  if (!Object.hasOwn(input.now, action))
    throw new ReacherError(
      `the plan has no action ${shown(action)}; it has ${Object.keys(input.now).join(", ")}`,
    );
  const known = useRef<{ readonly value: T } | null>(null);
  const get = (): T => {
    const value = pick(input.now[action]);
    if (known.current === null || !isSame(known.current.value, value)) known.current = { value };
    return known.current.value;
  };
  return useSyncExternalStore(
    useCallback((change) => look(input, change), [input]),
    get,
    get,
  );
}

/** By value; objects by their fields. */
function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  const names = Object.keys(a);
  return (
    names.length === Object.keys(b).length &&
    names.every((name) => Object.is(a[name as never], b[name as never]))
  );
}

/** Who shows a player's changes. */
const showing = new WeakMap<object, Set<() => void>>();

/**
 * A player's changes as a seat has them, and the call that changes them: it loads what they need (`bringKeys`), applies them, renders whoever shows them,
 * and gives those that did not fit. For a layer of several seats give `seat` as well. @throws ReacherError if this is no layer
 */
export function useOverrides(
  input: Pick<InputLayer, "bringKeys" | "seat" | "name">,
  seat: string = input.name,
): readonly [Overrides | null, (next: Overrides | null) => Promise<readonly OverrideFault[]>] {
  mustHave(input, ["seat", "bringKeys"], "input layer; give what createInputLayer makes");
  let all = showing.get(input);
  if (all === undefined) showing.set(input, (all = new Set()));
  const shows = all;
  // Before players' keys have come, a seat has no changes.
  const get = () => (input.seat(seat) as { readonly overrides?: Overrides | null }).overrides ?? null;
  const overrides = useSyncExternalStore(
    useCallback((change) => (shows.add(change), () => void shows.delete(change)), [shows]),
    get,
    get,
  );
  const change = useCallback(
    async (next: Overrides | null) => {
      await input.bringKeys(next);
      const faults = input.seat(seat).setOverrides(next);
      for (const show of shows) show();
      return faults;
    },
    [input, seat, shows],
  );
  return [overrides, change];
}
