import type { MakeId } from '../make-id.ts';
import { byOrder, framesOf, type Layer, type Piece, type Scene, type Thread, type Variable } from '../../piece/piece.ts';
import { takeName } from '../../words.ts';
import { keysBetween, keyBetween } from '../order.ts';
import type { Operation } from '../operation.ts';
import { copyScene, pasteScene } from './clip.ts';
import { ledTo, renamedScene, renamedVariable } from './remap.ts';

/** The keys between which frames come right after another; at the end if none is named. */
function gapAfter(piece: Piece, after: string | null): [before: string | null, behind: string | null] {
  const frames = framesOf(piece);
  const at = after === null ? frames.length - 1 : frames.findIndex((frame) => frame.id === after);
  return [frames[at]?.order ?? null, frames[at + 1]?.order ?? null];
}

/** Has a piece begin with a frame that begins with none yet. */
const beginningWith = ({ head }: Piece, frame: string): Operation[] =>
  head.start.length ? [] : [{ op: 'set', table: 'piece', id: head.id, path: ['start'], value: [frame] }];

/** `Frame 3`, or with a number behind it where the name is taken. */
export const freeName = (piece: Piece, wanted: string): string => takeName(new Set(framesOf(piece).map((frame) => frame.name)), wanted);

const emptyFrame = ({ head: { width, height } }: Piece, called: Called): Scene => ({ use: 'frame', width, height, background: '#ffffff', ...called });

export function newFrame(piece: Piece, id: string, options: { name?: string; after?: string | null; draft?: boolean } = {}): Operation[] {
  const name = freeName(piece, options.name ?? `Frame ${piece.scenes.size + 1}`);
  // It goes into the bundle of the frame that it comes after.
  const bundle = piece.scenes.get(options.after ?? '')?.bundle;
  const order = keyBetween(...gapAfter(piece, options.after ?? null));
  const scene = emptyFrame(piece, { id, name, order, ...(bundle !== undefined && { bundle }) });
  return [{ op: 'put', table: 'scenes', value: options.draft ? { ...scene, draft: true } : scene }, ...beginningWith(piece, id)];
}

/** A copy of a frame with its layers, threads and variables, right behind it. */
export function duplicateFrame(piece: Piece, id: string, makeId: MakeId): { operations: Operation[]; id: string } {
  const scene = piece.scenes.get(id);
  if (!scene) return { operations: [], id };
  const made = makeId();
  return {
    id: made,
    operations: copied(piece, scene, { id: made, name: freeName(piece, `${scene.name} copy`), order: keyBetween(...gapAfter(piece, id)) }, makeId),
  };
}

type Called = Pick<Scene, 'id' | 'name' | 'order'> & Partial<Pick<Scene, 'bundle'>>;

/** A frame once more, under another name: what its states change and what happens in its time is about the copies. */
function copied(piece: Piece, scene: Scene, called: Called, makeId: MakeId): Operation[] {
  const own = [...piece.variables.values()].filter((variable) => variable.scene === scene.id);
  const renamed = own.map(({ id }) => [id, makeId()] as const);
  const { operations, names } = pasteScene(copyScene(piece, scene.id), called.id, makeId, renamed);
  const variables = own.map((variable, i): Operation => ({
    op: 'put',
    table: 'variables',
    value: { ...renamedVariable(variable, names), id: renamed[i]![1], scene: called.id } as Variable,
  }));
  return [{ op: 'put', table: 'scenes', value: { ...renamedScene(scene, names), ...called } }, ...variables, ...operations];
}

/** Several frames that are made at once. */
export interface Section {
  /** What they are called, in order. */
  readonly names: readonly string[];
  /** The frame that they come after; null for the end. */
  readonly after: string | null;
  /** The frame that each is a copy of; null for empty ones. */
  readonly like: string | null;
  /** Whether what leads from that to the frame behind it leads on from each to the next. */
  readonly leadsOn: boolean;
  /** The bundle that they are in; the one of the frame that they come after where none is named. */
  readonly bundle?: string;
}

/**
 * A section of frames by their names. Copies take the name of their frame into the texts that said that of the frame they are copies of;
 * what led on from that leads on to the next of them, and from the last of them to where it led.
 */
export function newSection(piece: Piece, section: Section, makeId: MakeId): { operations: Operation[]; ids: string[] } {
  const { names, after, like, leadsOn, bundle = piece.scenes.get(after ?? '')?.bundle } = section;
  const orders = keysBetween(...gapAfter(piece, after), names.length);
  const taken = new Set(framesOf(piece).map(({ name }) => name));
  const made = names.map((name, i): Called => {
    return { id: makeId(), name: takeName(taken, name), order: orders[i]!, ...(bundle !== undefined && { bundle }) };
  });
  const source = like === null ? undefined : piece.scenes.get(like);
  const next = leadsOn ? nextOf(piece, like) : null;
  const operations = made.flatMap((called, i): Operation[] => {
    if (!source) return [{ op: 'put', table: 'scenes', value: emptyFrame(piece, called) }];
    const on = made[i + 1]?.id;
    return copied(piece, source, called, makeId).map((one) => {
      if (one.op !== 'put') return one;
      if (one.table === 'layers') return { ...one, value: retitled(one.value as Layer, source.name, called.name) };
      return one.table === 'threads' && next !== null && on !== undefined ? { ...one, value: ledTo(one.value as Thread, next, on) } : one;
    });
  });
  return { operations: [...operations, ...(made[0] ? beginningWith(piece, made[0].id) : [])], ids: made.map(({ id }) => id) };
}

/** The frame behind another one; null for the last. */
const nextOf = (piece: Piece, frame: string | null): string | null => {
  const frames = framesOf(piece);
  return frames[frames.findIndex(({ id }) => id === frame) + 1]?.id ?? null;
};

/** Whether anything in a frame leads to the one behind it. */
export function leadsToNext(piece: Piece, frame: string): boolean {
  const next = nextOf(piece, frame);
  return next !== null && copyScene(piece, frame).threads.some((thread) => ledTo(thread, next, '') !== thread);
}

const retitled = (layer: Layer, old: string, name: string): Layer => (layer.text === old ? { ...layer, text: name } : layer);

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
