import { expand } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { emptyRoot } from '../run/environment.ts';
import { stateOf } from '../run/resolve.ts';
import type { Exploration } from './exploration.ts';
import { rootsReached } from './live.ts';

/** The states that are met, as `scene state`: all that is entered, what anything begins in, and what states of what is around it ask for. */
export function statesMet(program: Program, exploration: Exploration): ReadonlySet<string> {
  const met = new Set(exploration.entered);
  for (const root of rootsReached(program, exploration)) {
    const { instances, nodes } = expand(program, program.scenes.get(root)!);
    const begun = emptyRoot(root, 0);
    for (const instance of instances.values()) {
      const state = stateOf(begun, instance);
      if (state !== null) met.add(`${instance.scene.scene.id} ${state}`);
      for (const one of Object.values(instance.scene.scene.states ?? {}))
        for (const [path, { state: asked }] of Object.entries(one.deltas)) {
          const part = asked === undefined ? undefined : instances.get(instance.key === '' ? path : `${instance.key}/${path}`);
          if (part) met.add(`${part.scene.scene.id} ${asked}`);
        }
    }
    for (const { layer, inside } of nodes)
      for (const look of Object.values(layer.looks ?? {})) if (inside && look?.state !== undefined) met.add(`${inside.scene.scene.id} ${look.state}`);
  }
  return met;
}
