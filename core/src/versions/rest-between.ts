import type { Head, Piece } from '../piece/piece.ts';
import { count } from '../words.ts';
import { fieldChanges, isEqual } from './equal.ts';
import { changeSentences } from './field-sentences.ts';
import { plainValueWords, valueIn } from './value-words.ts';

/** What differs besides frames and threads: variables, colours, type styles, where it begins; a sentence each. */
export function restBetween(before: Piece, after: Piece): readonly string[] {
  return [...headWords(before, after), ...variableWords(before, after)];
}

function variableWords(before: Piece, after: Piece): string[] {
  const sides = { before, after };
  return [...new Set([...before.variables.keys(), ...after.variables.keys()])].flatMap((id) => {
    const [was, is] = [before.variables.get(id), after.variables.get(id)];
    const { name } = (is ?? was)!;
    if (!was || !is) return [`The variable ${name} is ${is ? 'new' : 'gone'}.`];
    const what = changeSentences(sides, null, was, is);
    return what.length ? [`The variable ${name}: ${what.join('; ')}.`] : [];
  });
}

/** Things kept by id in the head, and how one of them is called. */
const KEPT = {
  swatches: 'swatch',
  typeStyles: 'type style',
  easings: 'easing',
  kinds: 'kind of frame',
  bundles: 'bundle',
  walks: 'kept walk',
} as const satisfies Partial<Record<keyof Head, string>>;

function headWords(before: Piece, after: Piece): string[] {
  const [a, b] = [before.head, after.head];
  const words: string[] = [];
  if (a.name !== b.name) words.push(`It is called ${b.name} instead of ${a.name}.`);
  if (!isEqual(a.start, b.start)) words.push(`It begins on ${valueIn(after, null, b.start)} instead of ${valueIn(before, null, a.start)}.`);
  if (a.width !== b.width || a.height !== b.height) words.push(`New frames are ${b.width} × ${b.height} instead of ${a.width} × ${a.height}.`);
  if (a.fps !== b.fps) words.push(`Timelines run at ${b.fps ?? 24} frames a second instead of ${a.fps ?? 24}.`);
  for (const [field, kind] of Object.entries(KEPT) as [keyof typeof KEPT, string][]) words.push(...keptWords(kind, a, b, field));
  const aside = Object.keys(fieldsIn(a.aside, b.aside)).length;
  if (aside) words.push(`${count(aside, 'loose end')} ${aside === 1 ? 'is' : 'are'} set aside otherwise.`);
  return words;
}

type Named = Readonly<Record<string, { readonly name: string }>>;

function keptWords(kind: string, a: Head, b: Head, field: keyof typeof KEPT): string[] {
  const [was, is] = [(a[field] ?? {}) as Named, (b[field] ?? {}) as Named];
  return Object.keys(fieldsIn(was, is)).map((id) => {
    const [before, after] = [was[id], is[id]];
    if (!before || !after) return `The ${kind} ${(after ?? before)!.name} is ${after ? 'new' : 'gone'}.`;
    const what = fieldChanges(before, after).map(({ path, before: x, after: y }) =>
      path.at(-1) === 'order' || typeof x === 'object' || typeof y === 'object'
        ? `${path.at(-1)} is changed`
        : `${path.at(-1)} ${plainValueWords(b, y)} instead of ${plainValueWords(a, x)}`
    );
    return `The ${kind} ${after.name}: ${[...new Set(what)].join('; ')}.`;
  });
}

/** The keys under which two records differ. */
function fieldsIn(a: object = {}, b: object = {}): Record<string, true> {
  const [was, is] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = new Set([...Object.keys(was), ...Object.keys(is)]);
  return Object.fromEntries([...keys].filter((key) => !isEqual(was[key], is[key])).map((key) => [key, true]));
}
