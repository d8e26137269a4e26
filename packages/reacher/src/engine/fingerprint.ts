/** A number for a text (FNV-1a, 32 bits): snapshots of another plan are told apart by it, and reasons of mutes known again. */
export function fingerprint(text: string): number {
  let hash = 0x811c9dc5 | 0;
  for (let n = 0; n < text.length; n++) hash = Math.imul(hash ^ text.charCodeAt(n), 0x01000193);
  return hash;
}
