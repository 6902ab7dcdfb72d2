import type { Cue } from '../vocabulary/cues/all.ts';
import { keysBetween } from '../edit/order.ts';
import type { Operation } from '../edit/operation.ts';
import { apply } from '../edit/apply.ts';
import { emptyPiece, type Layer, type Piece, type Scene, type Thread } from '../piece/piece.ts';
import { unwrap } from '../result.ts';
import type { Step } from '../vocabulary/steps/all.ts';
import type { Target } from '../vocabulary/target.ts';
import type { Transition } from '../vocabulary/transitions/all.ts';

/** Builders of small pieces for tests: frames by id, layers and threads in the order they are written. */

export interface FrameSpec {
  readonly name?: string;
  readonly layers?: Readonly<Record<string, LayerSpec>>;
  readonly threads?: readonly ThreadSpec[];
  readonly ending?: boolean;
  readonly size?: readonly [number, number];
}

export type LayerSpec = Partial<Omit<Layer, 'id' | 'scene' | 'order' | 'pose'>> & {
  readonly at?: readonly [number, number, number, number];
  readonly threads?: readonly ThreadSpec[];
};

export interface ThreadSpec {
  readonly cue?: Cue;
  readonly steps: readonly Step[];
  readonly enabled?: boolean;
}

export const go = (to: string | null, transition: Transition = { type: 'cut' }): Step => ({ do: 'go', target: targetOf(to), transition });

export const open = (address: string, tab: 'same' | 'new' = 'new'): Step => ({ do: 'open', address, tab });

export const click = (...steps: Step[]): ThreadSpec => ({ steps });

export const on = (cue: Cue, ...steps: Step[]): ThreadSpec => ({ cue, steps });

const placeWords = ['next', 'previous', 'first', 'last', 'back', 'start'] as const;

const targetOf = (to: string | null): Target => {
  const place = placeWords.find((word) => word === to);
  return place ? { to: place } : { to: 'frame', frame: to };
};

/** A piece whose start is its first frame. Threads of the piece itself come last. */
export function build(frames: Readonly<Record<string, FrameSpec>>, pieceThreads: readonly ThreadSpec[] = []): Piece {
  const head = { id: 'piece', name: 'Test piece', width: 390, height: 844, start: [] };
  const operations: Operation[] = [];
  const ids = Object.keys(frames);
  keysBetween(null, null, ids.length).forEach((order, i) => {
    const id = ids[i]!;
    const { name = id, layers = {}, threads = [], ending, size = [390, 844] } = frames[id]!;
    const scene: Scene = { id, use: 'frame', name, order, width: size[0], height: size[1], background: '#ffffff', ...(ending && { ending }) };
    operations.push({ op: 'put', table: 'scenes', value: scene }, ...threadOperations('scene', id, threads), ...layerOperations(id, layers));
  });
  operations.push(
    { op: 'set', table: 'piece', id: 'piece', path: ['start'], value: ids.slice(0, 1) },
    ...threadOperations('piece', 'piece', pieceThreads)
  );
  return unwrap(apply(emptyPiece(head), operations)).piece;
}

function layerOperations(scene: string, layers: Readonly<Record<string, LayerSpec>>): Operation[] {
  const ids = Object.keys(layers);
  return keysBetween(null, null, ids.length).flatMap((order, i) => {
    const id = ids[i]!;
    const { at = [0, 0, 100, 50], threads = [], ...rest } = layers[id]!;
    const [x, y, width, height] = at;
    const value: Layer = { name: id, type: 'box', parent: null, style: {}, ...rest, id, scene, order, pose: { x, y, width, height } };
    return [{ op: 'put' as const, table: 'layers' as const, value }, ...threadOperations('layer', id, threads)];
  });
}

function threadOperations(kind: Thread['on'], owner: string, specs: readonly ThreadSpec[]): Operation[] {
  return keysBetween(null, null, specs.length).map((order, i) => {
    const { cue = { type: 'click' }, steps, enabled = true } = specs[i]!;
    const value: Thread = { id: `${owner}-t${i}`, on: kind, owner, order, cue, branches: [{ steps: [...steps] }], enabled };
    return { op: 'put', table: 'threads', value };
  });
}
