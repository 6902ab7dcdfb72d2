import { onceFor } from '../../once.ts';
import { targetOf } from '../../vocabulary/steps/all.ts';
import type { Piece, Thread } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { count, listWords, naturally } from '../../words.ts';
import { ownerOf } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';

export const unreachableFrame: Rule = {
  id: 'unreachable-frame',
  words: 'never reached',
  meaning: 'a frame that no route from any start leads to',
  spares: 'a frame that is laid over, led to by a key, by time, by a film that ends, or from another start',
  check: ({ program, exploration }) => {
    if (exploration.gaps.length) return [];
    const named = exploration.cut === null ? null : namedFrames(program);
    return program.frames
      .filter((id) => !exploration.reached.has(id) && (named === null || !named.has(id)))
      .map((id) => {
        const { name } = program.scenes.get(id)!.scene;
        return finding('unreachable-frame', 'look', { scene: id }, `${name} is never reached`, whyNever(program.piece, id));
      });
  },
};

/** Where threads name it, those: they never fire, or never come to that. */
function whyNever(piece: Piece, frame: string): string {
  const named = leading(piece.threads).get(frame) ?? [];
  const places = [...new Set([...named].map((thread) => placeWords(piece, thread)))].sort(naturally);
  if (places.length === 0) return 'No thread leads to it from a start frame.';
  const rest = places.length > 3 ? [count(places.length - 2, 'other', 'others')] : [];
  return `What leads to it never comes about: ${listWords([...places.slice(0, rest.length ? 2 : 3), ...rest])}.`;
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

/** Where not everything was explored: all frames that any thread names, or can come to in passing. */
function namedFrames({ piece, frames }: Program): ReadonlySet<string> {
  const named = new Set<string>();
  for (const thread of piece.threads.values())
    for (const step of thread.branches.flatMap((branch) => branch.steps)) {
      const target = targetOf(step);
      if (target?.to === 'frame' && target.frame !== null) named.add(target.frame);
      if (target?.to === 'next' || target?.to === 'previous') for (const frame of frames) named.add(frame);
      if (target?.to === 'first' && frames[0]) named.add(frames[0]);
      if (target?.to === 'last' && frames.length) named.add(frames.at(-1)!);
    }
  return named;
}
