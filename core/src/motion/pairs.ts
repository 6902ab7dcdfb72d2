import type { Layer } from '../piece/schema.ts';
import type { Shown, Surface } from '../run/resolve.ts';

/**
 * Which layers of two frames are the same thing: a copy and what it is a copy of first, then one name and type. Layers are
 * paired only where what they are in is paired as well.
 */
export interface Pairs {
  /** By the new layer: the old one. */
  readonly pairs: ReadonlyMap<Shown, Shown>;
  /** Old layers without a new one, the outermost of each, with the key of the new layer that they were in (null: the frame). */
  readonly left: readonly { readonly shown: Shown; readonly into: string | null }[];
}

export function pairsOf(before: Surface, after: Surface): Pairs {
  const pairs = new Map<Shown, Shown>();
  const left: { shown: Shown; into: string | null }[] = [];
  const origins = new Origins([...before.all, ...after.all]);
  const match = (olds: readonly Shown[], news: readonly Shown[], into: string | null) => {
    const free = new Set(olds);
    const open = new Set(news);
    const pair = (fits: (a: Layer, b: Layer) => boolean) => {
      for (const shown of open) {
        const old = [...free].find(
          (candidate) => candidate.node.layer.type === shown.node.layer.type && fits(candidate.node.layer, shown.node.layer)
        );
        if (!old) continue;
        free.delete(old);
        open.delete(shown);
        pairs.set(shown, old);
        match(old.children, shown.children, shown.node.key);
      }
    };
    pair((a, b) => origins.of(a) === origins.of(b));
    pair((a, b) => a.type === 'placement' && a.part === b.part && a.name === b.name);
    pair((a, b) => a.name === b.name);
    for (const shown of free) left.push({ shown, into });
  };
  match(before.tops, after.tops, null);
  return { pairs, left };
}

/** The layer that a chain of copies began with. */
class Origins {
  private readonly layers: ReadonlyMap<string, Layer>;

  constructor(all: readonly Shown[]) {
    this.layers = new Map(all.map((shown) => [shown.node.layer.id, shown.node.layer]));
  }

  of(layer: Layer): string {
    let at = layer;
    for (let i = 0; i < 100 && at.copyOf !== undefined; i++) {
      const source = this.layers.get(at.copyOf);
      if (!source) return at.copyOf;
      at = source;
    }
    return at.id;
  }
}
