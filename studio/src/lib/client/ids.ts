import { customAlphabet } from 'nanoid';

/** A short random id that begins with a letter or a digit, as documents want it. */
export const newId = customAlphabet('0123456789ABCDEFGHJKMNPQRSTVWXYZabcdefghjkmnpqrstvwxyz', 12);
