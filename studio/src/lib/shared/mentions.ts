/** Who is spoken to in a comment: names after an @, the longest that fits first. */
export function spokenTo(body: string, names: readonly string[]): string[] {
  const longest = [...new Set(names)].filter((name) => name !== '').sort((a, b) => b.length - a.length);
  const found = new Set<string>();
  for (const { index } of body.matchAll(/@/g)) {
    const rest = body.slice(index + 1).toLowerCase();
    const name = longest.find((one) => rest.startsWith(one.toLowerCase()) && !/^[\p{L}\p{N}]/u.test(rest.slice(one.length)));
    if (name !== undefined) found.add(name);
  }
  return [...found];
}

/** The name that is being written before a place in a text, from its @ on; null where none is. */
export function begunAt(text: string, at: number): { readonly from: number; readonly name: string } | null {
  const from = text.lastIndexOf('@', at - 1);
  if (from < 0 || /[\p{L}\p{N}]/u.test(text.charAt(from - 1))) return null;
  const name = text.slice(from + 1, at);
  return /\n/.test(name) || name.length > 40 ? null : { from, name };
}
