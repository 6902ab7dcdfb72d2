import { layersUnder, type Layer, type Piece, type Scene } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { takeName } from '../../words.ts';
import type { Operation } from '../operation.ts';
import { copyLayers, pasteClip } from './clip.ts';
import { keysBetween } from '../order.ts';
import type { MakeId } from '../make-id.ts';
import { wireTo } from './threads.ts';

/** One layer as a row, a column or a grid of equal ones: over painted buttons, or as tabs for frames. */
export interface Repeating {
  readonly across: number;
  readonly down: number;
  /** Space between them, CSS px of the scene. */
  readonly gapX: number;
  readonly gapY: number;
  /** Stretched so that the row fills this width from the layer's own left edge; its own width if null. */
  readonly fill: number | null;
  /** Stops after so many, in the middle of a row if need be. */
  readonly count?: number;
}

/** How many layers a grid may have. */
export const MOST_REPEATED = 400;

export interface Repeated {
  readonly operations: Operation[];
  /** The layer itself and its copies, row by row. */
  readonly ids: readonly string[];
}

export function repeatLayer(program: Program, scene: string, id: string, repeating: Repeating, makeId: MakeId): Repeated {
  const { piece } = program;
  const item = program.scenes.get(scene)?.byId.get(id);
  const across = Math.max(1, Math.floor(repeating.across));
  const down = Math.max(1, Math.floor(repeating.down));
  const count = Math.min(repeating.count ?? Infinity, across * down);
  if (!item || across * down > MOST_REPEATED) return { operations: [], ids: [] };
  const width = repeating.fill === null ? item.box.width : (repeating.fill - (across - 1) * repeating.gapX) / across;
  const operations: Operation[] =
    width === item.box.width ? [] : [{ op: 'set', table: 'layers', id, path: ['pose', 'width'], value: Math.round(Math.max(1, width) * 100) / 100 }];
  const clip = copyLayers(program, scene, [id]);
  const sized = { ...clip, layers: clip.layers.map((layer) => (layer.parent === null ? { ...layer, pose: { ...layer.pose, width } } : layer)) };
  const siblings = layersUnder(piece, scene, null);
  const taken = new Set(siblings.map((layer) => layer.name));
  const keys = keysBetween(siblings.at(-1)?.order ?? null, null, count - 1);
  const ids = [id];
  for (let n = 1; n < count; n++) {
    const offset = { x: (n % across) * (width + repeating.gapX), y: Math.floor(n / across) * (item.box.height + repeating.gapY) };
    const copy = pasteClip(piece, sized, scene, makeId, offset);
    const name = takeName(taken, item.layer.name);
    operations.push(...copy.operations.map((operation) => placed(operation, copy.ids[0]!, name, keys[n - 1]!)));
    ids.push(copy.ids[0]!);
  }
  return { operations, ids };
}

/** Copies pasted from one piece all ask for the same name and place in front: each gets its own. */
function placed(operation: Operation, top: string, name: string, order: string): Operation {
  if (operation.op !== 'put' || operation.table !== 'layers' || operation.value.id !== top) return operation;
  return { ...operation, value: { ...(operation.value as Layer), name, order } as { id: string } };
}

/** Words for layers, one each: their name, and what is written on them, unless they are see-through areas over what is painted below. */
export function namedByWords(piece: Piece, layers: readonly string[], words: readonly string[], like: string): Operation[] {
  const writes = isSeen(piece.layers.get(like));
  return layers.flatMap((id, i): Operation[] => {
    const word = words[i];
    if (word === undefined) return [];
    const named = (field: 'name' | 'text'): Operation => ({ op: 'set', table: 'layers', id, path: [field], value: word });
    return writes ? [named('name'), named('text')] : [named('name')];
  });
}

/** Whether there is anything of a layer to see: words, or paint. */
const isSeen = (layer: Layer | undefined): boolean => {
  if (!layer || layer.type === 'hit') return false;
  const { fill, line, opacity = 1 } = layer.style;
  const paints = (color: string | undefined) => color !== undefined && !/^#[0-9a-f]{6}00$/i.test(color);
  return (
    layer.text !== undefined ||
    layer.type === 'text' ||
    (opacity > 0 && (paints(fill) || (line !== undefined && line.width > 0 && paints(line.color))))
  );
};

/** Layers that stand for frames: named after them, leading to them, and selected while theirs is the open one. */
export function namedAfterFrames(
  piece: Piece,
  layers: readonly string[],
  frames: readonly Scene[],
  mark: boolean,
  makeId: MakeId,
  like = layers[0] ?? ''
): Operation[] {
  return layers.flatMap((id, i): Operation[] => {
    const frame = frames[i];
    if (!frame) return [];
    return [
      ...namedByWords(piece, [id], [frame.name], like),
      ...(mark ? [{ op: 'set' as const, table: 'layers' as const, id, path: ['bindings', 'selected'], value: `frame.name = ‹=${frame.id}›` }] : []),
      ...wireTo(piece, [id], frame.id, makeId),
    ];
  });
}
