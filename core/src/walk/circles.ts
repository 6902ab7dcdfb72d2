import { expand, type Expansion } from '../program/expand.ts';
import type { Binding } from '../program/binding.ts';
import type { Program } from '../program/program.ts';
import { onceFor } from '../once.ts';
import { valueIn } from '../run/environment.ts';
import type { Value } from '../expression/ast.ts';
import type { Exploration } from './exploration.ts';

/** A binding that follows from itself, and comes out otherwise whenever it is worked out again. */
export interface Circle {
  readonly binding: Binding;
  /** A state in which it is so, with what it is there and what it would be. */
  readonly state: number;
  readonly was: Value | null;
  readonly again: Value | null;
}

/** Bindings that never come to rest, each once for its layer: looked for where each frame was first come to. */
export function circlesIn(program: Program, { reached, runOf }: Pick<Exploration, 'reached' | 'runOf'>): Circle[] {
  const found = new Map<string, Circle>();
  for (const [frame, state] of reached) {
    const expansions = [frame, ...(program.piece.scenes.get(frame)?.carries ?? []).map(({ sheet }) => sheet)].flatMap((id) => {
      const scene = program.scenes.get(id);
      return scene ? expand(program, scene) : [];
    });
    if (!expansions.some((expansion) => circling(expansion).length)) continue;
    const run = runOf(state);
    for (const expansion of expansions)
      for (const binding of circling(expansion)) {
        const was = run.roots[expansion.root.scene.id]?.bound[binding.key];
        if (was === undefined) continue;
        const given = valueIn(program, run, binding.instance, binding.source);
        const again = given.ok ? given.value : null;
        const key = `${binding.node?.layer.id ?? binding.instance.scene.scene.id} ${binding.what}`;
        if (again !== was && !found.has(key)) found.set(key, { binding, state, was: was as Value | null, again });
      }
  }
  return [...found.values()];
}

/** Bindings that read what follows from themselves. */
const circling = onceFor((expansion: Expansion): readonly Binding[] =>
  expansion.bindings.filter((binding) => binding.what !== 'text' && followsFromItself(binding, expansion))
);

function followsFromItself(binding: Binding, { readers }: Expansion): boolean {
  const seen = new Set<Binding>();
  const next = [binding];
  for (let at = next.pop(); at; at = next.pop())
    for (const reader of readers.get(givenBy(at)) ?? []) {
      if (reader === binding) return true;
      if (!seen.has(reader)) next.push(reader);
      seen.add(reader);
    }
  return false;
}

/** The key by which others read what a binding gives. */
const givenBy = ({ node, instance, what }: Binding): string =>
  what === 'stateIs' ? `${instance.key || instance.scene.scene.id}.state` : `${node!.key}.${what}`;
