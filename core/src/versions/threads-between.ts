import { printLine } from '../lines/line.ts';
import { scopeFor } from '../lines/scope.ts';
import { byOrder, framesOf, sceneOfThread, scenesOf, threadsOf, type Piece, type Thread } from '../piece/piece.ts';
import { isEqual } from './equal.ts';

export type ThreadChangeKind = 'added' | 'removed' | 'changed' | 'moved';

/** A thread that differs between two versions, as the lines that it is written as. */
export interface ThreadChange {
  readonly thread: string;
  readonly kind: ThreadChangeKind;
  /** The scene it stands in; null for one of the whole piece. */
  readonly scene: string | null;
  /** `Pay`, `Pay, Book`, or `the piece`. */
  readonly at: string;
  readonly before: string | null;
  readonly after: string | null;
  /** What the line does not show: that it is off, and its note. */
  readonly also: readonly string[];
}

/** Every thread that differs, in the order of the frames it stands in. */
export function threadsBetween(before: Piece, after: Piece): readonly ThreadChange[] {
  const changes: ThreadChange[] = [];
  for (const id of new Set([...before.threads.keys(), ...after.threads.keys()])) {
    const [was, is] = [before.threads.get(id), after.threads.get(id)];
    if (was && is && (was === is || isEqual(was, is))) continue;
    changes.push(changeOf(before, after, id, was, is));
  }
  const places = new Map(
    [...framesOf(after), ...scenesOf(after, 'part'), ...scenesOf(after, 'sheet'), ...framesOf(before)].map(({ id }, i) => [id, i] as const)
  );
  const placeOf = ({ scene }: ThreadChange) => (scene === null ? -1 : (places.get(scene) ?? places.size));
  return changes.sort((a, b) => placeOf(a) - placeOf(b) || a.at.localeCompare(b.at) || (a.thread < b.thread ? -1 : 1));
}

function changeOf(before: Piece, after: Piece, id: string, was: Thread | undefined, is: Thread | undefined): ThreadChange {
  const [piece, thread] = is ? ([after, is] as const) : ([before, was!] as const);
  const scene = sceneOfThread(piece, thread);
  const kind = !was ? 'added' : !is ? 'removed' : hasMoved(before, after, was, is) ? 'moved' : 'changed';
  return {
    thread: id,
    kind,
    scene,
    at: ownerWords(piece, thread, scene),
    before: was ? lineOf(before, was) : null,
    after: is ? lineOf(after, is) : null,
    also: was && is ? alsoOf(was, is) : is && !is.enabled ? ['it is off'] : [],
  };
}

const lineOf = (piece: Piece, thread: Thread): string => printLine(thread, scopeFor(piece, thread));

/** It says the same, and stands elsewhere. */
const hasMoved = (before: Piece, after: Piece, was: Thread, is: Thread): boolean =>
  isEqual({ ...was, order: '', owner: '', on: '' }, { ...is, order: '', owner: '', on: '' }) &&
  (was.owner !== is.owner || threadsOf(before, was.owner).indexOf(was) !== threadsOf(after, is.owner).indexOf(is) || byOrder(was, is) !== 0);

function ownerWords(piece: Piece, { on, owner }: Thread, scene: string | null): string {
  if (on === 'piece') return 'the piece';
  const name = (scene !== null && piece.scenes.get(scene)?.name) || 'a frame that is gone';
  return on === 'scene' ? name : `${name}, ${piece.layers.get(owner)?.name ?? 'a layer that is gone'}`;
}

function alsoOf(was: Thread, is: Thread): string[] {
  const also: string[] = [];
  if (was.enabled !== is.enabled) also.push(is.enabled ? 'it is on again' : 'it is off now');
  if (was.note !== is.note) also.push(is.note === undefined ? 'its note is gone' : `its note: ${is.note}`);
  return also;
}
