/** What this browser keeps under a name, as it was written; null for nothing, and for what cannot be read. */
export function kept(name: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(name) ?? 'null');
  } catch {
    return null;
  }
}
