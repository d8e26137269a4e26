/** Bytes as text (RFC 4648, section 4), which every place where a layer runs can write. Pure. */

const SIGNS = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";

export function toBase64(bytes: Uint8Array): string {
  let text = "";
  for (let n = 0; n < bytes.length; n += 3) {
    const word = (bytes[n]! << 16) | ((bytes[n + 1] ?? 0) << 8) | (bytes[n + 2] ?? 0);
    for (let place = 0; place < 4; place++)
      text += n + place > bytes.length ? "=" : SIGNS[(word >> (18 - 6 * place)) & 63]!;
  }
  return text;
}

/** `undefined` if it is no such text. */
export function fromBase64(text: string): Uint8Array | undefined {
  if (!/^(?:[A-Za-z0-9+/]{4})*(?:[A-Za-z0-9+/]{2}==|[A-Za-z0-9+/]{3}=)?$/.test(text)) return undefined;
  const bytes = new Uint8Array((text.replace(/=+$/, "").length * 3) >> 2);
  let word = 0;
  for (let n = 0, at = 0; n < text.length && text[n] !== "="; n++) {
    word = (word << 6) | SIGNS.indexOf(text[n]!);
    if (n % 4 > 0) bytes[at++] = (word >> (6 - 2 * (n % 4))) & 255;
  }
  return bytes;
}
