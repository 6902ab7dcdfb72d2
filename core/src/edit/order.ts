import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing';

/** Fractional keys: texts between which there is always another, in plain string order. */

/** `count` keys after `before` and before `after`; null stands for an end. */
export function keysBetween(before: string | null, after: string | null, count: number): string[] {
  const upper = before !== null && after !== null && after <= before ? null : after;
  try {
    return generateNKeysBetween(before, upper, count);
  } catch {
    // A key that another writer made by another rule: fall back to one that certainly comes after it.
    const keys: string[] = [];
    for (let i = 0; i < count; i++) keys.push(`${keys.at(-1) ?? before ?? 'a0'}V`);
    return keys;
  }
}

export const keyBetween = (before: string | null, after: string | null): string => keysBetween(before, after, 1)[0] ?? generateKeyBetween(null, null);
