/**
 * Remembers what was made last, by what decides it: whoever asks for the same, also while it is being made, gets that. What
 * failed is made anew. Only ever a shortcut.
 *
 * @param most so many are remembered
 * @param keyOf what decides it, as plain data
 */
export function lately<In, Out>(most: number, make: (input: In) => Promise<Out>, keyOf: (input: In) => unknown): (input: In) => Promise<Out> {
  const kept = new Map<string, Promise<Out>>();
  return (input) => {
    const key = JSON.stringify(keyOf(input));
    const known = kept.get(key);
    if (known) return known;
    const made = make(input);
    kept.set(key, made);
    made.catch(() => kept.delete(key));
    for (const oldest of kept.keys()) if (kept.size > most) kept.delete(oldest);
    return made;
  };
}
