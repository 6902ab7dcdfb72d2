import type { MakeId } from '../make-id.ts';
import { cutText, mendedText } from '../../text.ts';
import { byOrder, framesOf, layersUnder, threadsOf, type Asset, type Layer, type Piece, type Scene } from '../../piece/piece.ts';
import { naturally, takeName } from '../../words.ts';
import { keysBetween, keyBetween } from '../order.ts';
import type { Operation } from '../operation.ts';
import { copyScene, pasteScene } from './clip.ts';
import { renamedScene } from './remap.ts';

/** The key for a frame that comes right after another; at the end if none is named. */
function keyAfter(piece: Piece, after: string | null): string {
  const frames = framesOf(piece);
  const at = after === null ? frames.length - 1 : frames.findIndex((frame) => frame.id === after);
  return keyBetween(frames[at]?.order ?? null, frames[at + 1]?.order ?? null);
}

/** `Frame 3`, or with a number behind it where the name is taken. */
export const freeName = (piece: Piece, wanted: string): string => takeName(new Set(framesOf(piece).map((frame) => frame.name)), wanted);

export function newFrame(piece: Piece, id: string, options: { name?: string; after?: string | null; draft?: boolean } = {}): Operation[] {
  const { width, height } = piece.head;
  const name = freeName(piece, options.name ?? `Frame ${piece.scenes.size + 1}`);
  // It goes into the bundle of the frame that it comes after.
  const bundle = piece.scenes.get(options.after ?? '')?.bundle;
  const order = keyAfter(piece, options.after ?? null);
  const scene: Scene = { id, use: 'frame', name, order, width, height, background: '#ffffff', ...(bundle !== undefined && { bundle }) };
  const operations: Operation[] = [{ op: 'put', table: 'scenes', value: options.draft ? { ...scene, draft: true } : scene }];
  if (piece.head.start.length === 0) operations.push({ op: 'set', table: 'piece', id: piece.head.id, path: ['start'], value: [id] });
  return operations;
}

/** A picture file that has been taken in, and how its frame is made. */
export interface BroughtIn {
  readonly asset: Asset;
  /** The file's name; the frame is named after it, without its ending. */
  readonly file: string;
}

/**
 * One frame for each picture, in natural order of the file names, after all others. `fit` makes every frame the piece's
 * size with the picture inside; otherwise each frame gets its picture's size. A first empty frame gives way.
 */
export function bringInPages(piece: Piece, pages: readonly BroughtIn[], fit: boolean, makeId: MakeId): Operation[] {
  const sorted = [...pages].sort((a, b) => naturally(a.file, b.file));
  const frames = framesOf(piece);
  const blank = frames.length === 1 && isBlank(piece, frames[0]!) ? frames[0]! : null;
  const keys = keysBetween(frames.at(-1)?.order ?? null, null, sorted.length);
  const names = new Set(frames.filter((frame) => frame !== blank).map((frame) => frame.name));
  const operations: Operation[] = [];
  const ids: string[] = [];
  sorted.forEach(({ asset, file }, at) => {
    const id = makeId();
    ids.push(id);
    if (!piece.assets.has(asset.id)) operations.push({ op: 'put', table: 'assets', value: asset });
    operations.push(...pageOperations(piece, id, makeId(), asset, takeName(names, baseName(file)), keys[at]!, fit));
  });
  if (blank && ids.length) operations.push({ op: 'remove', table: 'scenes', id: blank.id });
  const start = piece.head.start.filter((id) => id !== blank?.id);
  if (ids.length && start.length === 0) operations.push({ op: 'set', table: 'piece', id: piece.head.id, path: ['start'], value: [ids[0]!] });
  return operations;
}

function pageOperations(piece: Piece, id: string, layer: string, asset: Asset, name: string, order: string, fit: boolean): Operation[] {
  const size = fit ? piece.head : { width: Math.round(asset.width), height: Math.round(asset.height) };
  const { width, height } = { width: Math.min(20_000, Math.max(1, size.width)), height: Math.min(20_000, Math.max(1, size.height)) };
  return [
    { op: 'put', table: 'scenes', value: { id, use: 'frame', name, order, width, height, background: '#ffffff' } as Scene },
    {
      op: 'put',
      table: 'layers',
      value: {
        id: layer,
        scene: id,
        parent: null,
        order: 'a0',
        name: 'Page',
        type: 'picture',
        pose: { x: 0, y: 0, width, height },
        style: {},
        asset: asset.id,
        fit: 'contain',
        locked: true,
      } as { id: string },
    },
  ];
}

/** Files as layers in front of all in a scene, in natural order, each no larger than the scene. */
export function bringInLayers(piece: Piece, scene: string, files: readonly BroughtIn[], makeId: MakeId): { operations: Operation[]; ids: string[] } {
  const around = piece.scenes.get(scene);
  if (!around) return { operations: [], ids: [] };
  const sorted = [...files].sort((a, b) => naturally(a.file, b.file));
  const siblings = layersUnder(piece, scene, null);
  const keys = keysBetween(siblings.at(-1)?.order ?? null, null, sorted.length);
  const names = new Set(siblings.map((layer) => layer.name));
  const known = new Set(piece.assets.keys());
  const ids: string[] = [];
  const operations = sorted.flatMap(({ asset, file }, i): Operation[] => {
    const id = makeId();
    ids.push(id);
    const scale = Math.min(1, around.width / asset.width, around.height / asset.height);
    const [width, height] = [Math.max(1, Math.round(asset.width * scale)), Math.max(1, Math.round(asset.height * scale))];
    const type = asset.mediaType.startsWith('image/') ? 'picture' : asset.mediaType.startsWith('video/') ? 'video' : 'sound';
    const value: Layer = {
      id,
      scene,
      parent: null,
      order: keys[i]!,
      name: takeName(names, baseName(file)),
      type,
      pose: { x: Math.round((around.width - width) / 2), y: Math.round((around.height - height) / 2), width, height },
      style: {},
      asset: asset.id,
      ...(type === 'picture' && { fit: 'fill' as const }),
      ...(type === 'video' && { media: { autoplay: true, muted: true } }),
    };
    const isNew = !known.has(asset.id);
    known.add(asset.id);
    return [...(isNew ? [{ op: 'put' as const, table: 'assets' as const, value: asset }] : []), { op: 'put', table: 'layers', value }];
  });
  return { operations, ids };
}

const isBlank = (piece: Piece, frame: Scene) =>
  !piece.index.layersOf.has(frame.id) && threadsOf(piece, frame.id).length === 0 && /^Frame \d+$/.test(frame.name);

const baseName = (file: string) =>
  cutText(
    mendedText(file)
      .replace(/^.*[\\/]/, '')
      .replace(/\.[a-z0-9]{1,5}$/i, '')
      .trim(),
    110
  ) || 'Page';

/** A copy of a frame with its layers and threads, right behind it. */
export function duplicateFrame(piece: Piece, id: string, makeId: MakeId): { operations: Operation[]; id: string } {
  const scene = piece.scenes.get(id);
  if (!scene) return { operations: [], id };
  const made = makeId();
  const { operations, names } = pasteScene(copyScene(piece, id), made, makeId);
  // What its states change and what happens in its time is about the copies.
  const copy: Scene = { ...renamedScene(scene, names), id: made, name: freeName(piece, `${scene.name} copy`), order: keyAfter(piece, id) };
  return { id: copy.id, operations: [{ op: 'put', table: 'scenes', value: copy }, ...operations] };
}

/** Moves frames so that they stand before another one (null: at the end), keeping their own order. */
export function moveFrames(piece: Piece, ids: readonly string[], before: string | null): Operation[] {
  const moving = new Set(ids);
  const rest = framesOf(piece).filter((frame) => !moving.has(frame.id));
  const at = before === null ? rest.length : rest.findIndex((frame) => frame.id === before);
  if (at < 0) return [];
  const moved = [...moving].flatMap((id) => piece.scenes.get(id) ?? []).sort(byOrder);
  const keys = keysBetween(rest[at - 1]?.order ?? null, rest[at]?.order ?? null, moved.length);
  return moved.map((frame, i) => ({ op: 'set', table: 'scenes', id: frame.id, path: ['order'], value: keys[i] }));
}
