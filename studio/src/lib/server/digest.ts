import { createHash } from 'node:crypto';

/** The SHA-256 of bytes or of a text, in hexadecimal. */
export const sha256 = (content: Uint8Array | string): string => createHash('sha256').update(content).digest('hex');
