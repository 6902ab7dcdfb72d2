import { namesIn } from '../../expression/ast.ts';
import { byOrder, framesOf, layerIdsOf, type Layer, type Piece } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { wordsOfAll } from '../../same.ts';
import type { Operation } from '../operation.ts';
import { setBox } from './layers.ts';

/** Layers that stand in several frames under one name, and are meant to be the same there: what one of them is, the others become. */

/** A layer, and one of the same name and type in another frame. */
export interface Twin {
  readonly source: string;
  readonly id: string;
  readonly frame: string;
}

/** The twins of some layers of one frame in all others, in the order of the frames; of several with one name the first is that of the first. */
export function twinsOf(piece: Piece, ids: readonly string[]): Twin[] {
  const wanted = new Set(ids);
  const [frame] = new Set(ids.flatMap((id) => piece.layers.get(id)?.scene ?? []));
  if (frame === undefined) return [];
  const here = named(piece, frame);
  return framesOf(piece).flatMap(({ id: other }) => {
    if (other === frame) return [];
    const there = named(piece, other);
    return [...here].flatMap(([name, layers]) =>
      layers.flatMap(({ id }, i) => {
        const twin = wanted.has(id) ? there.get(name)?.[i] : undefined;
        return twin ? { source: id, id: twin.id, frame: other } : [];
      })
    );
  });
}

/** The layers of a frame by name and type, from back to front. */
function named(piece: Piece, frame: string): ReadonlyMap<string, readonly Layer[]> {
  const found = new Map<string, Layer[]>();
  for (const layer of [...layerIdsOf(piece, frame)].map((id) => piece.layers.get(id)!).sort(byOrder)) {
    const key = `${layer.type} ${layer.part ?? ''} ${layer.name.trim().toLowerCase()}`;
    const others = found.get(key);
    if (others) others.push(layer);
    else found.set(key, [layer]);
  }
  return found;
}

interface TwinKind {
  readonly label: string;
  /** What a layer has of it, as a text to compare; null where that cannot be carried to another frame. */
  readonly of: (program: Program, layer: Layer) => string | null;
  readonly carry: (program: Program, from: Layer, to: Layer) => Operation[];
  /** What a layer has of it, as a text to compare, also where it cannot be carried. */
  readonly written?: (layer: Layer) => string;
}

type Field = 'style' | 'letters' | 'text' | 'looks' | 'hit' | 'bindings';

const set = (to: Layer, field: Field, value: Layer[Field]): Operation => ({
  op: 'set',
  table: 'layers',
  id: to.id,
  path: [field],
  ...(value !== undefined && { value }),
});

const wordsOf = (value: Layer[Field]): string => (typeof value === 'object' ? wordsOfAll(value) : (value ?? ''));

const field = (label: string, name: Field, isOwn: (layer: Layer, piece: Piece) => boolean = () => false): TwinKind => ({
  label,
  of: ({ piece }, layer) => (isOwn(layer, piece) ? null : wordsOf(layer[name])),
  carry: (_, from, to) => [set(to, name, from[name])],
  written: (layer) => wordsOf(layer[name]),
});

/** Whether what is named in an expression, or in the braces of a text, is of one frame, and means nothing in another. */
const speaksOfItsFrame = (piece: Piece, stored: string): boolean => namesIn(stored).some((id) => piece.variables.get(id)?.scene !== null);

const boxOf = (program: Program, { scene, id }: Layer) => program.scenes.get(scene)?.byId.get(id)?.box;

/** What can be carried from a layer to its twins, by name. */
export const twinKinds = {
  place: {
    label: 'place and size',
    of: (program, layer) => {
      const box = boxOf(program, layer);
      return box ? [box.x, box.y, box.width, box.height, layer.pose.rotation ?? 0].join(' ') : null;
    },
    carry: (program, from, to) => {
      const { rotation } = from.pose;
      const turned: Operation = {
        op: 'set',
        table: 'layers',
        id: to.id,
        path: ['pose', 'rotation'],
        ...(rotation !== undefined && { value: rotation }),
      };
      return [...setBox(program, to.scene, to.id, boxOf(program, from)!), ...(rotation === to.pose.rotation ? [] : [turned])];
    },
  },
  paint: field('paint and lines', 'style'),
  letters: field('type', 'letters'),
  words: field('words', 'text', ({ text }, piece) => speaksOfItsFrame(piece, text ?? '')),
  // What a look does to the layers inside speaks of layers of its own frame.
  looks: field('hover, press and other looks', 'looks', ({ looks }) => Object.values(looks ?? {}).some((look) => look?.inside !== undefined)),
  hit: field('the area to press', 'hit'),
  bindings: field('what it is bound to', 'bindings', ({ bindings }, piece) => speaksOfItsFrame(piece, Object.values(bindings ?? {}).join(' '))),
} as const satisfies Record<string, TwinKind>;

export type Shared = keyof typeof twinKinds;

/** Those twins that are otherwise than what they are twins of, in one way. */
export function unlikeIn(program: Program, twins: readonly Twin[], kind: Shared): Twin[] {
  const { of } = twinKinds[kind] as TwinKind;
  return twinsWhere(program, twins, (from, to) => {
    const wanted = of(program, from);
    return wanted !== null && of(program, to) !== wanted;
  });
}

/** Those twins that stay otherwise in one way, since it speaks of what is only in the frame of what they are twins of. */
export function leftIn(program: Program, twins: readonly Twin[], kind: Shared): Twin[] {
  const { of, written } = twinKinds[kind] as TwinKind;
  return written ? twinsWhere(program, twins, (from, to) => of(program, from) === null && written(from) !== written(to)) : [];
}

const twinsWhere = ({ piece: { layers } }: Program, twins: readonly Twin[], isSo: (from: Layer, to: Layer) => boolean): Twin[] =>
  twins.filter(({ source, id }) => {
    const [from, to] = [layers.get(source), layers.get(id)];
    return from !== undefined && to !== undefined && isSo(from, to);
  });

/** Makes twins what they are twins of, in some ways. */
export const carryToTwins = (program: Program, twins: readonly Twin[], kinds: readonly Shared[]): Operation[] =>
  kinds.flatMap((kind) => {
    const { carry } = twinKinds[kind] as TwinKind;
    const { layers } = program.piece;
    return unlikeIn(program, twins, kind).flatMap(({ source, id }) => carry(program, layers.get(source)!, layers.get(id)!));
  });
