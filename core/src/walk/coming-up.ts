import { onceFor } from '../once.ts';
import { statesOf, type Scene, type Thread } from '../piece/piece.ts';
import type { Item, Program, SceneProgram } from '../program/program.ts';
import { asBefore, before } from './again.ts';
import { branchKeysOf, threadsIn } from './at-thread.ts';
import type { Exploration } from './exploration.ts';

/**
 * Layers that are hidden as they are drawn, and come up: by a state that can be come to, a step that is done, a look, a binding. What is
 * judged as it is drawn is judged of them too. The same set from edit to edit as long as the same come up.
 */
export function comingUp(program: Program, { entered, branches }: Pick<Exploration, 'entered' | 'branches'>): ReadonlySet<string> {
  const { scenes, piece } = program;
  // What exploring comes to is added to the same sets.
  return asBefore(program, 'coming up', [scenes, piece.threads, entered, branches, entered.size, branches.size], () => {
    const found = foundUp(program, entered, branches);
    const { old, keep } = before<ReadonlySet<string>>(program, 'up');
    return old?.size === found.size && [...found].every((id) => old.has(id)) ? old : keep(found.size === 0 ? NOTHING_UP : found);
  });
}

function foundUp({ piece, scenes }: Program, entered: ReadonlySet<string>, branches: ReadonlySet<string>): ReadonlySet<string> {
  const hidden = new Set([...scenes.values()].flatMap(hiddenIn));
  if (hidden.size === 0) return NOTHING_UP;
  const begun = new Set([...scenes.values()].flatMap(beginsIn));
  const shown = [...scenes.values()].flatMap((scene) => {
    const isMet = (state: string) => begun.has(state) || entered.has(`${scene.scene.id} ${state}`);
    return [...comingByLooks(scene), ...shownByStates(scene.scene).flatMap(([state, ids]) => (isMet(state) ? ids : []))];
  });
  const byBranches = threadsIn(piece).flatMap((thread) => shownBySteps(thread).flatMap(([branch, id]) => (branches.has(branch) ? id : [])));
  return new Set([...shown, ...byBranches].filter((id) => hidden.has(id)));
}

/** Nothing comes up. */
export const NOTHING_UP: ReadonlySet<string> = new Set();

/** Whether a layer is there as it is drawn, or comes up. */
export function isThere(item: Item, up: ReadonlySet<string>): boolean {
  if (item.shown) return true;
  if (up.size === 0) return false;
  for (let at: Item | null = item; at; at = at.parent) if (at.layer.hidden && !up.has(at.layer.id)) return false;
  return true;
}

const hiddenIn = onceFor(({ items }: SceneProgram): readonly string[] => items.flatMap(({ layer }) => (layer.hidden ? layer.id : [])));

/** The states that a scene, and the placements in it, begin in. */
const beginsIn = onceFor(({ scene, items }: SceneProgram): readonly string[] => [
  ...(scene.states ? [scene.initial ?? statesOf(scene)[0]?.id ?? []].flat() : []),
  ...items.flatMap(({ layer }) => layer.state ?? []),
]);

const lastOf = (path: string): string => path.split('/').at(-1)!;

/** What each state of a scene shows. */
const shownByStates = onceFor((scene: Scene): readonly (readonly [state: string, ids: readonly string[]])[] =>
  Object.entries(scene.states ?? {}).map(([id, { deltas }]) => [
    id,
    Object.entries(deltas).flatMap(([path, { hidden }]) => (hidden === false ? lastOf(path) : [])),
  ])
);

/** What steps show, with the branches that they stand in. */
const shownBySteps = onceFor((thread: Thread): readonly (readonly [branch: string, id: string])[] => {
  const keys = branchKeysOf(thread);
  return thread.branches.flatMap(({ steps }, i) =>
    steps.flatMap((step) => (step.do === 'show' && step.what !== 'off' && step.layer !== null ? [[keys[i]!, lastOf(step.layer)] as const] : []))
  );
});

/** What bindings and looks for the pointer and the focus show in a scene. */
const comingByLooks = onceFor(({ items }: SceneProgram): readonly string[] =>
  items.flatMap(({ layer: { id, hidden, bindings, looks } }) => [
    ...(hidden && bindings?.shown !== undefined ? [id] : []),
    ...COMING.flatMap((name) => {
      const inside = Object.entries(looks?.[name]?.inside ?? {}).flatMap(([path, delta]) => (delta.hidden === false ? lastOf(path) : []));
      return looks?.[name]?.hidden === false ? [id, ...inside] : inside;
    }),
  ])
);

const COMING = ['hover', 'press', 'focus'] as const;
