import { waitsFor } from '../vocabulary/cues/all.ts';
import { groupedBy } from '../grouped.ts';
import { onceFor } from '../once.ts';
import type { Layer, Piece } from '../piece/piece.ts';
import type { Program, SceneProgram } from '../program/program.ts';

/**
 * Layers that their press look takes from under the pointer, as phrases by layers: where somebody waits for a press or its end, only who
 * goes after such a layer lets go on it, and that is not tried.
 */
export function fleeing({ piece, scenes }: Program): [string, string][] {
  if (!isPressAwaited(piece.threads)) return [];
  const found = [...scenes.values()].flatMap((scene) => fleeingIn(scene));
  return found.flatMap((layer) => {
    const phrase = `going after ${layer.name}, which its press look takes from under the pointer`;
    return [...around(piece, layer)].map((id): [string, string] => [id, phrase]);
  });
}

/** A layer and all that it is in, by groups and by placements: what is done to that may be done at it. */
function around(piece: Piece, layer: Layer, found = new Set<string>()): ReadonlySet<string> {
  if (found.has(layer.id)) return found;
  found.add(layer.id);
  const outer = layer.parent === null ? placementsOf(piece.layers, layer.scene) : [piece.layers.get(layer.parent)!];
  for (const one of outer) around(piece, one, found);
  return found;
}

const placements = onceFor((layers: Piece['layers']) => groupedBy(layers.values(), ({ part }) => part ?? ''));

const placementsOf = (layers: Piece['layers'], part: string): readonly Layer[] => placements(layers).get(part) ?? [];

const isPressAwaited = onceFor((threads: Piece['threads']): boolean =>
  [...threads.values()].some(({ enabled, cue }) => enabled && (waitsFor(cue, 'press') || waitsFor(cue, 'release')))
);

const fleeingIn = onceFor(({ items }: SceneProgram): readonly Layer[] => items.flatMap(({ layer }) => (flees(layer) ? layer : [])));

/** Whether the middle of a layer is no longer on it once it is pressed. */
function flees({ pose: { x, y, width, height }, looks }: Layer): boolean {
  const press = looks?.press;
  if (!press) return false;
  const { x: across = x, y: down = y } = press.pose ?? {};
  return press.hidden === true || Math.abs(across - x) >= width / 2 || Math.abs(down - y) >= height / 2;
}

/** Which they are, as one text to compare. */
export const fleeingWords = (program: Program): string =>
  fleeing(program)
    .map(([id]) => id)
    .join();
