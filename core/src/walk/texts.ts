/**
 * Texts that tell apart what is asked of one: whether it contains, starts or ends with, or is, one of some given texts, and how long it
 * is. What is asked comes out in some way; texts are made for all ways in which it can come out together.
 */

export const PATTERNS = ['contains', 'starts with', 'ends with', 'is'] as const;

export interface Pattern {
  readonly asks: (typeof PATTERNS)[number];
  readonly text: string;
  /** Asked of the text in capitals, or without any. */
  readonly fold?: Fold;
}

export const FOLDS = ['upper case', 'lower case'] as const;

export type Fold = (typeof FOLDS)[number];

const folded = (text: string, fold: Fold | undefined): string =>
  fold === 'upper case' ? text.toUpperCase() : fold === 'lower case' ? text.toLowerCase() : text;

/** What is put into a field where any text will do. */
export const USUAL = 'abc';

/** Of so many that are asked together all ways are looked at. */
const MOST_ASKED = 7;
/** Of so many that a text may contain all subsets are tried; of more each one, and all. */
const MOST_INSIDE = 4;
/** Texts of so many signs are tried. */
const MOST_SIGNS = 200;

const answers: Record<Pattern['asks'], (text: string, asked: string) => boolean> = {
  contains: (text, asked) => text.includes(asked),
  'starts with': (text, asked) => text.startsWith(asked),
  'ends with': (text, asked) => text.endsWith(asked),
  is: (text, asked) => text === asked,
};

export const isSo = (text: string, { asks, text: asked, fold }: Pattern): boolean => answers[asks](folded(text, fold), asked);

const lengthOf = (text: string): number => [...text].length;

/** Lengths that come out alike whatever they are held against; to the last one there is no end. */
interface Lengths {
  readonly least: number;
  readonly most: number;
}

/** The lengths between and at those that are asked for. */
function classesOf(lengths: readonly number[]): Lengths[] {
  const asked = [...new Set(lengths.map(Math.floor).filter((length) => length >= 0 && length < MOST_SIGNS))].sort((a, b) => a - b);
  const all = asked.flatMap((length, i): Lengths[] => [
    { least: i ? asked[i - 1]! + 1 : 0, most: length - 1 },
    { least: length, most: length },
  ]);
  return [...all, { least: (asked.at(-1) ?? -1) + 1, most: Infinity }].filter(({ least, most }) => least <= most);
}

/** Texts for each way in which what is asked can come out, as far as they are found, so many for each; the usual one for its way. */
export const textsFor = (patterns: readonly Pattern[], lengths: readonly number[] = [], many = 1): string[] =>
  [...waysMet(patterns, lengths, many).values()].flat();

const wayOf = (way: readonly boolean[], at: number): string => `${way.join()} ${at}`;

function waysMet(patterns: readonly Pattern[], lengths: readonly number[], many: number): Map<string, string[]> {
  const classes = classesOf(lengths);
  const met = new Map<string, string[]>();
  const meet = (text: string) => {
    const length = lengthOf(text);
    const at = classes.findIndex(({ most }) => length <= most);
    const way = wayOf(
      patterns.map((one) => isSo(text, one)),
      at
    );
    const texts = met.get(way) ?? met.set(way, []).get(way)!;
    if (texts.length < many && !texts.includes(text)) texts.push(text);
  };
  meet('');
  meet(USUAL);
  for (const filler of fillersFor(patterns, many)) {
    const made = textsOf(patterns, filler);
    made.forEach(meet);
    for (const text of made) for (const { least } of classes) for (const long of lengthened(text, least, filler)) meet(long);
  }
  return met;
}

/** What may begin, be inside of and end a text, put together with something between, and without. */
function textsOf(asked: readonly Pattern[], filler: string): string[] {
  // What is asked in capitals can be written in two ways at least.
  const patterns = asked.flatMap((one) => (one.fold ? [one, ...FOLDS.map((fold) => ({ ...one, text: folded(one.text, fold) }))] : one));
  const of = (asks: Pattern['asks']) => [...new Set(patterns.flatMap((one) => (one.asks === asks ? one.text : [])))];
  const inside = subsetsOf(of('contains'));
  const texts = ['', ...of('starts with')].flatMap((begin) =>
    ['', ...of('ends with')].flatMap((end) =>
      inside.flatMap((some) => [[begin, filler, ...some.flatMap((one) => [one, filler]), end].join(''), [begin, ...some, end].join('')])
    )
  );
  return [...new Set(['', ...patterns.map(({ text }) => text), ...texts])];
}

/** Signs that stand in no text that is asked for. */
const fillersFor = (patterns: readonly Pattern[], many: number): string[] =>
  [...'abcdefghijklmnopqrstuvwxyz-·'].filter((sign) => patterns.every(({ text }) => !text.toLowerCase().includes(sign))).slice(0, many);

/** A text that is made as long as is asked, at each of its places; none for one that is longer. */
function lengthened(text: string, length: number, filler: string): string[] {
  const signs = [...text];
  const more = filler.repeat(Math.max(0, length - signs.length));
  return more === '' ? [] : Array.from({ length: signs.length + 1 }, (_, at) => [...signs.slice(0, at), more, ...signs.slice(at)].join(''));
}

function subsetsOf(all: readonly string[]): string[][] {
  if (all.length > MOST_INSIDE) return [[], ...all.map((one) => [one]), [...all]];
  return all.reduce<string[][]>((subsets, one) => [...subsets, ...subsets.map((some) => [...some, one])], [[]]);
}

/** Whether the texts that are made tell all: each way in which what is asked can come out is that of so many of them, or of all there are. */
export function areAllWays(patterns: readonly Pattern[], lengths: readonly number[] = [], many = 1): boolean {
  if (lengths.some((length) => length >= MOST_SIGNS)) return false;
  if ((many === 1 || lengths.length === 0) && patterns.every(({ asks, fold }) => asks === 'is' && fold === patterns[0]!.fold)) return true;
  if (patterns.length > MOST_ASKED) return false;
  const met = waysMet(patterns, lengths, many);
  const areEnough = (way: readonly boolean[], at: number, { most }: Lengths) => {
    const all = patterns.some(({ asks, fold }, i) => way[i] && asks === 'is' && !fold) || most === 0 ? 1 : many;
    return (met.get(wayOf(way, at))?.length ?? 0) >= all;
  };
  const ways = patterns.reduce<boolean[][]>(
    (all) =>
      all.flatMap((way) => [
        [...way, false],
        [...way, true],
      ]),
    [[]]
  );
  return ways.every((way) => {
    const [least, only] = [leastLength(patterns, way), patterns.find((one, i) => way[i] && one.asks === 'is')];
    const canHave = ({ least: from, most }: Lengths) => least <= most && (!only || (lengthOf(only.text) >= from && lengthOf(only.text) <= most));
    return !canBe(patterns, way) || classesOf(lengths).every((lengths, at) => areEnough(way, at, lengths) || !canHave(lengths));
  });
}

/** A text with all that is so is at least so long: what has no sign in common cannot lie over each other. */
function leastLength(patterns: readonly Pattern[], way: readonly boolean[]): number {
  const texts = [...new Set(patterns.flatMap(({ text }, i) => (way[i] ? text : [])))];
  const signs = texts.flatMap((text) => [...new Set(text.toLowerCase())]);
  const isApart = new Set(signs).size === signs.length;
  const lengths = texts.map(lengthOf);
  return isApart ? lengths.reduce((sum, length) => sum + length, 0) : Math.max(0, ...lengths);
}

/** Whether nothing speaks against a way in which what is asked comes out. */
const canBe = (patterns: readonly Pattern[], way: readonly boolean[]): boolean =>
  patterns.every(
    (one, i) => !way[i] || (folded(one.text, one.fold) === one.text && patterns.every((other, j) => i === j || !isAgainst(one, other, way[j]!)))
  );

/** Signs of which each has one capital, and is the only one that has. */
const PLAIN = /^[ -~]*$/;

/** Whether one that is so speaks against another one being so, or not. */
function isAgainst(one: Pattern, other: Pattern, isOtherSo: boolean): boolean {
  // In capitals nothing shows what was written.
  if (one.fold && (!other.fold || !PLAIN.test(one.text))) return one.fold === other.fold && one.asks === 'is' && isSo(one.text, other) !== isOtherSo;
  if (one.asks === 'is') return isSo(one.text, other) !== isOtherSo;
  // What a part of a text shows, the whole of it does: but where it stands only as far as the part stands there too.
  const shows = other.asks === 'contains' || other.asks === one.asks;
  if (!isOtherSo) return shows && isSo(one.text, other);
  return (
    one.asks === other.asks && one.asks !== 'contains' && !isSo(one.text, other) && !isSo(other.text, { ...one, text: folded(one.text, other.fold) })
  );
}
