import { finding, type Rule } from '../finding.ts';

export const deadEnd: Rule = {
  id: 'dead-end',
  meaning: 'a frame that can be reached and from which nothing leads on, and which is not marked as an ending',
  check: ({ program, exploration, traps }) =>
    exploration.cut !== null && exploration.isPlain
      ? []
      : traps
          .filter((trap) => trap.deadEnd)
          .map((trap) => {
            const { scene } = program.scenes.get(trap.frames[0]!)!;
            const sentence = `Nothing leads on from ${scene.name}.`;
            return finding('dead-end', 'must', { scene: scene.id }, `${scene.name} is a dead end`, sentence, {
              route: { from: trap.from, events: trap.route },
              fix: { label: 'Mark as an ending', operations: [{ op: 'set', table: 'scenes', id: scene.id, path: ['ending'], value: true }] },
            });
          }),
};
