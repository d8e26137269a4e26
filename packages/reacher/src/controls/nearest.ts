/** Finds the known name that somebody probably meant. In: a misspelt word and the known ones. Out: one of these, or nothing. */

/** The nearest of `known` to `word`, or `undefined` where nothing is near enough to be worth a suggestion. */
export function nearest(word: string, known: Iterable<string>): string | undefined {
  if (typeof word !== "string" || !(Symbol.iterator in Object(known))) return undefined;
  // A word this long is not a misspelt name, and the comparison takes quadratic time.
  if (word.length > 60) return undefined;
  const bare = word.toLowerCase();
  const pieces = sortedPieces(word);
  let best: string | undefined;
  let bestCost = Math.max(2, Math.floor(word.length / 3)) + 1;
  const costOf = (name: string) => {
    // The same words in another order: LeftShift for ShiftLeft.
    if (sortedPieces(name) === pieces) return 0.5;
    const cost = editCost(bare, name.toLowerCase());
    // A first word alone: gap for gapMs, dead for deadZone.
    return bare.length > 2 && name.startsWith(bare) ? Math.min(cost, 1.5) : cost;
  };
  for (const name of known) {
    const cost = costOf(name);
    if (cost < bestCost) {
      best = name;
      bestCost = cost;
    }
  }
  return best;
}

/** `; did you mean X?`, or nothing where no known name is near. */
export function didYouMean(word: string, known: Iterable<string>): string {
  const name = nearest(word, known);
  return name === undefined ? "" : `; did you mean ${name}?`;
}

function sortedPieces(name: string): string {
  return (name.match(/[A-Z]?[a-z]+|\d+|[A-Z]+/g) ?? [])
    .map((piece) => piece.toLowerCase())
    .sort()
    .join(" ");
}

/** Letters to insert, remove, replace or swap with their neighbour (optimal string alignment). */
function editCost(a: string, b: string): number {
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      row[j] = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        row[j] = Math.min(row[j]!, before[j - 2]! + 1);
    }
    before = last;
    last = row;
  }
  return last[b.length]!;
}
