const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Bytes of a text in base64 (RFC 4648); null for what is none. */
export function fromBase64(text: string): Uint8Array | null {
  const plain = text.replace(/\s+/g, '').replace(/=+$/, '');
  if (!/^[A-Za-z0-9+/]*$/.test(plain)) return null;
  const bytes = new Uint8Array(Math.floor((plain.length * 3) / 4));
  let [bits, held, at] = [0, 0, 0];
  for (const letter of plain) {
    bits = ((bits << 6) | LETTERS.indexOf(letter)) & 0xffffff;
    held += 6;
    if (held >= 8) {
      held -= 8;
      bytes[at++] = (bits >> held) & 255;
    }
  }
  return bytes;
}
