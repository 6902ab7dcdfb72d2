import { targetOf } from '../../vocabulary/steps/all.ts';
import type { Thread } from '../../piece/piece.ts';
import { onceFor } from '../../once.ts';
import { ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';

export const draftTarget: Rule = {
  id: 'draft-target',
  words: 'leads to a draft',
  meaning: 'a thread that leads to a frame which is marked as still to be drawn',
  spares: 'threads that are switched off',
  check: ({ program: { piece } }) => {
    const drafts = new Map([...piece.scenes.values()].filter(({ draft }) => draft).map((scene) => [scene.id, scene]));
    if (drafts.size === 0) return [];
    return threadsIn(piece).flatMap((thread) => {
      const draft = framesNamed(thread).find((id) => drafts.has(id));
      if (draft === undefined || !thread.enabled) return [];
      const sentence = `${drafts.get(draft)!.name} is still to be drawn.`;
      return [finding('draft-target', 'note', placeOfThread(piece, thread), `${ownerOf(piece, thread)} leads to a draft`, sentence)];
    });
  },
};

/** The frames that a thread goes to or lays over. */
const framesNamed = onceFor((thread: Thread): readonly string[] =>
  thread.branches.flatMap(({ steps }) =>
    steps.flatMap((step) => {
      const target = targetOf(step);
      return target?.to === 'frame' ? (target.frame ?? []) : [];
    })
  )
);
