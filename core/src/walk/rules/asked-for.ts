import { asksNoMore } from '../../edit/commands/walks.ts';
import type { Piece } from '../../piece/piece.ts';
import { finding, type Rule } from '../finding.ts';
import type { Place } from '../place.ts';

export const askedFor: Rule = {
  id: 'asked-for',
  words: 'asked for',
  meaning: 'what somebody has said of the piece and somebody has made a loose end of, until it is said to be mended',
  spares: 'comments that nobody has made a loose end of',
  check: ({ program: { piece } }) =>
    Object.entries(piece.head.asked ?? {}).map(([id, { words, by, ...about }]) => {
      const { place, name, isGone } = placeOf(piece, about);
      const sentence = `${by} says: ${words}${isGone ? ' What it is about is gone.' : ''}`;
      const fix = { label: 'It is mended', operations: asksNoMore(piece, id) };
      return { ...finding('asked-for', 'must', place, `Something is asked for on ${name}`, sentence, { fix }), id: `asked-for:${id}` };
    }),
};

/** The place that something is about, as far as it is still there. */
function placeOf(piece: Piece, { scene, layer, thread }: { readonly scene: string; readonly layer?: string; readonly thread?: string }) {
  const at = piece.scenes.get(scene);
  if (!at) return { place: { scene: null } satisfies Place, name: piece.head.name, isGone: true };
  const own = layer === undefined ? undefined : piece.layers.get(layer.split('/')[0]!);
  const isThread = thread !== undefined && piece.threads.has(thread);
  const place: Place = { scene, ...(own && { layer: own.id }), ...(isThread && { thread }) };
  return { place, name: own?.name ?? at.name, isGone: (layer !== undefined && !own) || (thread !== undefined && !isThread) };
}
