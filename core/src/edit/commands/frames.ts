import type { MakeId } from '../make-id.ts';
import { byOrder, framesOf, type Piece, type Scene } from '../../piece/piece.ts';
import { takeName } from '../../words.ts';
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
