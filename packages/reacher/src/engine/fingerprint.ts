/** Hashes a text (FNV-1a, 32 bits): tells snapshots of other plans apart, and identifies the reasons of mutes. */
export function fingerprint(text: string, hash = 0x811c9dc5 | 0): number {
  for (let n = 0; n < text.length; n++) hash = Math.imul(hash ^ text.charCodeAt(n), 0x01000193);
  return hash;
}

/** Hashes of plans' texts, which are long, so that each seat need not hash them again. */
const known = new WeakMap<object, number>();

/** Hashes a plan and the slots of a seat. */
export function printOf(plan: object, slots: readonly string[]): number {
  let print = known.get(plan);
  if (print === undefined) known.set(plan, (print = fingerprint(`[${JSON.stringify(plan)},`)));
  return fingerprint(`${JSON.stringify(slots)}]`, print);
}
