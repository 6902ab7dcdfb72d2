import { namesIn } from '../../expression/ast.ts';
import { parseLine, printLine, type LineThread } from '../../lines/line.ts';
import { scopeOf } from '../../lines/scope.ts';
import { byOrder, framesOf, layerIdsOf, threadsOf, type Layer, type Piece, type Thread } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { wordsOfAll } from '../../same.ts';
import type { MakeId } from '../make-id.ts';
import type { Operation } from '../operation.ts';
import { keysBetween } from '../order.ts';
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
  readonly carry: (program: Program, from: Layer, to: Layer, makeId: MakeId) => Operation[];
  /** Whether it means the same for both; where that is not so it cannot be carried between these two. */
  readonly fits?: (program: Program, from: Layer, to: Layer) => boolean;
  /** What a layer has of it, as a text to compare, also where it cannot be carried. */
  readonly written?: (layer: Layer, piece: Piece) => string;
}

type Field = 'style' | 'letters' | 'text' | 'looks' | 'hit' | 'bindings' | (typeof BEHAVES)[number];

const set = (to: Layer, field: Field, value: Layer[Field]): Operation => ({
  op: 'set',
  table: 'layers',
  id: to.id,
  path: [field],
  ...(value !== undefined && { value }),
});

const wordsOf = (value: Layer[Field]): string => (typeof value === 'object' ? wordsOfAll(value) : String(value ?? ''));

const field = (label: string, name: Field, isOwn: (layer: Layer, piece: Piece) => boolean = () => false): TwinKind => ({
  label,
  of: ({ piece }, layer) => (isOwn(layer, piece) ? null : wordsOf(layer[name])),
  carry: (_, from, to) => [set(to, name, from[name])],
  written: (layer) => wordsOf(layer[name]),
});

/** Whether what is named in an expression, or in the braces of a text, is of one frame, and means nothing in another. */
const speaksOfItsFrame = (piece: Piece, stored: string): boolean => namesIn(stored).some((id) => piece.variables.get(id)?.scene !== null);

/** What a layer is to people besides its looks. */
const BEHAVES = ['drag', 'scroll', 'clip', 'pin', 'field', 'media', 'reentry', 'role', 'label', 'turnsAlong'] as const satisfies (keyof Layer)[];

const behavesAs = (layer: Layer): string => wordsOfAll(Object.fromEntries(BEHAVES.map((name) => [name, layer[name]])));

/** A layer's threads as they are read where it stands: what they name is there under the same names in another frame. */
const linesAt = (piece: Piece, { id, scene }: Layer): readonly (readonly [line: string, thread: Thread])[] =>
  threadsOf(piece, id).map((thread) => [`${thread.enabled ? '' : 'off: '}${printLine(thread, scopeOf(piece, scene, id))}`, thread] as const);

const linesAsWords = (piece: Piece, layer: Layer): string =>
  linesAt(piece, layer)
    .map(([line]) => line)
    .join('\n');

/** A thread as it means the same for a layer elsewhere; null where something that it names is not there. */
function threadFor(piece: Piece, thread: Thread, from: Layer, to: Layer): LineThread | null {
  const line = printLine(thread, scopeOf(piece, from.scene, from.id));
  const scope = scopeOf(piece, to.scene, to.id);
  const read = parseLine(line, scope);
  return read.ok && printLine(read.value, scope) === line ? read.value : null;
}

/** Gives a layer the threads of another one: those that say the same already stay the ones they are. */
function carryThreads({ piece }: Program, from: Layer, to: Layer, makeId: MakeId): Operation[] {
  const there = linesAt(piece, to).map(([line, thread]) => ({ line, thread }));
  const wanted = linesAt(piece, from);
  const orders = keysBetween(null, null, wanted.length);
  const operations = wanted.map(([line, thread], i): Operation => {
    const at = there.findIndex((one) => one.line === line);
    const order = orders[i]!;
    if (at >= 0) return { op: 'set', table: 'threads', id: there.splice(at, 1)[0]!.thread.id, path: ['order'], value: order };
    const { cue, branches } = threadFor(piece, thread, from, to)!;
    return { op: 'put', table: 'threads', value: { ...thread, id: makeId(), owner: to.id, order, cue, branches } as Thread };
  });
  return [...there.map(({ thread }): Operation => ({ op: 'remove', table: 'threads', id: thread.id })), ...operations];
}

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
  behaves: {
    label: 'how it behaves',
    of: ({ piece }, layer) => (piece.variables.get(layer.field?.variable ?? '')?.scene ? null : behavesAs(layer)),
    carry: (_, from, to) => BEHAVES.filter((name) => wordsOfAll([from[name]]) !== wordsOfAll([to[name]])).map((name) => set(to, name, from[name])),
    written: behavesAs,
  },
  threads: {
    label: 'threads',
    of: ({ piece }, layer) => linesAsWords(piece, layer),
    fits: ({ piece }, from, to) => threadsOf(piece, from.id).every((thread) => threadFor(piece, thread, from, to) !== null),
    carry: carryThreads,
    written: (layer, piece) => linesAsWords(piece, layer),
  },
  bindings: field('what it is bound to', 'bindings', ({ bindings }, piece) => speaksOfItsFrame(piece, Object.values(bindings ?? {}).join(' '))),
} as const satisfies Record<string, TwinKind>;

export type Shared = keyof typeof twinKinds;

/** Those twins that are otherwise than what they are twins of, in one way. */
export function unlikeIn(program: Program, twins: readonly Twin[], kind: Shared): Twin[] {
  const { of, fits } = twinKinds[kind] as TwinKind;
  return twinsWhere(program, twins, (from, to) => {
    const wanted = of(program, from);
    return wanted !== null && of(program, to) !== wanted && fits?.(program, from, to) !== false;
  });
}

/** Those twins that stay otherwise in one way, since it speaks of what is only in the frame of what they are twins of. */
export function leftIn(program: Program, twins: readonly Twin[], kind: Shared): Twin[] {
  const { of, fits, written } = twinKinds[kind] as TwinKind;
  if (!written) return [];
  const { piece } = program;
  const stays = (from: Layer, to: Layer) => of(program, from) === null || fits?.(program, from, to) === false;
  return twinsWhere(program, twins, (from, to) => written(from, piece) !== written(to, piece) && stays(from, to));
}

const twinsWhere = ({ piece: { layers } }: Program, twins: readonly Twin[], isSo: (from: Layer, to: Layer) => boolean): Twin[] =>
  twins.filter(({ source, id }) => {
    const [from, to] = [layers.get(source), layers.get(id)];
    return from !== undefined && to !== undefined && isSo(from, to);
  });

/** Makes twins what they are twins of, in some ways. */
export const carryToTwins = (program: Program, twins: readonly Twin[], kinds: readonly Shared[], makeId: MakeId): Operation[] =>
  kinds.flatMap((kind) => {
    const { carry } = twinKinds[kind] as TwinKind;
    const { layers } = program.piece;
    return unlikeIn(program, twins, kind).flatMap(({ source, id }) => carry(program, layers.get(source)!, layers.get(id)!, makeId));
  });
