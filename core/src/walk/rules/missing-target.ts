import { sceneOfThread } from '../../piece/piece.ts';
import { finding, type Rule } from '../finding.ts';

export const missingTarget: Rule = {
  id: 'missing-target',
  meaning: 'a thread leads to a frame that is gone or not chosen yet, or it has no step at all',
  check: ({ program: { piece } }) =>
    [...piece.threads.values()].flatMap((thread) => {
      const steps = thread.branches[0]?.steps ?? [];
      const lost = steps.find(
        (step) => step.do === 'go' && step.target.to === 'frame' && (step.target.frame === null || !piece.scenes.has(step.target.frame))
      );
      if (steps.length > 0 && !lost) return [];
      const scene = sceneOfThread(piece, thread);
      const owner = thread.on === 'layer' ? piece.layers.get(thread.owner)! : scene === null ? piece.head : piece.scenes.get(scene)!;
      const gone = lost?.do === 'go' && lost.target.to === 'frame' && lost.target.frame !== null;
      const place = { scene, ...(thread.on === 'layer' && { layer: thread.owner }), thread: thread.id };
      const sentence = gone ? 'The frame it led to has been deleted.' : 'Where it leads has not been chosen yet.';
      return [finding('missing-target', 'must', place, `${owner.name} leads nowhere`, sentence)];
    }),
};
