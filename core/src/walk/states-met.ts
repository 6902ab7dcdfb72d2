import { onceFor } from '../once.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { emptyRoot } from '../run/environment.ts';
import { stateOf } from '../run/resolve.ts';
import type { Exploration } from './exploration.ts';
import { rootsReached } from './live.ts';

/** The states that are met, as `scene state`: all that is entered, what anything begins in, and what states of what is around it ask for. */
export const statesMet = (program: Program, exploration: Exploration): ReadonlySet<string> =>
  new Set([
    ...exploration.entered,
    ...[...exploration.fired].flatMap((thread) => heardBy(program, thread)),
    ...[...rootsReached(program, exploration)].flatMap((root) => begunIn(expand(program, program.scenes.get(root)!))),
  ]);

/** Who waits for a state and fires has seen it come, though it may have gone again at once. */
function heardBy({ piece }: Program, id: string): string[] {
  const thread = piece.threads.get(id);
  if (thread?.cue.type !== 'state' || thread.cue.change !== 'entered' || thread.cue.state === null) return [];
  const scene = thread.on === 'scene' ? thread.owner : piece.layers.get(thread.owner)?.part;
  return scene === undefined ? [] : [`${scene} ${thread.cue.state}`];
}

const begunIn = onceFor(({ root, instances, nodes }: Expansion): readonly string[] => {
  const begun = emptyRoot(root.scene.id, 0);
  const found = new Set<string>();
  for (const instance of instances.values()) {
    const state = stateOf(begun, instance);
    if (state !== null) found.add(`${instance.scene.scene.id} ${state}`);
    for (const one of Object.values(instance.scene.scene.states ?? {}))
      for (const [path, { state: asked }] of Object.entries(one.deltas)) {
        const part = asked === undefined ? undefined : instances.get(instance.key === '' ? path : `${instance.key}/${path}`);
        if (part) found.add(`${part.scene.scene.id} ${asked}`);
      }
  }
  for (const { layer, inside } of nodes)
    if (inside)
      for (const look of Object.values(layer.looks ?? {})) if (look?.state !== undefined) found.add(`${inside.scene.scene.id} ${look.state}`);
  return [...found];
});
