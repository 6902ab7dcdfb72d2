import { cutText } from '../../text.ts';
import { byOrder, type Piece } from '../../piece/piece.ts';
import { takeName } from '../../words.ts';
import { keysBetween } from '../order.ts';
import type { Operation } from '../operation.ts';

/** What the head of a piece keeps under names, in an order: swatches, type styles, easings. */

export type Ordered = { readonly name: string; readonly order: string };

export const inOrder = <T extends Ordered>(byId: Readonly<Record<string, T>> | undefined): (T & { id: string })[] =>
  Object.entries(byId ?? {})
    .map(([id, one]) => ({ id, ...one }))
    .sort(byOrder);

/** A name and a place for one more, behind the others. */
export function namedLast(list: readonly Ordered[], name: string, otherwise: string): Ordered {
  const taken = new Set(list.map((one) => one.name));
  return { name: takeName(taken, cutText(name.trim(), 110) || otherwise), order: keysBetween(list.at(-1)?.order ?? null, null, 1)[0]! };
}

/** Sets something in the head of a piece; without a value it is taken away. */
export const setHead = (piece: Piece, path: readonly string[], value?: unknown): Operation => ({
  op: 'set',
  table: 'piece',
  id: piece.head.id,
  path: [...path],
  ...(value !== undefined && { value }),
});
