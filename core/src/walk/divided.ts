import { parseExpression } from '../expression/parse.ts';
import { textParts } from '../expression/text.ts';
import { onceFor } from '../once.ts';
import type { Binding } from '../program/binding.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { scenesOn, valueIn } from '../run/environment.ts';
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
    for (const part of [exploration, ...exploration.slices]) lookFor(program, part, root, dividing, found);
  }
  return [...found.values()];
}

function lookFor(program: Program, exploration: Exploration, root: string, dividing: readonly Binding[], found: Map<string, Divided>): void {
  const read = new Set(dividing.flatMap(({ reads }) => [...reads].flatMap((key) => [key, key.replace(/\.[^.]*$/, '')])));
  const isRead = (key: string) => read.has(key) || [...read].some((one) => key.startsWith(`${one}:`));
  const slots = exploration
    .slots()
    .filter(({ scene, kind, key }) => kind === 'frame' || kind === 'overlays' || (scene === null ? isRead(key) : scene === root || isRead(key)));
  const known = new Set<string>();
  for (let state = 0; state < exploration.states.length; state++) {
    const words = slots.map(({ numberIn }) => numberIn(state)).join(' ');
    if (known.has(words)) continue;
    known.add(words);
    const run = exploration.runOf(state);
    if (!scenesOn(program, run).includes(root)) continue;
    for (const binding of dividing) {
      const key = `${binding.node?.layer.id ?? binding.instance.scene.scene.id} ${binding.what}`;
      if (found.has(key)) continue;
      const isSo = sourcesOf(binding).some((source) => {
        const given = valueIn(program, run, binding.instance, source);
        return !given.ok && given.error.code === 'division-by-zero';
      });
      if (isSo) found.set(key, { binding, state, exploration });
    }
  }
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
