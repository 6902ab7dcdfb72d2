import type { Layer, Piece } from '../piece/piece.ts';

/** The layer that one is a copy of, or a copy of a copy; itself where it is none. It may be gone. */
export function originalOf(piece: Piece, layer: Layer): string {
  const seen = new Set<string>();
  let at = layer;
  while (at.copyOf !== undefined && !seen.has(at.id)) {
    seen.add(at.id);
    const source = piece.layers.get(at.copyOf);
    if (!source) return at.copyOf;
    at = source;
  }
  return at.id;
}
