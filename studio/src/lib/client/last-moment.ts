/**
 * What a window keeps as it goes. A database takes its time, and a page that is left has none: what is still on its way there
 * is written beside it, at once, until it has been taken up. Where the browser keeps nothing, nothing is left.
 */
export function leaveAtLast(storage: () => Storage, key: string, value: unknown): void {
  try {
    storage().setItem(key, JSON.stringify(value));
  } catch {
    // No room, or none at all.
  }
}

/** What was left under keys that begin so, by its key. */
export function leftAtLast(storage: () => Storage, start: string): Map<string, unknown> {
  const left = new Map<string, unknown>();
  try {
    for (const key of Object.keys(storage()).filter((key) => key.startsWith(start))) left.set(key, JSON.parse(storage().getItem(key) ?? 'null'));
  } catch {
    // What cannot be read was not written by this page.
  }
  return left;
}

export function forgetLeft(storage: () => Storage, key: string): void {
  try {
    storage().removeItem(key);
  } catch {
    // There is nothing to forget.
  }
}
