import { finding, type Rule } from '../finding.ts';

export const unreachableFrame: Rule = {
  id: 'unreachable-frame',
  meaning: 'a frame that no route from any start leads to',
  check: ({ program, exploration }) =>
    exploration.cut !== null
      ? []
      : program.frames
          .filter((id) => !exploration.reached.has(id))
          .map((id) => {
            const { name } = program.scenes.get(id)!.scene;
            return finding('unreachable-frame', 'look', { scene: id }, `${name} is never reached`, 'No thread leads to it from a start frame.');
          }),
};
