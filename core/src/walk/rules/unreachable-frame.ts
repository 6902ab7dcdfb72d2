import { onceFor } from '../../once.ts';
import { targetOf } from '../../vocabulary/steps/all.ts';
import type { Piece, Thread } from '../../piece/piece.ts';
import { startFrames, type Program } from '../../program/program.ts';
import { count, listWords, naturally } from '../../words.ts';
import { ownerOf } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';
import { possibleScenes } from '../possible.ts';

export const unreachableFrame: Rule = {
  id: 'unreachable-frame',
  words: 'never reached',
  meaning: 'a frame that no route from any start leads to',
  spares: 'a frame that is laid over, led to by a key, by time, by a film that ends, or from another start',
  check: ({ program, exploration }) => {
    // Where not everything was tried, only what nothing leads to at all.
    const possible = exploration.cut === null ? null : possibleScenes(program);
    return program.frames
      .filter((id) => !exploration.reached.has(id) && !possible?.has(id))
      .map((id) => {
        const { name } = program.scenes.get(id)!.scene;
        return finding('unreachable-frame', 'look', { scene: id }, `${name} is never reached`, whyNever(program, exploration.fired, id));
      });
  },
};

/** Where it is a start, that; where threads name it, those: they go on from it at once, never fire, or never come to that. */
function whyNever(program: Program, fired: ReadonlySet<string>, frame: string): string {
  const { piece } = program;
  if (startFrames(program).includes(frame)) return 'The piece begins there, and leads elsewhere at once.';
  const named = [...(leading(piece.threads).get(frame) ?? [])];
  const passing = named.filter(({ id }) => fired.has(id));
  if (passing.length) return `What leads to it leads elsewhere at once, or in another branch: ${placesIn(piece, passing)}.`;
  return named.length ? `What leads to it never comes about: ${placesIn(piece, named)}.` : 'No thread leads to it from a start frame.';
}

function placesIn(piece: Piece, threads: readonly Thread[]): string {
  const places = [...new Set(threads.map((thread) => placeWords(piece, thread)))].sort(naturally);
  const rest = places.length > 3 ? [count(places.length - 2, 'other', 'others')] : [];
  return listWords([...places.slice(0, rest.length ? 2 : 3), ...rest]);
}

/** The threads that name each frame. */
const leading = onceFor((threads: Piece['threads']): ReadonlyMap<string, ReadonlySet<Thread>> => {
  const found = new Map<string, Set<Thread>>();
  for (const thread of threads.values())
    for (const step of thread.branches.flatMap(({ steps }) => steps)) {
      const target = targetOf(step);
      if (target?.to !== 'frame' || target.frame === null) continue;
      const named = found.get(target.frame);
      if (named) named.add(thread);
      else found.set(target.frame, new Set([thread]));
    }
  return found;
});

/** `Pay on Checkout`. */
function placeWords(piece: Piece, thread: Thread): string {
  const scene = thread.on === 'layer' ? piece.layers.get(thread.owner)?.scene : undefined;
  return scene === undefined ? ownerOf(piece, thread) : `${ownerOf(piece, thread)} on ${piece.scenes.get(scene)?.name}`;
}
