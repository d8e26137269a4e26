/**
 * Level of detail for one row of a drawing. In: things by time. Out: those that are drawn individually, and, where they are too close
 * together to be pointed at, the ranges that they fill. Pure.
 */

export interface Span {
  readonly from: number;
  readonly to: number;
}

/** The visible range of time, and the position of its moments, in pixels. */
export interface Part extends Span {
  readonly x: (t: number) => number;
}

/** Up to this many are drawn individually, however narrow. */
const FEW = 60;
/** Of more, only those at least this wide can be pointed at, in pixels. */
export const POINTABLE = 5;
/** Closer together than this, in pixels, nobody sees a gap. */
const GAP = 1;

export interface Apart<One> {
  readonly single: readonly One[];
  readonly stretches: readonly Span[];
}

/** Bars in order of time. */
export function tellApart<One extends Span>(all: readonly One[], part: Part): Apart<One> {
  const seen = all.filter(({ from, to }) => to >= part.from && from <= part.to);
  if (seen.length <= FEW) return { single: seen, stretches: [] };
  const single: One[] = [];
  const stretches: { from: number; to: number }[] = [];
  const { x } = part;
  for (const one of seen) {
    const last = stretches.at(-1);
    if (x(one.to) - x(one.from) >= POINTABLE) single.push(one);
    else if (last !== undefined && x(one.from) - x(last.to) < GAP) last.to = Math.max(last.to, one.to);
    else stretches.push({ from: one.from, to: one.to });
  }
  return { single, stretches };
}

/** Thins out moments in order of time: all of them if they are few, otherwise one of those that coincide. */
export function thinned<One extends { readonly at: number }>(
  all: readonly One[],
  part: Part,
): { readonly shown: readonly One[]; readonly isCrowded: boolean } {
  const seen = all.filter(({ at }) => at >= part.from && at <= part.to);
  if (seen.length <= FEW) return { shown: seen, isCrowded: false };
  let last = -Infinity;
  const shown = seen.filter(({ at }) => {
    const isFree = part.x(at) - last >= POINTABLE;
    if (isFree) last = part.x(at);
    return isFree;
  });
  return { shown, isCrowded: true };
}

/** Thins out values that hold until the next: the largest of those that fall on one pixel. */
export function perPixel<One extends { readonly at: number }>(
  all: readonly One[],
  size: (one: One) => number,
  end: number,
  part: Part,
): { readonly from: number; readonly to: number; readonly one: One }[] {
  const found: { from: number; to: number; one: One }[] = [];
  all.forEach((one, n) => {
    const to = all[n + 1]?.at ?? end;
    if (to < part.from || one.at > part.to) return;
    const last = found.at(-1);
    if (last === undefined || part.x(to) - part.x(last.from) >= GAP) found.push({ from: one.at, to, one });
    else {
      last.to = to;
      if (size(one) > size(last.one)) last.one = one;
    }
  });
  return found;
}
