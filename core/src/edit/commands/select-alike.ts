import { layerIdsOf, threadsOf, type Layer, type Piece } from '../../piece/piece.ts';
import { wordsOfAll } from '../../same.ts';

/** What layers can have in common, to be selected and edited together. */

interface AlikeKind {
  readonly label: string;
  /** What a layer has of it, as a text to compare; null where it has none. */
  readonly of: (piece: Piece, layer: Layer) => string | null;
}

export const alikeKinds = {
  name: {
    label: 'the same name, numbers left out',
    of: (_, { name }) => name.toLowerCase().replace(/[\s\d:.,#-]+$/u, '') || null,
  },
  look: {
    label: 'the same look at rest',
    of: (_, { type, style, letters }) => `${type} ${wordsOfAll(style)} ${wordsOfAll(letters ?? {})}`.toLowerCase(),
  },
  fill: { label: 'the same fill', of: (_, { style }) => style.fill?.toLowerCase() ?? null },
  part: { label: 'the same part', of: (_, { part }) => part ?? null },
  target: {
    label: 'the same target',
    of: (piece, { id }) => {
      const steps = threadsOf(piece, id).flatMap(({ branches }) => branches.flatMap((branch) => branch.steps));
      const targets = steps.flatMap((step) => (step.do === 'go' ? JSON.stringify(step.target) : []));
      return targets.length ? [...new Set(targets)].sort().join() : null;
    },
  },
} as const satisfies Record<string, AlikeKind>;

export type Alike = keyof typeof alikeKinds;

/** The layers of a scene that have in common with a layer what is asked for, itself among them; only itself where it has none of it. */
export function alikeIn(piece: Piece, id: string, kind: Alike): string[] {
  const layer = piece.layers.get(id);
  if (!layer) return [];
  const { of } = alikeKinds[kind] as AlikeKind;
  const wanted = of(piece, layer);
  if (wanted === null) return [id];
  return [...layerIdsOf(piece, layer.scene)].filter((one) => of(piece, piece.layers.get(one)!) === wanted).sort();
}
