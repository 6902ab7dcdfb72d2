import { DEFAULT_FAMILY } from './faces.ts';
import type { Operation } from '../edit/operation.ts';
import type { Piece } from './piece.ts';
import type { Letters } from './schema.ts';

/** What a piece is painted and set with, found in its layers: the most used first. */

/** Colours of fills, lines and texts that are no swatches, at most so many; see-through ones are left out. */
export function coloursOf(piece: Piece, most = 16): string[] {
  const counts = new Map<string, number>();
  const add = (color: string | undefined) => {
    if (color?.startsWith('#') && !/^#[0-9a-f]{6}00$/i.test(color)) counts.set(color.toLowerCase(), (counts.get(color.toLowerCase()) ?? 0) + 1);
  };
  for (const { style } of piece.layers.values()) {
    add(style.fill);
    add(style.ink);
    add(style.line?.color);
  }
  return byCount(counts).slice(0, most);
}

/** A way of setting words that some layers share. */
export interface TypeInUse {
  readonly letters: Letters;
  readonly size: number;
  /** The name of a layer that is set so. */
  readonly from: string;
  /** All that there is to it. */
  readonly words: string;
}

export function typesOf(piece: Piece, most = 8): TypeInUse[] {
  const counts = new Map<string, number>();
  const found = new Map<string, TypeInUse>();
  for (const { letters, text, name } of piece.layers.values()) {
    if (text === undefined || letters?.style !== undefined) continue;
    const { family = DEFAULT_FAMILY, size = 16, weight = 400, align = '', place = '' } = letters ?? {};
    const words = [`${size} px`, family, String(weight), align, place].filter(Boolean).join(', ');
    counts.set(words, (counts.get(words) ?? 0) + 1);
    const known = found.get(words);
    if (!known || name < known.from) found.set(words, { letters: letters ?? {}, size, from: name, words });
  }
  return byCount(counts)
    .slice(0, most)
    .map((words) => found.get(words)!);
}

const byCount = (counts: ReadonlyMap<string, number>): string[] =>
  [...counts].sort(([a, n], [b, m]) => m - n || (a < b ? -1 : 1)).map(([key]) => key);

/** A value somewhere in the document. */
export interface Found<T> {
  readonly table: 'layers' | 'scenes';
  readonly id: string;
  readonly path: string[];
  readonly value: T;
}

/** Everything under a key that is wanted, in layers, their looks, what states change, and scenes. */
function foundIn(piece: Piece, wanted: (key: string, value: unknown) => boolean): Found<unknown>[] {
  const found: Found<unknown>[] = [];
  const visit = (table: 'layers' | 'scenes', id: string, value: unknown, path: readonly string[]): void => {
    if (wanted(path.at(-1)!, value)) found.push({ table, id, path: [...path], value });
    else if (typeof value === 'object' && value !== null && !Array.isArray(value))
      for (const [key, inner] of Object.entries(value)) if (path.length < 10) visit(table, id, inner, [...path, key]);
  };
  for (const layer of piece.layers.values())
    for (const field of ['style', 'letters', 'looks'] as const) visit('layers', layer.id, layer[field], [field]);
  for (const scene of piece.scenes.values()) {
    visit('scenes', scene.id, scene.background, ['background']);
    visit('scenes', scene.id, scene.states, ['states']);
  }
  return found;
}

/** Fields that hold a paint. */
const PAINTED: ReadonlySet<string> = new Set(['fill', 'ink', 'color', 'background']);

export const paintsIn = (piece: Piece): Found<string>[] =>
  foundIn(piece, (key, value) => PAINTED.has(key) && typeof value === 'string') as Found<string>[];

/** All that says how words are set. */
export const lettersIn = (piece: Piece): Found<Letters>[] =>
  foundIn(piece, (key, value) => key === 'letters' && typeof value === 'object') as Found<Letters>[];

/** Gives everything that has one paint another. */
export const recolour = (piece: Piece, from: string, to: string): Operation[] =>
  paintsIn(piece)
    .filter(({ value }) => value.toLowerCase() === from.toLowerCase())
    .map(({ table, id, path }) => ({ op: 'set', table, id, path, value: to }));
