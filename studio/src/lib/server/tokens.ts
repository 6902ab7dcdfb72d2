import { randomBytes } from 'node:crypto';
import { sha256 } from './digest';

/** A secret for an address or a cookie, 256 random bits; what is kept of it is its digest alone. */
export function newToken(): { readonly token: string; readonly hash: string } {
  const token = randomBytes(32).toString('base64url');
  return { token, hash: sha256(token) };
}
