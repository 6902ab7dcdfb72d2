/**
 * Texts that tell apart what is asked of one: whether it contains, starts or ends with, or is, one of some given texts. What is asked
 * comes out yes or no; texts are made for all ways in which it can come out together.
 */

export const PATTERNS = ['contains', 'starts with', 'ends with', 'is'] as const;

export interface Pattern {
  readonly asks: (typeof PATTERNS)[number];
  readonly text: string;
}

/** Of so many that are asked together all ways are looked at. */
const MOST_ASKED = 7;
/** Of so many that a text may contain all subsets are tried; of more each one, and all. */
const MOST_INSIDE = 4;

const answers: Record<Pattern['asks'], (text: string, asked: string) => boolean> = {
  contains: (text, asked) => text.includes(asked),
  'starts with': (text, asked) => text.startsWith(asked),
  'ends with': (text, asked) => text.endsWith(asked),
  is: (text, asked) => text === asked,
};

export const isSo = (text: string, { asks, text: asked }: Pattern): boolean => answers[asks](text, asked);

/** Texts for what is asked, with what stands in none of the given ones between them. */
export function textsFor(patterns: readonly Pattern[]): string[] {
  const of = (asks: Pattern['asks']) => [...new Set(patterns.flatMap((one) => (one.asks === asks ? one.text : [])))];
  const filler = fillerFor(patterns);
  const inside = subsetsOf(of('contains'));
  const texts = ['', ...of('starts with')].flatMap((begin) =>
    ['', ...of('ends with')].flatMap((end) => inside.map((some) => [begin, filler, ...some.flatMap((one) => [one, filler]), end].join('')))
  );
  return [...new Set(['', ...patterns.map(({ text }) => text), ...texts])];
}

/** A sign that stands in no text that is asked for. */
export const fillerFor = (patterns: readonly Pattern[]): string =>
  [...'abcdefghijklmnopqrstuvwxyz-'].find((sign) => patterns.every(({ text }) => !text.toLowerCase().includes(sign))) ?? '·';

function subsetsOf(all: readonly string[]): string[][] {
  if (all.length > MOST_INSIDE) return [[], ...all.map((one) => [one]), [...all]];
  return all.reduce<string[][]>((subsets, one) => [...subsets, ...subsets.map((some) => [...some, one])], [[]]);
}

/** Whether the texts that are made tell all: each way in which what is asked can come out is that of one of them. */
export function areAllWays(patterns: readonly Pattern[]): boolean {
  if (patterns.length > MOST_ASKED) return false;
  const met = new Set(textsFor(patterns).map((text) => patterns.map((one) => isSo(text, one)).join()));
  const ways = patterns.reduce<boolean[][]>(
    (all) =>
      all.flatMap((way) => [
        [...way, false],
        [...way, true],
      ]),
    [[]]
  );
  return ways.every((way) => met.has(way.join()) || !canBe(patterns, way));
}

/** Whether nothing speaks against a way in which what is asked comes out. */
const canBe = (patterns: readonly Pattern[], way: readonly boolean[]): boolean =>
  patterns.every((one, i) => !way[i] || patterns.every((other, j) => i === j || !isAgainst(one, other, way[j]!)));

/** Whether one that is so speaks against another one being so, or not. */
function isAgainst(one: Pattern, other: Pattern, isOtherSo: boolean): boolean {
  if (one.asks === 'is') return isSo(one.text, other) !== isOtherSo;
  // What a part of a text shows, the whole of it does: but where it stands only as far as the part stands there too.
  const shows = other.asks === 'contains' || other.asks === one.asks;
  if (!isOtherSo) return other.asks !== 'is' && shows && isSo(one.text, other);
  const isSameEnd = one.asks === other.asks && one.asks !== 'contains';
  return isSameEnd && !isSo(one.text, other) && !isSo(other.text, one);
}
