import { REFERENCE } from '../../expression/ast.ts';

/** A copy of a document value in which ids of copied things are those of their copies: bare, in paths, and in expressions. */
export function remapIds<T>(value: T, names: ReadonlyMap<string, string>): T {
  return remap(value, names) as T;
}

function remap(value: unknown, names: ReadonlyMap<string, string>): unknown {
  if (typeof value === 'string') return remapText(value, names);
  if (Array.isArray(value)) return value.map((one) => remap(one, names));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [
      remapPath(key, names),
      WORDS.has(key) && typeof inner === 'string' ? inReferences(inner, names) : remap(inner, names),
    ])
  );
}

/** Fields that hold words: what happens to read like an id is none there. */
const WORDS: ReadonlySet<string> = new Set(['text', 'name', 'label', 'placeholder', 'choiceValue', 'note', 'signal', 'address', 'measure']);

const inReferences = (text: string, names: ReadonlyMap<string, string>): string =>
  text.includes('‹') ? text.replace(REFERENCE, (_whole, equals: string, id: string) => `‹${equals}${remapPath(id, names)}›`) : text;

function remapText(text: string, names: ReadonlyMap<string, string>): string {
  return text.includes('‹') ? inReferences(text, names) : remapPath(text, names);
}

const remapPath = (path: string, names: ReadonlyMap<string, string>): string =>
  names.has(path)
    ? names.get(path)!
    : path.includes('/') && path.length < 200
      ? path
          .split('/')
          .map((part) => names.get(part) ?? part)
          .join('/')
      : path;
