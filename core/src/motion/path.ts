/**
 * Paths between two paths: where both have the same commands their numbers are mixed, else one is faded into the other (see
 * `outlinesOf`). The two flags of an arc (SVG 2, 9.3.8) are no numbers: they change at the middle.
 */
export function mixPaths(from: string, to: string, t: number): string {
  if (t <= 0 || from === to) return t <= 0 ? from : to;
  if (t >= 1) return to;
  const [a, b] = [pathParts(from), pathParts(to)];
  if (isFading(from) || isFading(to) || a.shape !== b.shape) return faded(from, to, t);
  let i = 0;
  return a.shape.replace(/[#!]/g, (kind) => {
    const [one, other] = [a.numbers[i]!, b.numbers[i]!];
    i++;
    return ` ${kind === '!' ? (t < 0.5 ? one : other) : Math.round((one + (other - one) * t) * 1000) / 1000}`;
  });
}

/** Outlines that are seen at one time while one is faded into another; shares from 0 to 1, together 1. */
export interface SeenOutline {
  readonly outline: string;
  readonly share: number;
}

/** A path that is on its way to one that it cannot become is written as several, each behind its share: `0.75@M0 0L9 9|0.25@M0 0H9`. */
const isFading = (path: string): boolean => path.includes('@');

/** The outlines that a path is at a moment; of one that is not being faded it is the only one. */
export const outlinesOf = (path: string): readonly SeenOutline[] =>
  isFading(path)
    ? path.split('|').map((part) => {
        const at = part.indexOf('@');
        return { share: Number(part.slice(0, at)), outline: part.slice(at + 1) };
      })
    : [{ outline: path, share: 1 }];

/** The outline that is seen most of a path at a moment. */
export const mainOutline = (path: string): string => outlinesOf(path).reduce((most, one) => (one.share > most.share ? one : most)).outline;

function faded(from: string, to: string, t: number): string {
  const shares = new Map<string, number>();
  for (const [path, part] of [
    [from, 1 - t],
    [to, t],
  ] as const)
    for (const { outline, share } of outlinesOf(path)) shares.set(outline, (shares.get(outline) ?? 0) + share * part);
  return [...shares].map(([outline, share]) => `${Math.round(share * 10_000) / 10_000}@${outline}`).join('|');
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
