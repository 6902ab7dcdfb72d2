import { scenesOf, type Layer, type Scene, type Thread } from '../../piece/piece.ts';
import { update, type Item, type Program, type SceneProgram } from '../../program/program.ts';
import { unwrap } from '../../result.ts';
import { isEqual } from '../../versions/equal.ts';
import { apply } from '../apply.ts';
import type { MakeId } from '../make-id.ts';
import type { Operation } from '../operation.ts';
import { namingScene, partHolds, placeInstead } from './parts.ts';
import { renamedLayer, renamedThread } from './remap.ts';

/** Layers that are as those of a part, wherever they stand: the part can stand for them, so that what is changed of it is changed there, too. */

/** Layers of one scene that are as all of those of a part, but for what a placement of it can be filled with. */
export interface Likeness {
  readonly scene: string;
  /** Its layers by their ids, and for each that of the part. */
  readonly names: ReadonlyMap<string, string>;
  readonly fills: NonNullable<Layer['fills']>;
}

/** All of them, in the order of the scenes, from back to front. */
export function likenessesOf(program: Program, part: string): Likeness[] {
  const { piece } = program;
  const own = program.scenes.get(part);
  if (!own || own.items.length === 0) return [];
  const scenes = (['frame', 'sheet', 'part'] as const).flatMap((use) => scenesOf(piece, use));
  return scenes
    .filter(({ id }) => !partHolds(piece, part, id))
    .flatMap(({ id }) => {
      const taken = new Set<string>();
      const scene = program.scenes.get(id)!;
      return scene.items.flatMap((item) => {
        const likeness = likenessAt(own, scene, item, taken);
        for (const layer of likeness?.names.keys() ?? []) taken.add(layer);
        return likeness ?? [];
      });
    });
}

/** Puts placements of a part, filled in, where layers are as its own. */
export function standIn(program: Program, part: string, likenesses: readonly Likeness[], makeId: MakeId): Operation[] {
  const scene = program.piece.scenes.get(part);
  if (!scene) return [];
  const all: Operation[] = [];
  let now = program;
  for (const one of likenesses) {
    const operations = placeInstead(now, one, scene, makeId);
    const { piece, touched } = unwrap(apply(now.piece, operations));
    now = update(now, piece, touched);
    all.push(...operations);
  }
  return all;
}

/** Those of which one is as the hindmost layer of the part; null where there are none, or some are taken already. */
function likenessAt(part: SceneProgram, scene: SceneProgram, first: Item, taken: ReadonlySet<string>): Likeness | null {
  const tops = part.items.filter(({ parent }) => parent === null);
  const from = tops[0]!.layer;
  const by = { x: first.layer.pose.x - from.pose.x, y: first.layer.pose.y - from.pose.y };
  const beside = scene.items.filter(({ parent }) => parent === first.parent);
  const names = new Map<string, string>();
  const fills: Record<string, { text?: string; asset?: string }> = {};
  const take = (inner: Item, among: readonly Item[], shift: { readonly x: number; readonly y: number }): boolean => {
    const found = among.find(({ layer }) => !taken.has(layer.id) && !names.has(layer.id) && isLike(inner.layer, layer, shift));
    if (!found || found.children.length !== inner.children.length) return false;
    names.set(found.layer.id, inner.layer.id);
    const fill = fillOf(inner.layer, found.layer);
    if (fill) fills[inner.layer.id] = fill;
    return inner.children.every((child) => take(child, found.children, NOWHERE));
  };
  if (!take(tops[0]!, [first], by) || !tops.slice(1).every((top) => take(top, beside, by))) return null;
  const isAlike = [...names].every(([id, inner]) => doesLike(part.byId.get(inner)!, scene.byId.get(id)!, names, scene.scene));
  return isAlike ? { scene: scene.scene.id, names, fills } : null;
}

const NOWHERE = { x: 0, y: 0 };

/** As near as this, in CSS px, is the same place. */
const NEAR = 0.01;

/** Whether a layer has the kind, the name but for a number, the size and the place of one in a part. */
function isLike(inner: Layer, { type, name, pose }: Layer, shift: { readonly x: number; readonly y: number }): boolean {
  if (type !== inner.type || plain(name) !== plain(inner.name)) return false;
  const { x, y, ...rest } = pose;
  const isThere = Math.abs(x - inner.pose.x - shift.x) <= NEAR && Math.abs(y - inner.pose.y - shift.y) <= NEAR;
  const { x: _x, y: _y, ...own } = inner.pose;
  return isThere && isEqual(rest, own);
}

const plain = (name: string): string => name.toLowerCase().replace(/[\s\d]+$/, '');

/** What a placement has to be filled with to show a layer; null for nothing. */
function fillOf({ text, asset }: Layer, there: Layer): { text?: string; asset?: string } | null {
  const fill = {
    ...(text !== undefined && there.text !== undefined && there.text !== text && { text: there.text }),
    ...(asset !== undefined && there.asset !== undefined && there.asset !== asset && { asset: there.asset }),
  };
  return Object.keys(fill).length ? fill : null;
}

/** Whether a layer looks as one in a part but for what can be filled in, and does the same. */
function doesLike(inner: Item, there: Item, names: ReadonlyMap<string, string>, { id }: Scene): boolean {
  const bare = (layer: Layer) => {
    // What it was copied from is no part of how it looks.
    const {
      id: _id,
      scene: _scene,
      parent: _parent,
      order: _order,
      name: _name,
      pose: _pose,
      locked: _locked,
      copyOf: _copyOf,
      text,
      asset,
      ...rest
    } = layer;
    return { ...rest, isText: text !== undefined, isPicture: asset !== undefined };
  };
  const said = ({ cue, branches, enabled }: Thread) => ({ cue, branches, enabled });
  const does = ({ threads }: Item, of: (thread: Thread) => Thread) => threads.map((thread) => said(of(thread)));
  return (
    isEqual(bare(renamedLayer(there.layer, names)), bare(inner.layer)) &&
    isEqual(
      does(there, (thread) => renamedThread(namingScene(thread, id), names)),
      does(inner, (thread) => thread)
    )
  );
}
