/** The name of a piece as that of a file, without an ending. */
export const fileName = (name: string): string =>
  name
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '') || 'piece';

/** The same, with a number behind it where another file is called so; the name is then taken. */
export function takeFileName(taken: Set<string>, wanted: string): string {
  const plain = fileName(wanted);
  let name = plain;
  for (let i = 2; taken.has(name); i++) name = `${plain}-${i}`;
  taken.add(name);
  return name;
}
