/** A number for a text (FNV-1a, 32 bits): snapshots of another plan are told apart by it, and reasons of mutes known again. */
export function fingerprint(text: string, hash = 0x811c9dc5 | 0): number {
  for (let n = 0; n < text.length; n++) hash = Math.imul(hash ^ text.charCodeAt(n), 0x01000193);
  return hash;
}

/** Of a plan's own text, which is long; each seat has tables of its own. */
const known = new WeakMap<object, number>();

/** A number for a plan and the slots of a seat. */
export function printOf(plan: object, slots: readonly string[]): number {
  let print = known.get(plan);
  if (print === undefined) known.set(plan, (print = fingerprint(`[${JSON.stringify(plan)},`)));
  return fingerprint(`${JSON.stringify(slots)}]`, print);
}
