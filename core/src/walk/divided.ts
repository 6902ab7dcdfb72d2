import { parseExpression } from '../expression/parse.ts';
import { textParts } from '../expression/text.ts';
import { onceFor } from '../once.ts';
import type { Binding } from '../program/binding.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { valueIn } from '../run/environment.ts';
import { keyOfBinding, statesBound } from './bound-in.ts';
import { divisorsIn } from './divisors.ts';
import type { Exploration } from './exploration.ts';
import { rootsReached } from './live.ts';

/** A binding or a text that divides by zero. */
export interface Divided {
  readonly binding: Binding;
  /** A state in which it does, of the exploration that met it. */
  readonly state: number;
  readonly exploration: Exploration;
}

/** Those bindings and texts that divide by zero in a state that is met, each once for its layer. */
export function dividedByZero(program: Program, exploration: Exploration): Divided[] {
  const found = new Map<string, Divided>();
  for (const root of rootsReached(program, exploration)) {
    const dividing = dividingIn(expand(program, program.scenes.get(root)!));
    if (dividing.length === 0) continue;
    for (const { state, run, exploration: part } of statesBound(program, exploration, root, dividing))
      for (const binding of dividing) {
        const key = keyOfBinding(binding);
        if (found.has(key)) continue;
        const isSo = sourcesOf(binding).some((source) => {
          const given = valueIn(program, run, binding.instance, source);
          return !given.ok && given.error.code === 'division-by-zero';
        });
        if (isSo) found.set(key, { binding, state, exploration: part });
      }
  }
  return [...found.values()];
}

/** The expressions of a binding: its own, or those that stand in its text. */
const sourcesOf = ({ what, source }: Binding): readonly string[] =>
  what === 'text' ? textParts(source).flatMap(({ expression }) => expression ?? []) : [source];

/** Bindings and texts that divide by what is not given. */
const dividingIn = onceFor((expansion: Expansion): readonly Binding[] =>
  expansion.bindings.filter((binding) =>
    sourcesOf(binding).some((source) => {
      const parsed = parseExpression(source);
      return parsed.ok && divisorsIn(parsed.value).length > 0;
    })
  )
);
