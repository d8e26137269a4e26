/** Four keys of a vector that do not lie as their directions say, but would if dealt otherwise. In: an entry's keys. Out: the right dealing. Pure. */
import { keyPlace, type KeyPlace } from "../../controls/keyPlaces.js";

/** Four controls by direction. */
export interface Four {
  readonly up: string;
  readonly left: string;
  readonly down: string;
  readonly right: string;
}

/** Where the sides of a stick or a direction pad lie. */
const SIDES: Readonly<Record<string, readonly [x: number, y: number]>> = {
  Up: [1, 0],
  Left: [0, 1],
  Down: [1, 2],
  Right: [2, 1],
};

/** The same controls as they lie on the board; `undefined` where they lie right as given, or right in no way. */
export function dealtRight(given: Four): Four | undefined {
  const names = [given.up, given.left, given.down, given.right];
  // A control that stands twice is no other order of four; it is told of as such.
  if (new Set(names).size < names.length) return undefined;
  const places = names.map(keyPlaceOf);
  if (places.some((place) => place === undefined || place.block !== places[0]!.block)) return undefined;
  const [up, left, down, right] = places as [KeyPlace, KeyPlace, KeyPlace, KeyPlace];
  if (score(up, left, down, right) > 0) return undefined;
  let best: Four | undefined;
  let most = 0;
  for (const order of ORDERS) {
    const [a, b, c, d] = order.map((n) => places[n]!) as [KeyPlace, KeyPlace, KeyPlace, KeyPlace];
    const own = score(a, b, c, d);
    if (own <= most) continue;
    most = own;
    const [u, l, dn, r] = order.map((n) => names[n]!) as [string, string, string, string];
    best = { up: u, left: l, down: dn, right: r };
  }
  return best;
}

/** How well four places lie: from left to right, and from up to down, each at least as far along as across. 0: they do not. */
function score(up: KeyPlace, left: KeyPlace, down: KeyPlace, right: KeyPlace): number {
  const [along, across] = [right.x - left.x, Math.abs(right.y - left.y)];
  const [fall, aside] = [down.y - up.y, Math.abs(down.x - up.x)];
  if (along <= 0 || along < across || fall <= 0 || fall < aside) return 0;
  return 10 + along + fall - across - aside;
}

function keyPlaceOf(name: string): KeyPlace | undefined {
  const [, block, side] = /^(Pad\w*?)(Up|Down|Left|Right)$/.exec(name) ?? [];
  if (block === undefined) return keyPlace(name);
  const [x, y] = SIDES[side!]!;
  return { block, x, y };
}

/** All orders of four. */
const ORDERS: readonly (readonly number[])[] = [0, 1, 2, 3].flatMap((a) =>
  [0, 1, 2, 3]
    .filter((b) => b !== a)
    .flatMap((b) => [0, 1, 2, 3].filter((c) => c !== a && c !== b).map((c) => [a, b, c, 6 - a - b - c])),
);
