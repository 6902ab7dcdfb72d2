import { onceFor } from '../once.ts';
import type { Piece } from '../piece/piece.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { areSame } from '../same.ts';
import { changedIn } from '../table.ts';

/**
 * What was found in a piece before an edit, to be taken again where all that it depends on is as it was. It is kept with the list of
 * frames, which stays the same one from edit to edit as long as no frame comes or goes.
 */
const keptWith = onceFor((_: Program['frames']) => new Map<string, unknown>());

/** What was kept of a piece under a name, and what is to be kept. */
export function before<T>({ frames }: Program, name: string): { readonly old: T | undefined; readonly keep: (one: T) => T } {
  const kept = keptWith(frames);
  return { old: kept.get(name) as T | undefined, keep: (one) => (kept.set(name, one), one) };
}

/** What is found under a name, made anew only where something that it depends on is not the same. */
export function asBefore<T>(program: Program, name: string, of: readonly unknown[], find: () => T): T {
  const { old, keep } = before<{ readonly of: readonly unknown[]; readonly found: T }>(program, name);
  return old && areSame(old.of, of) ? old.found : keep({ of, found: find() }).found;
}

/** What each scene comes to; the same map from edit to edit as long as every scene comes to the same. */
export function inEach<T extends string | boolean>(program: Program, name: string, of: (scene: SceneProgram) => T): ReadonlyMap<string, T> {
  const { scenes } = program;
  const { old, keep } = before<{ readonly scenes: Program['scenes']; readonly found: ReadonlyMap<string, T> }>(program, `each ${name}`);
  const isSame = (id: string) => {
    const scene = scenes.get(id);
    return scene !== undefined && old!.found.get(id) === of(scene);
  };
  if (old && changedIn(old.scenes, scenes).every(isSame)) return keep({ scenes, found: old.found }).found;
  return keep({ scenes, found: new Map([...scenes.entries()].map(([id, scene]) => [id, of(scene)])) }).found;
}

/**
 * Stands for the layers that there are, where each is and what it shows of which part: the same object from edit to edit as long as that
 * is so.
 */
export function layersThere(program: Program): object {
  const { layers } = program.piece;
  const { old, keep } = before<{ readonly layers: Piece['layers']; readonly found: object }>(program, 'layers');
  const isSame = (id: string) => {
    const [a, b] = [old!.layers.get(id), layers.get(id)];
    return a && b && a.scene === b.scene && a.parent === b.parent && a.part === b.part && a.state === b.state;
  };
  return keep({ layers, found: old && changedIn(old.layers, layers).every(isSame) ? old.found : {} }).found;
}
