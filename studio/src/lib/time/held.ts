/** What `make` gives; while it is held, what it gave last before. */
export function heldBack<T>(isHeld: () => boolean, make: () => T): () => T {
  let last: { readonly value: T } | null = null;
  return () => {
    if (!last || !isHeld()) last = { value: make() };
    return last.value;
  };
}
