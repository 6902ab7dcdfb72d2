import { statesOf } from '../../piece/piece.ts';
import { asBefore } from '../again.ts';
import { finding, type Rule } from '../finding.ts';
import { isComplete, scenesReached } from '../live.ts';
import { statesMet } from '../states-met.ts';

export const unreachableState: Rule = {
  id: 'unreachable-state',
  words: 'state never met',
  meaning: 'a state of a frame, sheet or part that is seen, which no route brings it into',
  spares: 'the state that is begun in, one that a variable or what is around it asks for, and those of parts that are seen nowhere',
  check: ({ program, exploration }) => {
    if (!isComplete(exploration)) return [];
    const { piece } = program;
    if (!asBefore(program, 'states', [piece.scenes], () => [...piece.scenes.values()].some(({ states }) => states))) return [];
    const scenes = [...scenesReached(program, exploration)].map((id) => program.scenes.get(id)!.scene).filter(({ states }) => states);
    if (scenes.length === 0) return [];
    const met = statesMet(program, exploration);
    return scenes.flatMap((scene) =>
      statesOf(scene).flatMap((state) => {
        if (met.has(`${scene.id} ${state.id}`)) return [];
        const sentence = `Nothing brings ${scene.name} into ${state.name}.`;
        const found = finding('unreachable-state', 'look', { scene: scene.id }, `${state.name} of ${scene.name} is never met`, sentence);
        return [{ ...found, id: `${found.id}:${state.id}` }];
      })
    );
  },
};
