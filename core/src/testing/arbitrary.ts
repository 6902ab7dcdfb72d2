import { layerKinds } from '../vocabulary/layers/all.ts';
import type { Operation } from '../edit/operation.ts';
import { keyBetween } from '../edit/order.ts';
import { framesOf, type Layer, type Piece } from '../piece/piece.ts';
import { build, click, go, on, open, type FrameSpec, type LayerSpec, type ThreadSpec } from './build.ts';
import { generator } from './large.ts';

/** Random pieces and edits from seeds: a deterministic world for property tests. */

const pick = <T>(random: () => number, from: readonly T[]): T => from[Math.floor(random() * from.length)]!;

/** Types of layers that need nothing more to be one. */
const plain = Object.values(layerKinds).flatMap(({ type, draws }) => (['ground', 'outline', 'nothing'].includes(draws) ? [type] : []));

const upTo = (random: () => number, most: number) => Math.floor(random() * (most + 1));

/** A piece of a few frames wired at random with every cue and target, also to frames that are not there. */
export function randomPiece(seed: number, most = 6): Piece {
  const random = generator(seed);
  const ids = Array.from({ length: 1 + upTo(random, most - 1) }, (_, i) => `f${i}`);
  const frames: Record<string, FrameSpec> = {};
  for (const id of ids) frames[id] = randomFrame(random, id, ids);
  const keys = random() < 0.2 ? [on({ type: 'key', key: 'ArrowRight' }, go('next'))] : [];
  return build(frames, keys);
}

function randomFrame(random: () => number, id: string, ids: readonly string[]): FrameSpec {
  const layers: Record<string, LayerSpec> = {};
  for (let i = 0; i < upTo(random, 4); i++)
    layers[`${id}l${i}`] = {
      at: [upTo(random, 300), upTo(random, 700), 20 + upTo(random, 90), 20 + upTo(random, 140)],
      type: pick(random, plain),
      hidden: random() < 0.1,
      threads: Array.from({ length: upTo(random, 2) }, () => randomThread(random, ids)),
    };
  const threads = random() < 0.3 ? [on({ type: 'after', ms: 100 + 100 * upTo(random, 20) }, randomStep(random, ids))] : [];
  return { layers, threads, ending: random() < 0.1 };
}

function randomThread(random: () => number, ids: readonly string[]): ThreadSpec {
  const step = randomStep(random, ids);
  const kind = random();
  const enabled = random() > 0.1;
  if (kind < 0.7) return { ...click(step), enabled };
  if (kind < 0.8) return { ...on({ type: 'key', key: pick(random, ['a', 'Enter', 'ArrowLeft']) }, step), enabled };
  if (kind < 0.9) return { ...on({ type: 'hover' }, step), enabled };
  return { ...on({ type: 'after', ms: 100 + 100 * upTo(random, 20) }, step), enabled };
}

function randomStep(random: () => number, ids: readonly string[]) {
  const kind = random();
  if (kind < 0.1)
    return open(pick(random, ['https://kittiwake.example/', 'kittiwake', 'mailto:pier@kittiwake.example']), random() < 0.5 ? 'new' : 'same');
  if (kind < 0.3) return go(pick(random, ['next', 'previous', 'first', 'last', 'start']));
  if (kind < 0.42) return go('back');
  if (kind < 0.45) return go(pick(random, [null, 'gone']));
  return go(pick(random, ids), random() < 0.5 ? { type: 'cut' } : { type: 'push', direction: 'left', ms: 300, easing: 'ease-out' });
}

/** A few operations as somebody at the piece might make them; now and then one that cannot be applied. */
export function randomOperations(piece: Piece, seed: number): Operation[] {
  const random = generator(seed);
  return Array.from({ length: 1 + upTo(random, 3) }, (_, i) => randomOperation(piece, random, `n${seed}x${i}`));
}

function randomOperation(piece: Piece, random: () => number, fresh: string): Operation {
  const frames = framesOf(piece);
  const layers = [...piece.layers.values()];
  const threads = [...piece.threads.values()];
  const kind = random();
  if (kind < 0.15 || frames.length === 0)
    return {
      op: 'put',
      table: 'scenes',
      value: {
        id: fresh,
        use: 'frame',
        name: `New ${fresh}`,
        order: keyBetween(frames.at(-1)?.order ?? null, null),
        width: 100,
        height: 100,
        background: '#ffffff',
      } as { id: string },
    };
  if (kind < 0.35 || layers.length === 0) return { op: 'put', table: 'layers', value: freshLayer(pick(random, frames).id, fresh, random) };
  const layer = pick(random, layers);
  if (kind < 0.6) return { op: 'set', table: 'layers', id: layer.id, path: ['pose', pick(random, ['x', 'y'])], value: upTo(random, 300) };
  if (kind < 0.7)
    return { op: 'set', table: 'layers', id: layer.id, path: ['looks', 'hover', 'style', 'fill'], value: pick(random, ['#112233', '#445566']) };
  if (kind < 0.75) return { op: 'set', table: 'layers', id: layer.id, path: ['looks'] };
  if (kind < 0.8) return { op: 'remove', table: 'layers', id: layer.id };
  if (kind < 0.85) return { op: 'remove', table: 'scenes', id: pick(random, frames).id };
  if (kind < 0.9) return { op: 'set', table: 'piece', id: piece.head.id, path: ['name'], value: `Named ${upTo(random, 9)}` };
  if (kind < 0.95 && threads.length) return { op: 'remove', table: 'threads', id: pick(random, threads).id };
  return { op: 'set', table: 'layers', id: layer.id, path: ['opacity'], value: 'wrong' };
}

const freshLayer = (scene: string, id: string, random: () => number): Layer => ({
  id,
  scene,
  parent: null,
  order: keyBetween(null, null),
  name: id,
  type: 'box',
  pose: { x: upTo(random, 90), y: upTo(random, 90), width: 40, height: 40 },
  style: {},
});
