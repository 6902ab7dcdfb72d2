import { layerIdsOf, threadsOf, type Layer, type Piece } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { takeName } from '../../words.ts';
import { unwrap } from '../../result.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { copyLayers, pasteClip } from './clip.ts';
import { newLayer } from './layers.ts';
import { wireTo } from './threads.ts';

/** A frame that is put down on the scene of another one: there stands what leads to it. */

interface Point {
  readonly x: number;
  readonly y: number;
}

/** The frame that a click on a layer leads to, where that is all its clicks do. */
export function frameLedTo(piece: Piece, id: string): string | null {
  const clicks = threadsOf(piece, id).filter(({ cue }) => cue.type === 'click');
  const steps = clicks.flatMap(({ branches }) => branches.flatMap((branch) => branch.steps));
  const [step] = steps;
  return steps.length === 1 && step!.do === 'go' && step!.target.to === 'frame' ? step!.target.frame : null;
}

/** How high a button is that is made for a frame, and how much room its words have on both sides, in CSS px. */
const BUTTON = { height: 48, room: 24, letter: 9, least: 120 };

/**
 * What leads to a frame, with its middle where that was put down: a button named after it; or, where a layer is given that leads to a
 * frame, one more of that. Gives the operations, and the id of what is made.
 */
export function leadThere(
  settled: Program,
  scene: string,
  frame: string,
  at: Point,
  like: string | null,
  makeId: () => string
): { readonly operations: Operation[]; readonly id: string } | null {
  const { piece } = settled;
  const here = piece.scenes.get(scene);
  const there = piece.scenes.get(frame);
  if (!here || !there) return null;
  const inside = (size: number, room: number, middle: number) => Math.round(Math.max(0, Math.min(room - size, middle - size / 2)));
  const room = { width: here.width, height: Math.max(here.height, here.contentHeight ?? 0) };
  const box = like === null ? undefined : settled.scenes.get(scene)?.byId.get(like)?.box;
  if (like === null || !box) {
    const width = Math.min(room.width, Math.max(BUTTON.least, there.name.length * BUTTON.letter + BUTTON.room * 2));
    const id = makeId();
    const layer: Omit<Layer, 'order' | 'parent'> = {
      id,
      scene,
      name: freeName(piece, scene, there.name),
      type: 'box',
      pose: { x: inside(width, room.width, at.x), y: inside(BUTTON.height, room.height, at.y), width, height: BUTTON.height },
      style: { fill: '#f0b13c', corner: 10 },
      text: withoutBraces(there.name),
    };
    return { operations: wired(piece, [newLayer(piece, layer)], id, frame, makeId), id };
  }
  const offset = { x: inside(box.width, room.width, at.x) - box.x, y: inside(box.height, room.height, at.y) - box.y };
  const { operations, ids } = pasteClip(piece, copyLayers(settled, scene, [like]), scene, makeId, offset);
  const id = ids[0]!;
  const layer = piece.layers.get(like)!;
  const before = piece.scenes.get(frameLedTo(piece, like) ?? '')?.name;
  const words: Operation[] = [
    ...(layer.name === before
      ? [{ op: 'set' as const, table: 'layers' as const, id, path: ['name'], value: freeName(piece, scene, there.name) }]
      : []),
    ...(layer.text !== undefined && layer.text === before
      ? [{ op: 'set' as const, table: 'layers' as const, id, path: ['text'], value: withoutBraces(there.name) }]
      : []),
  ];
  return { operations: wired(piece, [...operations, ...words], id, frame, makeId), id };
}

const wired = (piece: Piece, made: Operation[], id: string, frame: string, makeId: () => string): Operation[] => [
  ...made,
  ...wireTo(unwrap(apply(piece, made)).piece, [id], frame, makeId),
];

const freeName = (piece: Piece, scene: string, name: string): string =>
  takeName(new Set([...layerIdsOf(piece, scene)].map((id) => piece.layers.get(id)!.name)), name);

/** A brace in a name is no expression. */
const withoutBraces = (name: string): string => name.replaceAll(/[{\\]/g, (sign) => `\\${sign}`);
