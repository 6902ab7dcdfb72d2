import { differsFromStyle, paintOf, setLetters, swatchIn } from '../../piece/paint.ts';
import { lettersIn, paintsIn, recolour } from '../../piece/painted.ts';
import type { Piece } from '../../piece/piece.ts';
import type { Head, Letters } from '../../piece/schema.ts';
import { wordsOfAll } from '../../same.ts';
import type { Operation } from '../operation.ts';
import type { MakeId } from '../make-id.ts';
import { inOrder, namedLast, setHead } from './named.ts';

/** Swatches and type styles of a piece: what is painted or set with them follows when they change. */

export interface NamedSwatch {
  readonly id: string;
  readonly name: string;
  readonly color: string;
}

export interface NamedTypeStyle {
  readonly id: string;
  readonly name: string;
  readonly letters: Letters;
}

export const swatchesOf = (head: Head): NamedSwatch[] => inOrder(head.swatches);
export const typeStylesOf = (head: Head): NamedTypeStyle[] => inOrder(head.typeStyles);

const setLettersOf = (id: string, value: Letters): Operation => ({ op: 'set', table: 'layers', id, path: ['letters'], value });

/** How words are set, said without a type style. */
function byThemselves(head: Head, letters: Letters): Letters {
  const { style: _named, ...own } = setLetters(head, letters);
  return own;
}

/** Gives a colour a name. Everything in the piece that has this colour is painted with the swatch from then on. */
export function addSwatch(piece: Piece, name: string, color: string, makeId: MakeId): { operations: Operation[]; id: string } {
  const id = makeId();
  const swatch = { ...namedLast(inOrder(piece.head.swatches), name, 'Swatch'), color };
  return { id, operations: [setHead(piece, ['swatches', id], swatch), ...recolour(piece, color, paintOf(id))] };
}

export const changeSwatch = (piece: Piece, id: string, change: { readonly name?: string; readonly color?: string }): Operation[] =>
  piece.head.swatches?.[id] ? Object.entries(change).map(([key, value]) => setHead(piece, ['swatches', id, key], value)) : [];

/** Takes a swatch away; what was painted with it keeps the colour. */
export function removeSwatch(piece: Piece, id: string): Operation[] {
  const old = piece.head.swatches?.[id];
  return old ? [...recolour(piece, paintOf(id), old.color), setHead(piece, ['swatches', id])] : [];
}

/** How often each swatch is used. */
export function swatchUses(piece: Piece): Map<string, number> {
  const uses = new Map<string, number>();
  for (const { value } of paintsIn(piece)) {
    const id = swatchIn(value);
    if (id !== null) uses.set(id, (uses.get(id) ?? 0) + 1);
  }
  return uses;
}

/** Keeps a way of setting words under a name. Every layer whose words are set just so follows it from then on. */
export function addTypeStyle(piece: Piece, name: string, letters: Letters, makeId: MakeId): { operations: Operation[]; id: string } {
  const id = makeId();
  const style = { ...namedLast(inOrder(piece.head.typeStyles), name, 'Type'), letters: byThemselves(piece.head, letters) };
  const alike = [...piece.layers.values()].filter((layer) => layer.text !== undefined && wordsOfAll(layer.letters ?? {}) === wordsOfAll(letters));
  return { id, operations: [setHead(piece, ['typeStyles', id], style), ...alike.map((layer) => setLettersOf(layer.id, { style: id }))] };
}

/** How many layers follow each type style. */
export function typeStyleUses(piece: Piece): Map<string, number> {
  const uses = new Map<string, number>();
  for (const { letters } of piece.layers.values()) if (letters?.style !== undefined) uses.set(letters.style, (uses.get(letters.style) ?? 0) + 1);
  return uses;
}

export const renameTypeStyle = (piece: Piece, id: string, name: string): Operation[] =>
  piece.head.typeStyles?.[id] ? [setHead(piece, ['typeStyles', id, 'name'], name)] : [];

/** Sets the words of layers in a type style. What they say of themselves and it says nothing of, such as where they stand, is kept. */
export function setInStyle(piece: Piece, ids: readonly string[], style: string): Operation[] {
  const says = piece.head.typeStyles?.[style]?.letters;
  if (!says) return [];
  return ids.flatMap((id): Operation[] => {
    const layer = piece.layers.get(id);
    if (layer?.text === undefined) return [];
    const kept = Object.fromEntries(
      Object.entries(layer.letters === undefined ? {} : byThemselves(piece.head, layer.letters)).filter(([key]) => STANDS.has(key) && !(key in says))
    );
    return [setLettersOf(id, { ...kept, style })];
  });
}

/** Where words stand in their box, which is the layer's own affair unless the style says it. */
const STANDS: ReadonlySet<string> = new Set(['align', 'place']);

/** Words follow their type style again in all that it says. */
export const backToStyle = (piece: Piece, ids: readonly string[]): Operation[] =>
  ids.flatMap((id): Operation[] => {
    const style = piece.layers.get(id)?.letters?.style;
    return style === undefined ? [] : [setLettersOf(id, { style })];
  });

/** Words that were set in a type style are so by themselves from now on, and look the same. */
export const setApart = (piece: Piece, ids: readonly string[]): Operation[] =>
  ids.flatMap((id): Operation[] => {
    const letters = piece.layers.get(id)?.letters;
    return letters?.style === undefined ? [] : [setLettersOf(id, byThemselves(piece.head, letters))];
  });

/** A type style becomes what the words of a layer are set in, which follow it again. */
export function takeIntoStyle(piece: Piece, layer: string): Operation[] {
  const letters = piece.layers.get(layer)?.letters;
  const style = letters?.style;
  if (!letters || style === undefined || differsFromStyle(piece.head, letters).length === 0) return [];
  return [setHead(piece, ['typeStyles', style, 'letters'], byThemselves(piece.head, letters)), setLettersOf(layer, { style })];
}

/** Takes a type style away; words that were set in it stay as they are. */
export function removeTypeStyle(piece: Piece, id: string): Operation[] {
  if (!piece.head.typeStyles?.[id]) return [];
  const freed = lettersIn(piece).filter(({ value }) => value.style === id);
  return [
    ...freed.map(({ table, id: entity, path, value }): Operation => ({ op: 'set', table, id: entity, path, value: byThemselves(piece.head, value) })),
    setHead(piece, ['typeStyles', id]),
  ];
}

/** Swatches and type styles that something refers to, for taking it to another piece. */
export function stylesUsed(head: Head, value: unknown): Pick<Head, 'swatches' | 'typeStyles'> {
  const written = JSON.stringify(value);
  const only = <T>(byId: Readonly<Record<string, T>> | undefined, mark: (id: string) => string) =>
    Object.fromEntries(Object.entries(byId ?? {}).filter(([id]) => written.includes(mark(id))));
  return {
    swatches: only(head.swatches, (id) => `"${paintOf(id)}"`),
    typeStyles: only(head.typeStyles, (id) => `"style":"${id}"`),
  };
}

/** Puts swatches and type styles into a piece that does not have them yet. */
export function bringStyles(piece: Piece, { swatches = {}, typeStyles = {} }: Pick<Head, 'swatches' | 'typeStyles'>): Operation[] {
  const { head } = piece;
  return [
    ...Object.entries(swatches)
      .filter(([id]) => !head.swatches?.[id])
      .map(([id, one]) => setHead(piece, ['swatches', id], one)),
    ...Object.entries(typeStyles)
      .filter(([id]) => !head.typeStyles?.[id])
      .map(([id, one]) => setHead(piece, ['typeStyles', id], one)),
  ];
}
