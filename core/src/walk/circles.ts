import { expand, type Expansion } from '../program/expand.ts';
import type { Binding } from '../program/binding.ts';
import type { Program } from '../program/program.ts';
import { onceFor } from '../once.ts';
import { valueIn } from '../run/environment.ts';
import type { Value } from '../expression/ast.ts';
import { keyOfBinding, statesBound, type BoundIn } from './bound-in.ts';
import type { Exploration } from './exploration.ts';
import { rootsReached } from './live.ts';

/** A binding that follows from itself, and comes out otherwise whenever it is worked out again. */
export interface Circle extends BoundIn {
  readonly binding: Binding;
  /** What it is there, and what it would be. */
  readonly was: Value | null;
  readonly again: Value | null;
}

/** Bindings that never come to rest, each once for its layer, in a state that is met. */
export function circlesIn(program: Program, exploration: Exploration): Circle[] {
  const found = new Map<string, Circle>();
  for (const root of rootsReached(program, exploration)) {
    let left = circling(expand(program, program.scenes.get(root)!));
    if (left.length === 0) continue;
    for (const at of statesBound(program, exploration, root, left)) {
      for (const binding of left) {
        const was = at.run.roots[root]?.bound[binding.key];
        if (was === undefined) continue;
        const given = valueIn(program, at.run, binding.instance, binding.source);
        const again = given.ok ? given.value : null;
        if (again !== was) found.set(keyOfBinding(binding), { ...at, binding, was: was as Value | null, again });
      }
      left = left.filter((binding) => !found.has(keyOfBinding(binding)));
      if (left.length === 0) break;
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
