import { waitsFor } from '../vocabulary/cues/all.ts';
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
  return found.map(({ id, name }) => [id, `going after ${name}, which its press look takes from under the pointer`]);
}

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
