import { Beside } from '../once.ts';
import type { Program } from '../program/program.ts';
import { expand } from '../program/expand.ts';
import type { Exploration } from './exploration.ts';

/** Whether all that can be done was followed to its end: only then is anything said of what never comes. */
export const isComplete = ({ cut }: Exploration): boolean => cut === null;

/** The scenes that stand on the screen by themselves in some state: frames that are reached, and the sheets they carry. */
export function rootsReached(program: Program, { reached }: Exploration): ReadonlySet<string> {
  const roots = new Set<string>();
  for (const frame of reached.keys()) {
    roots.add(frame);
    for (const { sheet } of program.scenes.get(frame)?.scene.carries ?? []) if (program.scenes.has(sheet)) roots.add(sheet);
  }
  return roots;
}

/** The same with the parts that are placed in them. */
export function scenesReached(program: Program, exploration: Exploration): ReadonlySet<string> {
  let found = known.get(exploration);
  if (!found) {
    const roots = [...rootsReached(program, exploration)];
    const parts = roots.flatMap((root) => expand(program, program.scenes.get(root)!).parts.map(({ scene }) => scene.id));
    known.set(exploration, (found = new Set([...roots, ...parts])));
  }
  return found;
}

const known = new Beside<Exploration, ReadonlySet<string>>();
