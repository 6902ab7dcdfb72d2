/**
 * Paths between two paths: where both have the same commands their numbers are mixed, else the change is made at the middle. The
 * two flags of an arc (SVG 2, 9.3.8) are no numbers: they change at the middle.
 */
export function mixPaths(from: string, to: string, t: number): string {
  if (t <= 0 || from === to) return t <= 0 ? from : to;
  if (t >= 1) return to;
  const [a, b] = [pathParts(from), pathParts(to)];
  if (a.shape !== b.shape) return t < 0.5 ? from : to;
  let i = 0;
  return a.shape.replace(/[#!]/g, (kind) => {
    const [one, other] = [a.numbers[i]!, b.numbers[i]!];
    i++;
    return ` ${kind === '!' ? (t < 0.5 ? one : other) : Math.round((one + (other - one) * t) * 1000) / 1000}`;
  });
}

/** Whether two paths have the same commands, so that one can become the other. */
export const isAlike = (a: string, b: string): boolean => pathParts(a).shape === pathParts(b).shape;

const known = new Map<string, { shape: string; numbers: readonly number[] }>();

/** A path taken apart: its commands with `#` for each number and `!` for each flag of an arc, and those numbers. */
export function pathParts(path: string): { shape: string; numbers: readonly number[] } {
  const old = known.get(path);
  if (old) return old;
  const numbers: number[] = [];
  let shape = '';
  let command = '';
  let at = 0;
  // Flags may stand without anything between them and the next number: `a1 1 0 0110 10`.
  for (const [token] of path.matchAll(/[a-df-z]|[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?/gi)) {
    if (/[a-z]/i.test(token[0]!)) {
      [command, at] = [token.toLowerCase(), 0];
      shape += token;
      continue;
    }
    let rest = token;
    while (rest !== '') {
      const isFlag = command === 'a' && (at % 7 === 3 || at % 7 === 4) && /^[01]/.test(rest);
      const number = isFlag ? rest[0]! : rest;
      numbers.push(Number(number));
      shape += isFlag ? '!' : '#';
      rest = rest.slice(number.length);
      at++;
    }
  }
  if (known.size > 1000) known.clear();
  const made = { shape, numbers };
  known.set(path, made);
  return made;
}
