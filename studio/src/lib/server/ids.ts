import { randomBytes } from 'node:crypto';

const LETTERS = '0123456789ABCDEFGHJKMNPQRSTVWXYZabcdefghjkmnpqrstvwxyz';

/** A short random id of letters and digits, about 92 bits. */
export function newId(): string {
  let id = '';
  while (id.length < 16) for (const byte of randomBytes(16)) if (byte < 212 && id.length < 16) id += LETTERS[byte % LETTERS.length];
  return id;
}
