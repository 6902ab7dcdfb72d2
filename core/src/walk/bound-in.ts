import type { Binding } from '../program/binding.ts';
import type { Program } from '../program/program.ts';
import { scenesOn } from '../run/environment.ts';
import type { RunState } from '../run/state.ts';
import type { Exploration } from './exploration.ts';

/** A state of an exploration in which bindings may come out otherwise than in those before, with a run that is in it. */
export interface BoundIn {
  readonly state: number;
  readonly exploration: Exploration;
  readonly run: RunState;
}

/** A binding of a layer, or of a scene, wherever that is placed. */
export const keyOfBinding = ({ node, instance, what }: Binding): string => `${node?.layer.id ?? instance.scene.scene.id} ${what}`;

/** The states in which a scene is on the screen, of all slices, as far as what some of its bindings read is not the same in them. */
export function* statesBound(program: Program, exploration: Exploration, root: string, bindings: readonly Binding[]): Iterable<BoundIn> {
  for (const part of [exploration, ...exploration.slices]) yield* boundIn(program, part, root, bindings);
}

function* boundIn(program: Program, exploration: Exploration, root: string, bindings: readonly Binding[]): Iterable<BoundIn> {
  const read = new Set(bindings.flatMap(({ reads }) => [...reads].flatMap((key) => [key, key.replace(/\.[^.]*$/, '')])));
  const isRead = (key: string) => read.has(key) || [...read].some((one) => key.startsWith(`${one}:`));
  const slots = exploration
    .slots()
    .filter(({ scene, kind, key }) => kind === 'frame' || kind === 'overlays' || (scene === null ? isRead(key) : scene === root || isRead(key)));
  const known = new Set<string>();
  for (let state = 0; state < exploration.edges.length; state++) {
    const words = slots.map(({ numberIn }) => numberIn(state)).join(' ');
    if (known.has(words)) continue;
    known.add(words);
    const run = exploration.runOf(state);
    if (scenesOn(program, run).includes(root)) yield { state, exploration, run };
  }
}
